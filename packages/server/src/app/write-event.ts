import type { Knex } from 'knex';
import type { Instant } from '@core/ground';
import { type EventSubject, type EventType, type Happenings, subjectOf, versionOf } from '@core/events';
import { type Actor, whoColumns } from './actor';
import { at } from './database';

/**
 * The ticket, client and division a record belongs to, for the log to carry. One row at most; of a record that has none, or
 * is none, the event is kept all the same.
 */
const BELONGS: Readonly<Partial<Record<EventSubject, string>>> = {
  ticket: 'select id as ticket_id, client_id, division_id from ticket where id = :id',
  client: 'select null::uuid as ticket_id, id as client_id, division_id from client where id = :id',
  contact:
    'select null::uuid as ticket_id, c.id as client_id, c.division_id from contact k join client c on c.id = k.client_id where k.id = :id',
  asset:
    'select null::uuid as ticket_id, c.id as client_id, c.division_id from asset a join client c on c.id = a.client_id where a.id = :id',
  charge: 'select ticket_id, client_id, division_id from charge where id = :id',
  invoice: 'select null::uuid as ticket_id, client_id, division_id from invoice where id = :id',
  payment: 'select null::uuid as ticket_id, client_id, null::uuid as division_id from payment where id = :id',
  booking: 'select b.ticket_id, w.client_id, w.division_id from booking b join work_facts w on w.id = b.work_id where b.id = :id',
  entry: 'select e.ticket_id, w.client_id, w.division_id from time_entry e join work_facts w on w.id = e.work_id where e.id = :id',
  expense: 'select x.ticket_id, w.client_id, w.division_id from expense x join work_facts w on w.id = x.work_id where x.id = :id',
};
const NOTHING = 'select null::uuid as ticket_id, null::uuid as client_id, null::uuid as division_id where false';

export interface NewEvent<Type extends EventType = EventType> {
  readonly type: Type;
  /** Of the record it happened to. */
  readonly id: string;
  readonly data: Happenings[Type];
}

/** Where an event is written: when, by whom, and the event that led to it. */
export interface Writing {
  readonly now: Instant;
  readonly actor: Actor;
  readonly cause: string | null;
}

/**
 * Writes an event to the log, and the live events of its record and of the ticket that belongs to: one statement.
 * @returns its id
 */
export async function writeEvent(tx: Knex.Transaction, { now, actor, cause }: Writing, { type, id, data }: NewEvent): Promise<string> {
  const subject = subjectOf(type);
  const by = whoColumns(actor);
  const { rows } = await tx.raw(
    `with written as (
       insert into event (type, version, data, subject, subject_id, ticket_id, client_id, division_id, happened_at, who, who_id, who_name, via, cause_id)
       select :type, :version, :data::jsonb, :subject, :id, b.ticket_id, b.client_id, b.division_id, :now, :who, :whoId, :whoName, :via, :cause
         from (select 1) one left join (${BELONGS[subject] ?? NOTHING}) b on true
       returning id, subject, subject_id, ticket_id, division_id
     ), sent as (
       insert into outbox (topic, subject_id, payload, at, division_id)
       select subject, subject_id, :live::jsonb, :now::timestamptz, division_id from written
       union all
       select 'ticket', ticket_id, :live::jsonb, :now::timestamptz, division_id from written where subject <> 'ticket' and ticket_id is not null
     )
     select id from written`,
    {
      type,
      version: versionOf(type),
      data: JSON.stringify(data),
      subject,
      id,
      now: at(now),
      who: by.who,
      whoId: by.who_id,
      whoName: by.who_name,
      via: actor.via,
      cause,
      live: JSON.stringify({ by: actor.personId }),
    },
  );
  return (rows as { id: string }[])[0]!.id;
}

/** A live event without a story, of the division that its record belongs to. */
export async function writeLive(
  tx: Knex.Transaction,
  { now, actor }: Pick<Writing, 'now' | 'actor'>,
  topic: string,
  id: string | null,
): Promise<void> {
  await tx.raw(
    `insert into outbox (topic, subject_id, payload, at, division_id)
     select :topic, :id, :live::jsonb, :now::timestamptz, b.division_id from (select 1) one left join (${(id && BELONGS[topic as EventSubject]) || NOTHING}) b on true`,
    { topic, id, live: JSON.stringify({ by: actor.personId }), now: at(now) } as never,
  );
}
