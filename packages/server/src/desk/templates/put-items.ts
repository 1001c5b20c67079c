import type { Id } from '@core/ground';
import type { Work } from '../../app/work';

/** Puts items on a ticket's checklist, save those that it has; tells how many were added. */
export async function putItems(work: Work, ticketId: Id<'ticket'>, items: readonly string[]): Promise<number> {
  const there: { text: string; position: number }[] = await work
    .tx('checklist_item')
    .where({ ticket_id: ticketId })
    .select('text', 'position');
  const known = new Set(there.map((i) => i.text.toLowerCase()));
  const fresh = items.filter((text) => !known.has(text.toLowerCase()));
  const first = Math.max(-1, ...there.map((i) => i.position)) + 1;
  if (fresh.length) await work.tx('checklist_item').insert(fresh.map((text, i) => ({ work_id: ticketId, position: first + i, text })));
  return fresh.length;
}
