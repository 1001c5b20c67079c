import type { HoldReason, Status } from '@core/desk';
import type { Id } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';

/** What a member was before it joined, and gets back when it is detached. */
export interface Before {
  readonly status: Status;
  readonly holdReason: HoldReason | null;
  readonly assigneeId: Id<'person'> | null;
  /** Its status under the house's own name; not there on memberships from before there were any. */
  readonly ownStatusId?: Id<'own_status'> | null;
}

/** Ends the membership there is, and gives back what the ticket was before. */
export async function endMembership(work: Work, ticketId: Id<'ticket'>, by: 'detached' | 'resolved'): Promise<Before | undefined> {
  const [ended] = await work
    .tx('membership')
    .where({ ticket_id: ticketId })
    .whereNull('ended_at')
    .update({ ended_at: at(work.now), ended_by: by })
    .returning('was');
  await work.tx('ticket').where({ id: ticketId }).update({ umbrella_id: null });
  return ended?.was as Before | undefined;
}
