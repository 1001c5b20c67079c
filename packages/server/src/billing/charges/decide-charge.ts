import {
  allowsDecision,
  CHARGE_DECISIONS,
  chargeAmount,
  STATE_AFTER,
  type ChargeDecision,
  type ChargeStanding,
  type ChargeToStand,
} from '@core/billing';
import { type Id, isRefusal, money, type Outcome, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { changeRow } from '../../app/change-row';
import { plainDecimal } from '../../app/plain-decimal';
import type { Work } from '../../app/work';

type Done = Outcome<{ id: Id<'charge'>; version: number }>;

export interface Decision {
  readonly decision: ChargeDecision;
  readonly reason: string | null;
  readonly quantity: string | null;
  readonly unitPrice: string | null;
}

const TOLD = { approve: 'charge.approved', waive: 'charge.waived', adjust: 'charge.adjusted', reopen: 'charge.reopened' } as const;

/** Decides on a charge; who decided what and why is kept for ever. */
export async function decideCharge(
  work: Work,
  {
    chargeId,
    version,
    form: { decision, reason, quantity, unitPrice },
  }: { readonly chargeId: Id<'charge'>; readonly version: number; readonly form: Decision },
): Promise<Done> {
  const charge = await work.tx('charge').where({ id: chargeId }).forUpdate().first();
  if (!charge) return refuse('not-found', 'There is no such charge.');
  const standing: ChargeStanding = charge.standing;
  if (!allowsDecision(standing, decision))
    return refuse(
      'not-possible-now',
      `A charge that is ${standing} takes ${CHARGE_DECISIONS[standing].join(', ') || 'no decision: correct it by a credit note'}.`,
    );
  const set: Record<string, unknown> = { state: STATE_AFTER[decision] };
  if (decision === 'adjust') {
    const [q, price] = [quantity ?? plainDecimal(charge.quantity), unitPrice ?? plainDecimal(charge.unit_price)];
    const { net, explanation } = chargeAmount({ quantity: q, unit: charge.unit, unitPrice: price, currency: charge.currency });
    Object.assign(set, {
      // A period that recurs is settled by what it was worth, whatever somebody made of it: no run bills the rest.
      ...(charge.cause === 'recurring' ? { settles_minor: charge.settles_minor ?? charge.net_minor } : {}),
      quantity: q,
      unit_price: price,
      net_minor: net.minor,
      explanation: JSON.stringify([...charge.explanation, { rule: `adjusted by ${work.actor.name}: ${reason}` }, ...explanation]),
    });
  }
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
  return changed;
}

/** A stored charge as core asks where it stands. */
export function toStand(charge: Row<'charge', 'currency' | 'billed_minor' | 'state' | 'net_minor'>): ChargeToStand {
  const of = (minor: number) => money(minor, charge.currency);
  const billed = charge.billed_minor;
  return { state: charge.state, net: of(charge.net_minor), billed: billed === null ? null : of(billed) };
}

/** What a decision keeps of how a charge was before. */
export function whatItWas(charge: Row<'charge'>): string {
  const { state, quantity, unit_price, net_minor } = charge;
  return JSON.stringify({ state, quantity, unitPrice: unit_price, netMinor: net_minor });
}
