import { findMentions, type FollowerWire } from '@core/desk';
import type { Id } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Work } from '../../app/work';
import { tellPerson } from '../../house';

export async function readFollowers(db: Db, ticketId: Id<'ticket'>): Promise<FollowerWire[]> {
  return db('follower as f')
    .join('person as p', 'p.id', 'f.person_id')
    .where('f.ticket_id', ticketId)
    .orderBy('p.name')
    .select('p.id', 'p.name');
}

export async function follow(work: Work, ticketId: Id<'ticket'>, personId: Id<'person'>): Promise<void> {
  await work
    .tx('follower')
    .insert({ ticket_id: ticketId, person_id: personId, since: at(work.now) })
    .onConflict()
    .ignore();
}

export async function unfollow(work: Work, ticketId: Id<'ticket'>, personId: Id<'person'>): Promise<void> {
  await work.tx('follower').where({ ticket_id: ticketId, person_id: personId }).delete();
}

/** Lets everybody know who follows a ticket, save who did it and those who are told otherwise. */
export async function tellFollowers(
  work: Work,
  { ticketId, what, but = [] }: { readonly ticketId: Id<'ticket'>; readonly what: string; readonly but?: readonly string[] },
): Promise<void> {
  const followers = await readFollowers(work.tx, ticketId);
  if (!followers.length) return;
  const { number, subject } = (await work.tx('ticket').where({ id: ticketId }).first('number', 'subject'))!;
  for (const { id } of followers)
    if (id !== work.actor.personId && !but.includes(id))
      await tellPerson(work, { personId: id, text: `#${number} ${subject}: ${what}`, ticketId });
}

/** Who is named in a note follows the ticket from then on, and is told. */
export async function takeMentions(work: Work, ticketId: Id<'ticket'>, text: string): Promise<readonly string[]> {
  const people = await work.tx('person').where({ active: true }).select('id', 'name');
  const named = findMentions(text, people).filter((id) => id !== work.actor.personId);
  if (!named.length) return [];
  const { number, subject } = (await work.tx('ticket').where({ id: ticketId }).first('number', 'subject'))!;
  for (const id of named) {
    await follow(work, ticketId, id);
    await tellPerson(work, { personId: id, text: `${work.actor.name} asks for you on #${number} ${subject}: ${text}`, ticketId });
  }
  return named;
}
