import type { Id } from '@core/ground';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { storeMove } from '../tickets/store-move';
import { endMembership } from './membership';

/**
 * Resolves the members with their umbrella and ends their membership; their clocks end at the time they were
 * held at. One that was never sorted takes the umbrella's kind, priority and desk. Source: docs/calculations.md, Umbrella.
 */
export async function resolveMembers(work: Work, book: HouseBook, umbrellaId: Id<'ticket'>): Promise<void> {
  const umbrella = (await work.tx('ticket').where({ id: umbrellaId }).first())!;
  const members = await work
    .tx('ticket')
    .where({ umbrella_id: umbrellaId })
    .orderBy('number')
    .select('id', 'status', 'kind', 'impact', 'urgency', 'priority', 'desk_id', 'resolution');
  for (const member of members) {
    const sorted =
      member.kind === 'unsorted'
        ? {
            kind: umbrella.kind,
            impact: umbrella.impact,
            urgency: umbrella.urgency,
            priority: umbrella.priority,
            desk_id: umbrella.desk_id,
          }
        : {};
    await work
      .tx('ticket')
      .where({ id: member.id })
      .update({ ...sorted, resolution: member.resolution ?? umbrella.resolution });
    await endMembership(work, member.id, 'resolved');
    await storeMove(work, book, { ticket: member, version: undefined, to: 'resolved', holdReason: null, when: work.now });
    await work.tell('ticket.resolved-with-umbrella', member.id, {
      umbrella: { ticketId: umbrellaId, number: umbrella.number },
      before: {
        kind: member.kind,
        impact: member.impact,
        urgency: member.urgency,
        priority: member.priority,
        deskId: member.desk_id,
        resolution: member.resolution,
      },
    });
  }
  await work.tx('ticket').where({ id: umbrellaId }).update({ reply_owed_since: null, reply_owed_by: null });
}
