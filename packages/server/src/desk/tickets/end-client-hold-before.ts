import type { Id } from '@core/ground';
import type { Work } from '../../app/work';

/** The client of a member wrote: had it been on hold for them, it would not be any more. */
export async function endClientHoldBefore(work: Work, ticketId: Id<'ticket'>): Promise<void> {
  await work
    .tx('membership')
    .where({ ticket_id: ticketId })
    .whereNull('ended_at')
    .whereRaw(`was->>'holdReason' = 'client'`)
    .update({ was: work.tx.raw(`was || '{"status":"queued","holdReason":null,"ownStatusId":null}'`) });
}
