import { type Id, type Outcome, refuse } from '@core/ground';
import type { Work } from '../../app/work';

/** Gives files that were put to a reply or note to its message. They must be the writer's own, on this ticket. */
export async function attachUploads(
  work: Work,
  { ticketId, messageId, ids }: { readonly ticketId: Id<'ticket'>; readonly messageId: Id<'message'>; readonly ids: readonly string[] },
): Promise<Outcome<void>> {
  if (!ids.length) return;
  const files = await work.tx('upload').whereIn('id', ids).where({ ticket_id: ticketId, person_id: work.actor.personId! });
  if (files.length < new Set(ids).size)
    return refuse('invalid', 'One of the files is not here any more. Put it in again.', { uploadIds: 'files that you put in here' });
  for (const id of ids) {
    const f = files.find((one) => one.id === id)!;
    await work.tx('attachment').insert({ message_id: messageId, name: f.name, media_type: f.media_type, bytes: f.bytes, blob: f.blob });
  }
  await work.tx('upload').whereIn('id', ids).delete();
}
