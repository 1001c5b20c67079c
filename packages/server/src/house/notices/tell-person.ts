import type { Id } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';

/** Lets a person know; it stands under what is new until they have seen it. */
export async function tellPerson(
  work: Work,
  {
    personId,
    text,
    ticketId,
    urgent = false,
  }: { readonly personId: Id<'person'>; readonly text: string; readonly ticketId: Id<'ticket'> | null; readonly urgent?: boolean },
): Promise<void> {
  const [row] = await work
    .tx('notice')
    .insert({ person_id: personId, at: at(work.now), text: text.slice(0, 500), ticket_id: ticketId, urgent })
    .returning('id');
  await work.emit('notice', row!.id, { personId });
}
