import { holds, type Id } from '@core/ground';
import { seesInside } from '@core/desk';
import type { Db } from '../../app/database';
import type { Actor } from '../../app/actor';

/** Whether somebody may read the inside notes and raw mail of a ticket, as its desk says. */
export async function readSeesInside(db: Db, actor: Actor, ticketId: Id<'ticket'>): Promise<boolean> {
  const { rows } = await db.raw(
    `select coalesce(d.inside_reach, 'house') as reach,
       exists (select from desk_line l join person p on p.team_id = l.team_id where l.desk_id = t.desk_id and p.id = :person) as staffs,
       t.assignee_id is not distinct from :person::uuid or exists (select from follower f where f.ticket_id = t.id and f.person_id = :person) as works
     from ticket t left join desk d on d.id = t.desk_id where t.id = :ticket`,
    { person: actor.personId, ticket: ticketId },
  );
  if (!rows[0]) return false;
  const manages = actor.role !== null && holds(actor.role, 'tickets.triage');
  return seesInside({ ...rows[0], manages });
}
