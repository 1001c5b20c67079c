import type { Knex } from 'knex';
import type { PoolClient } from 'pg';
import { CLOCK_NAMES, type ClockReading, DEFAULT_PRIORITY_MATRIX, replayClock } from '@core/desk';
import { storyInstant } from '../demo/load-demo';
import { categoryOfTopic } from '../demo/load-demo-categories';
import { DemoRandom } from '../demo/demo-random';
import type { Instant } from '@core/ground';
import { HouseBook } from '../../house/house/house-book';
import { clockRow, nextDue } from '../../desk/clocks/ticket-clock-store';
import { ticketSecret } from '../../desk/tickets/open-ticket';
import { at } from '../database';
import { CopyRows } from './copy-rows';
import { scaleTicket, type ScaleCast, type ScaleTicket } from './scale-rows';

export interface ScaleOptions {
  readonly tickets: number;
  readonly open: number;
  readonly real: Instant;
}

const SEED = 1_000_003;
const TABLES = ['ticket', 'message', 'ticket_fact', 'ticket_clock'] as const;
/** So many tickets are made before their rows are sent, table by table. */
const BATCH = 20_000;

/**
 * Adds tickets by the hundred thousand, three messages each, to a database that holds the demo. Indexes are put
 * aside while rows are copied and made again after; all of it is one transaction.
 */
export async function loadScale(knex: Knex, { tickets, open, real }: ScaleOptions): Promise<void> {
  const book = new HouseBook();
  await book.load(knex);
  const cast = await readCast(knex, book, storyInstant(real));
  const random = new DemoRandom(SEED);
  await knex.transaction(async (tx) => {
    // What is referred to was read a moment ago; checking each row again would take as long as the rows.
    await tx.raw('set local session_replication_role = replica');
    const indexes = await putIndexesAside(tx);
    const client = await (tx as unknown as { client: { acquireConnection(): Promise<PoolClient> } }).client.acquireConnection();
    const { rows } = await tx.raw('select coalesce(max(number), 4000)::int as last from ticket');
    let number = rows[0].last as number;
    for (let left = tickets; left > 0; left -= BATCH) {
      const batch = Array.from({ length: Math.min(left, BATCH) }, (_, i) =>
        scaleTicket({ random, cast, number: ++number, open: left - i <= open }),
      );
      await copyBatch({ client, book, cast, batch });
    }
    await tx.raw(`select setval('ticket_number', ?)`, [number]);
    for (const definition of indexes) await tx.raw(definition);
  });
  await knex.raw('vacuum analyze ticket, message, ticket_fact, ticket_clock');
}

async function putIndexesAside(tx: Knex.Transaction): Promise<string[]> {
  const { rows } = await tx.raw(
    `select i.indexname, i.indexdef from pg_indexes i where i.schemaname = 'public' and i.tablename = any(?)
       and not exists (select 1 from pg_constraint c where c.conname = i.indexname)`,
    [[...TABLES]],
  );
  for (const { indexname } of rows as { indexname: string }[]) await tx.raw('drop index ??', [indexname]);
  return (rows as { indexdef: string }[]).map((row) => row.indexdef);
}

async function readCast(knex: Knex, book: HouseBook, now: Instant): Promise<ScaleCast> {
  const contacts = await knex('contact').whereNull('archived_at').select('id', 'name', 'email', 'client_id');
  const clients = await knex('client').orderBy('number').select('id', 'calendar_id');
  const categories = await knex('category').whereNotNull('parent_id').select('id', 'name');
  const division = (await knex('division').orderBy('name').first('id'))!;
  return {
    now,
    divisionId: division.id,
    promiseVersionId: book.house.promiseVersionId,
    clients: clients.map((c) => ({ id: c.id, calendarId: c.calendar_id, contacts: contacts.filter((k) => k.client_id === c.id) })),
    desks: await knex('desk').orderBy('position').pluck('id'),
    people: await knex('person').where({ technician: true }).orderBy('name').pluck('id'),
    categoryOf: (topic) => categoryOfTopic(categories, topic.subjects[0]!),
    priorityOf: (topic) => DEFAULT_PRIORITY_MATRIX[topic.impact][topic.urgency],
  };
}

const TICKET_COLUMNS =
  'id division_id number secret subject kind status hold_reason outcome impact urgency priority client_id contact_id desk_id line category_id assignee_id sender_email sender_name promise_version_id received_at changed_at resolved_at closed_at reply_owed_since reply_owed_by due_at'.split(
    ' ',
  );
const MESSAGE_COLUMNS =
  'ticket_id at direction visibility author_contact_id author_person_id author_name author_email to_addresses subject text message_id left_at'.split(
    ' ',
  );

async function copyBatch({
  client,
  book,
  cast,
  batch,
}: {
  readonly client: PoolClient;
  readonly book: HouseBook;
  readonly cast: ScaleCast;
  readonly batch: readonly ScaleTicket[];
}): Promise<void> {
  const clocks = new Map<string, ClockReading[]>();
  for (const t of batch) if (t.facts.length) clocks.set(t.id, readingsOf(book, cast, t));
  const tickets = new CopyRows(client, 'ticket', TICKET_COLUMNS);
  for (const t of batch) await tickets.add(ticketRow(cast, t, clocks.get(t.id) ?? []));
  await tickets.end();
  const messages = new CopyRows(client, 'message', MESSAGE_COLUMNS);
  for (const t of batch) for (const row of messageRows(book, cast, t)) await messages.add(row);
  await messages.end();
  const facts = new CopyRows(client, 'ticket_fact', ['ticket_id', 'at', 'fact', 'detail', 'written_at']);
  for (const t of batch)
    for (const { at: when, is, ...detail } of t.facts)
      await facts.add({ ticket_id: t.id, at: at(when), fact: is, detail: JSON.stringify(detail), written_at: at(when) });
  await facts.end();
  const first = clocks.entries().next().value;
  if (!first) return;
  const stored = new CopyRows(client, 'ticket_clock', Object.keys(clockRow(first[0], first[1][0]!)));
  for (const [id, readings] of clocks)
    for (const reading of readings) await stored.add(clockRow(id, reading) as Record<string, string | number | null>);
  await stored.end();
}

function readingsOf(book: HouseBook, cast: ScaleCast, t: ScaleTicket): ClockReading[] {
  const promise = book.promise(cast.promiseVersionId, t.client.calendarId);
  return CLOCK_NAMES.map((name) => replayClock({ clock: name, promise, facts: t.facts, now: cast.now })).filter(
    (r): r is ClockReading => r !== undefined,
  );
}

function ticketRow(cast: ScaleCast, t: ScaleTicket, readings: readonly ClockReading[]) {
  const ended = t.resolvedAt === null ? null : at(t.resolvedAt);
  return {
    id: t.id,
    division_id: cast.divisionId,
    number: t.number,
    secret: ticketSecret(),
    subject: t.subject,
    kind: t.kind,
    status: t.status,
    hold_reason: t.status === 'on hold' ? 'client' : null,
    outcome: ended === null ? null : 'solved',
    impact: t.impact,
    urgency: t.urgency,
    priority: t.priority,
    client_id: t.client.id,
    contact_id: t.contact.id,
    desk_id: t.deskId,
    line: 'first',
    category_id: t.categoryId,
    assignee_id: t.assigneeId,
    sender_email: t.contact.email,
    sender_name: t.contact.name,
    promise_version_id: cast.promiseVersionId,
    received_at: at(t.receivedAt),
    changed_at: at(t.changedAt),
    resolved_at: ended,
    closed_at: ended,
    reply_owed_since: t.owedSince === null ? null : at(t.owedSince),
    reply_owed_by: t.owedSince === null ? null : t.contact.name,
    due_at: nextDue(readings),
  };
}

function messageRows(book: HouseBook, cast: ScaleCast, t: ScaleTicket) {
  return t.messages.map((m, i) => ({
    ticket_id: t.id,
    at: at(m.at),
    direction: m.out ? 'out' : 'in',
    visibility: 'public',
    author_contact_id: m.out ? null : t.contact.id,
    author_person_id: m.out ? (t.assigneeId ?? cast.people[0]!) : null,
    author_name: m.out ? 'Drumline' : t.contact.name,
    author_email: m.out ? null : t.contact.email,
    to_addresses: [m.out ? t.contact.email : book.house.mailFrom],
    subject: t.subject,
    text: m.text,
    message_id: `<scale.${t.number}.${i}@pellworth.example>`,
    left_at: m.out ? at(m.at) : null,
  }));
}
