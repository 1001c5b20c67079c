import { chargeAmount, decisionsOf, STATE_AFTER, type ChargeDecision, type ChargeStanding, type ChargeToStand } from '@core/billing';
import { dateOf, type Id, isRefusal, type LocalDate, money, type Outcome, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { changeRow } from '../../app/change-row';
import { plainDecimal } from '../../app/plain-decimal';
import type { Work } from '../../app/work';
import { lookAtCharges } from './look-at-charges';

type Done = Outcome<{ id: Id<'charge'>; version: number }>;

export interface Decision {
  readonly decision: ChargeDecision;
  readonly reason: string | null;
  /** What of it is adjusted; the rest stays as it is. */
  readonly quantity?: string | null;
  readonly unitPrice?: string | null;
  readonly description?: string | null;
  /** Of a charge that is held. */
  readonly until?: LocalDate | null;
}

const TOLD = {
  approve: 'charge.approved',
  waive: 'charge.waived',
  adjust: 'charge.adjusted',
  reopen: 'charge.reopened',
  hold: 'charge.held',
  'give back': 'charge.given-back',
} as const;

/** Decides on a charge; who decided what and why is kept for ever. */
export async function decideCharge(
  work: Work,
  { chargeId, version, form }: { readonly chargeId: Id<'charge'>; readonly version: number; readonly form: Decision },
): Promise<Done> {
  const { decision, reason } = form;
  const charge = await work.tx('charge').where({ id: chargeId }).forUpdate().first();
  if (!charge) return refuse('not-found', 'There is no such charge.');
  const standing: ChargeStanding = charge.standing;
  const takes = decisionsOf(standing, charge.held_until !== null);
  if (!takes.includes(decision))
    return refuse(
      'not-possible-now',
      `A charge that is ${charge.held_until === null ? standing : 'held'} takes ${takes.join(', ') || 'no decision: correct it by a credit note'}.`,
    );
  const today = dateOf(work.now, work.book.house.zone);
  if (decision === 'hold' && form.until! <= today)
    return refuse('invalid', 'A charge is held until a day after today.', { until: 'a day after today' });
  const set = whatItBecomes(work, charge, form);
  const changed = await changeRow(work, { table: 'charge', id: chargeId, version, set });
  if (isRefusal(changed)) return changed;
  await work.tx('charge_decision').insert({
    charge_id: chargeId,
    at: at(work.now),
    ...whoColumns(work.actor),
    decision,
    reason,
    was: whatItWas(charge),
  });
  await work.tell(TOLD[decision], chargeId, { reason });
  if (decision === 'adjust' || decision === 'reopen') await lookAtCharges(work, { chargeIds: [chargeId] });
  return changed;
}

/** The columns that a decision sets. */
function whatItBecomes(work: Work, charge: Row<'charge'>, { decision, reason, ...form }: Decision): Record<string, unknown> {
  if (decision === 'hold') return { held_until: form.until, held_why: reason };
  if (decision === 'give back') return { held_until: null, held_why: null };
  const state = { state: STATE_AFTER[decision] };
  if (decision !== 'adjust') return state;
  const [quantity, price] = [form.quantity ?? plainDecimal(charge.quantity), form.unitPrice ?? plainDecimal(charge.unit_price)];
  const { net, explanation } = chargeAmount({ quantity, unit: charge.unit, unitPrice: price, currency: charge.currency });
  return {
    ...state,
    // A period that recurs is settled by what it was worth, whatever somebody made of it: no run bills the rest.
    ...(charge.cause === 'recurring' ? { settles_minor: charge.settles_minor ?? charge.net_minor } : {}),
    description: form.description ?? charge.description,
    quantity,
    unit_price: price,
    net_minor: net.minor,
    explanation: JSON.stringify([...charge.explanation, { rule: `adjusted by ${work.actor.name}: ${reason}` }, ...explanation]),
  };
}

/** A stored charge as core asks where it stands. */
export function toStand(charge: Row<'charge', 'currency' | 'billed_minor' | 'state' | 'net_minor'>): ChargeToStand {
  const of = (minor: number) => money(minor, charge.currency);
  const billed = charge.billed_minor;
  return { state: charge.state, net: of(charge.net_minor), billed: billed === null ? null : of(billed) };
}

/** What a decision keeps of how a charge was before. */
export function whatItWas(charge: Row<'charge'>): string {
  const { state, quantity, unit_price, net_minor, description } = charge;
  return JSON.stringify({ state, quantity, unitPrice: unit_price, netMinor: net_minor, description } satisfies KeptAsItWas);
}
export interface KeptAsItWas {
  readonly state: Row<'charge'>['state'];
  readonly quantity: string;
  readonly unitPrice: string;
  readonly netMinor: number;
  /** Not kept of what was decided before texts could be adjusted. */
  readonly description?: string;
}
