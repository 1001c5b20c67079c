import { isRefusal, type Outcome } from '@core/ground';
import type { EventType, Happenings } from '@core/events';
import { chargeExpense } from '../billing/charges/charge-expense';
import { chargeFeeThatWasAgreed, chargeFeeThatWasSet, dropFeeThatWasRemoved } from '../billing/charges/charge-fee';
import { chargeChangedContract, chargeContractAnew } from '../billing/charges/follow-contract';
import { chargeChangedTime, chargeCorrection, chargeTime } from '../billing/charges/follow-time';
import { lookAtTicketsCharges } from '../billing/charges/look-at-charges';
import { moveMoneyToClient, moveTimeToMembersClient, placeTimeAnew, rateTimeAnew } from '../billing/charges/move-time';
import { dropLine, followLines } from '../billing/recurring-charges/propose-recurring';
import { followApproval, followContract, followDecision, followDocument, followTerms } from '../billing/runs/follow-decisions';
import { workOutAnew } from '../billing/runs/work-out-anew';
import { endSeatsOfLeaver, giveSeatsBack } from '../contracts/seats/leavers';
import { countSentUpdate, resolveMembersToo, returnMembersToo, takeChangedClient } from '../desk/umbrellas/follow-members';
import { endOpeningsOfBooked } from '../scheduling/openings/follow-bookings';
import { settleChangedHome, settleChangedSite } from '../scheduling/travel/follow-places';
import { startTimerOfBooking } from '../time/time-entries/follow-bookings';
import { Refused } from './refused';
import type { NewEvent } from './write-event';
import type { Work } from './work';

/** @param work of the same transaction, with the event as its cause. A refusal refuses the whole command. */
type Handler<Type extends EventType> = (work: Work, id: string, data: Happenings[Type]) => Promise<Outcome<unknown>>;

/**
 * What each thing that happened leads to in other domains, in the same transaction and in this order. Those who handle are
 * declared functions: this list stands in a circle with what they import, where only those are there from the start.
 */
const HANDLED: { readonly [Type in EventType]?: readonly Handler<Type>[] } = {
  'entry.recorded': [chargeTime],
  'entry.changed': [chargeChangedTime],
  'entry.corrected': [chargeCorrection],
  'entry.removed': [chargeTime],
  'entry.contract-chosen': [chargeTime],
  'expense.added': [chargeExpense],
  'expense.changed': [chargeExpense],
  'expense.removed': [chargeExpense],
  'expense.receipt-put': [chargeExpense],
  'client.billing-terms-set': [followTerms],
  'setup.billing-terms-set': [workOutAnew],
  'contract.agreed': [chargeContractAnew],
  'contract.went-on': [chargeContractAnew],
  'contract.changed': [chargeChangedContract, followLines, followContract],
  'contract.allowance-added': [chargeContractAnew],
  'contract.allowance-changed': [chargeContractAnew],
  'contract.grant-set': [chargeContractAnew],
  'contract.grant-taken-away': [chargeContractAnew],
  'contract.block-added': [chargeContractAnew],
  'contract.readings-added': [followLines, followContract],
  'contract.cover-set': [chargeContractAnew],
  'contract.meant-for-set': [chargeContractAnew],
  'contract.rates-set': [chargeContractAnew],
  'contract.roundings-set': [chargeContractAnew],
  'contract.line-taken-away': [dropLine, chargeContractAnew, followContract],
  'contract.line-given-back': [chargeContractAnew, followLines, followContract],
  'contract.line-ended': [followLines, followContract],
  'contract.price-set': [followLines, followContract],
  'contract.prices-raised': [followLines, followContract],
  'contract.price-taken-away': [followLines, followContract],
  'contract.discount-given': [followLines, followContract],
  'contract.discount-taken-away': [followLines, followContract],
  'contract.seats-added': [followLines, followContract],
  'contract.seats-taken-off': [followLines, followContract],
  'contract.seat-ended': [followLines, followContract],
  'contract.seats-ended': [followLines, followContract],
  'contact.put-away': [endSeatsOfLeaver],
  'contact.brought-back': [giveSeatsBack],
  'asset.put-away': [endSeatsOfLeaver],
  'asset.brought-back': [giveSeatsBack],
  'ticket.moved': [resolveMembersToo],
  'ticket.move-undone': [returnMembersToo],
  'ticket.changed': [takeChangedClient, placeTimeAnew],
  'ticket.routed': [placeTimeAnew],
  'ticket.handed-over': [placeTimeAnew],
  'ticket.contract-chosen': [rateTimeAnew],
  'ticket.message-sent': [countSentUpdate],
  'ticket.kind-changed': [rateTimeAnew],
  'ticket.moved-to-client': [moveMoneyToClient],
  'ticket.members-client-set': [moveTimeToMembersClient],
  'ticket.fee-set': [chargeFeeThatWasSet, lookAtTicketsCharges],
  'ticket.fee-answered': [chargeFeeThatWasAgreed, lookAtTicketsCharges],
  'ticket.fee-removed': [dropFeeThatWasRemoved, lookAtTicketsCharges],
  'ticket.estimate-set': [lookAtTicketsCharges],
  'booking.became-sure': [endOpeningsOfBooked],
  'booking.begun': [startTimerOfBooking, endOpeningsOfBooked],
  'contract.recurring-proposed': [followContract],
  'charge.approved': [followDecision],
  'charge.waived': [followDecision],
  'charge.adjusted': [followDecision],
  'charge.reopened': [followDecision],
  'charge.held': [followDecision],
  'charge.given-back': [followDecision],
  'charges.approved': [followApproval],
  'charges.reopened': [followApproval],
  'invoice.issued': [followDocument],
  'client.site-changed': [settleChangedSite],
  'person.home-changed': [settleChangedHome],
};

export async function handleEvent<Type extends EventType>(work: Work, event: NewEvent<Type>): Promise<void> {
  for (const handle of HANDLED[event.type] ?? []) {
    const outcome = await handle(work, event.id, event.data);
    if (isRefusal(outcome)) throw new Refused(outcome);
  }
}
