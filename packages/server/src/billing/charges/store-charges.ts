import { isDeepStrictEqual } from 'node:util';
import type { ChargeDraft } from '@core/billing';
import type { Id, LocalDate } from '@core/ground';
import type { Tax } from '@core/goods';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { tellCharges } from './tell-charges';

/** The record that charges come from, by its column. */
export type ChargeSource =
  | { readonly time_entry_id: string }
  | { readonly shared_from: string }
  | { readonly expense_id: string }
  | { readonly ticket_id: string; readonly cause: 'fee' }
  | { readonly contract_line_id: string; readonly contract_id: string; readonly period: string; readonly cause: 'recurring' };

/** Whose a charge is. */
export interface ChargeOwner {
  readonly divisionId: Id<'division'>;
  readonly clientId: Id<'client'>;
  readonly ticketId: Id<'ticket'> | null;
  readonly personId: Id<'person'> | null;
  readonly itemId?: Id<'catalogue_item'>;
  readonly on: LocalDate;
  readonly tax: Tax;
}

export interface WantedCharge {
  readonly draft: ChargeDraft;
  readonly owner: ChargeOwner;
}

/**
 * Brings the charges of a record to what is wanted, by cause and part, and writes only the difference. What was decided on
 * stays as it was decided; what is not charged any more goes, or is withdrawn where documents name it.
 */
export async function storeCharges(work: Work, source: ChargeSource, wanted: readonly WantedCharge[]): Promise<void> {
  const stands: Row<'charge'>[] = await work.tx('charge').where(source).forUpdate();
  const keyOf = (c: Row<'charge', 'cause' | 'part'>) => `${c.cause} ${c.part}`;
  const rows = wanted.map((w) => ({ ...source, ...chargeRow(w) }));
  const known = new Map(stands.map((c) => [keyOf(c), c]));
  const fresh = rows.filter((row) => !known.has(keyOf(row)));
  const changed = rows.flatMap((row) => {
    const there = known.get(keyOf(row));
    return there && isFree(there) && !(there.state === 'proposed' && isSame(there, row)) ? [{ id: there.id, row }] : [];
  });
  const gone = stands.filter((c) => c.state === 'proposed' && isFree(c) && !rows.some((row) => keyOf(row) === keyOf(c)));
  if (fresh.length) await work.tx('charge').insert(fresh);
  for (const { id, row } of changed)
    await work
      .tx('charge')
      .where({ id })
      .update({ ...row, state: 'proposed', version: work.tx.raw('version + 1') });
  await dropCharges(
    work,
    gone.map((c) => c.id),
  );
  const before = changed.flatMap(({ row }) => known.get(keyOf(row)) ?? []);
  await tellCharges(work, [...fresh, ...changed.map((c) => c.row), ...before, ...gone]);
}

/** Charges that nothing charges any more: gone, or withdrawn where documents name them. */
export async function dropCharges(work: Work, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  const named = await work.tx('billing_link').whereIn('charge_id', ids).distinct().pluck('charge_id');
  await work
    .tx('charge')
    .whereIn('id', named)
    .update({ state: 'withdrawn', version: work.tx.raw('version + 1') });
  await work
    .tx('charge')
    .whereIn(
      'id',
      ids.filter((id) => !named.includes(id)),
    )
    .delete();
}

/** A charge as its row, without the record it comes from. */
export function chargeRow({ draft, owner }: WantedCharge) {
  return {
    division_id: owner.divisionId,
    client_id: owner.clientId,
    ticket_id: owner.ticketId,
    person_id: owner.personId,
    ...(owner.itemId === undefined ? {} : { item_id: owner.itemId }),
    on_date: owner.on,
    tax_category: owner.tax.category,
    tax_percent: owner.tax.percent,
    cause: draft.cause,
    part: draft.part,
    kind: draft.kind,
    description: draft.description,
    details: draft.details ?? null,
    quantity: draft.quantity,
    unit: draft.unit,
    unit_price: draft.unitPrice,
    net_minor: draft.net.minor,
    currency: draft.net.currency,
    odd: draft.marks,
    explanation: JSON.stringify(draft.why),
  };
}

/** What was adjusted waits for a decision and stays as it was made all the same, where its period is settled by it. */
const isFree = ({ state, settles_minor }: Row<'charge', 'state' | 'settles_minor'>) =>
  (state === 'proposed' && settles_minor === null) || state === 'withdrawn';

/** Whether a stored charge says just what is wanted; numbers by their value, since the store writes them with all places. */
function isSame(stored: Row<'charge'>, wanted: object): boolean {
  return Object.entries(wanted).every(([name, value]) => {
    const there: unknown = stored[name as keyof Row<'charge'>];
    if (name === 'explanation') return isDeepStrictEqual(there, JSON.parse(value));
    if (FIGURES.includes(name)) return Number(there) === Number(value);
    return isDeepStrictEqual(there, value);
  });
}
const FIGURES = ['quantity', 'unit_price', 'net_minor', 'tax_percent'];
