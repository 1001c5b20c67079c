import { dateOf } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { tellCharges } from './tell-charges';

/** What is held until today or before waits again: where it was, for a decision or for an invoice. */
export async function giveHeldBack(work: Work): Promise<void> {
  const charges: Row<'charge', 'id' | 'ticket_id' | 'client_id'>[] = await work
    .tx('charge')
    .where('held_until', '<=', dateOf(work.now, work.book.house.zone))
    .update({ held_until: null, held_why: null, version: work.tx.raw('version + 1') })
    .returning(['id', 'ticket_id', 'client_id']);
  for (const { id } of charges) await work.tell('charge.given-back', id, { reason: null });
  await tellCharges(work, charges);
}
