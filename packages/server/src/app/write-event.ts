import type { Knex } from 'knex';
import type { Id, Instant } from '@core/ground';
import { type EventType, type Happenings, subjectOf, versionOf } from '@core/events';
import { type Actor, whoColumns } from './actor';
import { at } from './database';

/**
 * The ticket, client, person and division a record belongs to, for the log and screens. One row at most; of a record that has
 * none, or is none, the event is kept all the same.
 */
const BELONGS: Readonly<Record<string, string>> = {
  ticket: 'select id as ticket_id, client_id, assignee_id as person_id, division_id from ticket where id = :id',
  client: 'select null::uuid as ticket_id, id as client_id, null::uuid as person_id, division_id from client where id = :id',
  contact:
    'select null::uuid as ticket_id, c.id as client_id, null::uuid as person_id, c.division_id from contact k join client c on c.id = k.client_id where k.id = :id',
  contract: 'select null::uuid as ticket_id, client_id, null::uuid as person_id, division_id from contract where id = :id',
  asset:
    'select null::uuid as ticket_id, c.id as client_id, null::uuid as person_id, c.division_id from asset a join client c on c.id = a.client_id where a.id = :id',
  charge: 'select ticket_id, client_id, person_id, division_id from charge where id = :id',
  invoice: 'select null::uuid as ticket_id, client_id, null::uuid as person_id, division_id from invoice where id = :id',
  payment: 'select null::uuid as ticket_id, client_id, null::uuid as person_id, null::uuid as division_id from payment where id = :id',
  booking:
    'select b.ticket_id, w.client_id, b.person_id, w.division_id from booking b join work_facts w on w.id = b.work_id where b.id = :id',
  entry:
    'select e.ticket_id, w.client_id, e.person_id, w.division_id from time_entry e join work_facts w on w.id = e.work_id where e.id = :id',
  expense:
    'select x.ticket_id, w.client_id, x.person_id, w.division_id from expense x join work_facts w on w.id = x.work_id where x.id = :id',
  timer: 'select ticket_id, null::uuid as client_id, person_id, null::uuid as division_id from timer where id = :id',
  person: 'select null::uuid as ticket_id, null::uuid as client_id, id as person_id, null::uuid as division_id from person where id = :id',
};
const NOTHING = 'select null::uuid as ticket_id, null::uuid as client_id, null::uuid as person_id, null::uuid as division_id where false';

/** What a live event touches besides its record, where the record does not say. */
export interface Touched {
  readonly ticketId?: Id<'ticket'> | null;
  readonly clientId?: Id<'client'> | null;
  readonly personId?: Id<'person'> | null;
}

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
  const belongs = BELONGS[subject] ?? NOTHING;
  const { rows } = await tx.raw(
    `with b as materialized (${belongs}), written as (
       insert into event (type, version, data, subject, subject_id, ticket_id, client_id, division_id, happened_at, who, who_id, who_name, via, cause_id)
       select :type, :version, :data::jsonb, :subject, :id, b.ticket_id, b.client_id, b.division_id, :now, :who, :whoId, :whoName, :via, :cause
         from (select 1) one left join b on true
       returning id, subject, subject_id, ticket_id, client_id, division_id
     ), sent as (
       insert into outbox (topic, subject_id, payload, at, ticket_id, client_id, person_id, division_id)
       select w.subject, w.subject_id, :live::jsonb, :now::timestamptz, w.ticket_id, w.client_id, b.person_id, w.division_id
         from written w left join b on true
       union all
       select 'ticket', ticket_id, :live::jsonb, :now::timestamptz, ticket_id, client_id, null, division_id
         from written where subject <> 'ticket' and ticket_id is not null
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

/** Live events without a story: one, or one for each of what is touched. */
export async function writeLive(
  tx: Knex.Transaction,
  { now, actor }: Pick<Writing, 'now' | 'actor'>,
  { topic, id, touched }: { readonly topic: string; readonly id: string | null; readonly touched: readonly Touched[] },
): Promise<void> {
  await tx.raw(
    `insert into outbox (topic, subject_id, payload, at, ticket_id, client_id, person_id, division_id)
     select :topic, :id, :live::jsonb, :now::timestamptz, coalesce(t.ticket, b.ticket_id), coalesce(t.client, b.client_id, k.client_id),
            coalesce(t.person, b.person_id), coalesce(b.division_id, k.division_id, c.division_id)
       from unnest(:tickets::uuid[], :clients::uuid[], :people::uuid[]) t (ticket, client, person)
       left join (${(id && BELONGS[topic]) || NOTHING}) b on true
       left join ticket k on k.id = t.ticket
       left join client c on c.id = t.client`,
    {
      topic,
      id,
      live: JSON.stringify({ by: actor.personId }),
      now: at(now),
      tickets: touched.map((t) => t.ticketId ?? null),
      clients: touched.map((t) => t.clientId ?? null),
      people: touched.map((t) => t.personId ?? null),
    } as never,
  );
}
