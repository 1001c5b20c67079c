import { searchWords } from '@core/house';
import type { Knex } from 'knex';
import { formatInstant, type Instant, isRefusal, type Outcome, type Page, plusSeconds, workingSeconds } from '@core/ground';
import { clockWire, type TicketFilter, type TicketRowWire } from '@core/desk';
import { at, wireAt, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { keysetPage, type Sort } from '../../app/keyset-page';
import type { HouseBook } from '../../house';
import { readClocks } from '../clocks/ticket-clock-store';

/** The very words of the indexes of open tickets, so that spans of what falls due are index scans too. */
const DUE = `coalesce(t.due_at, 'infinity'::timestamptz)`;
export const SORTS: Readonly<Record<string, Sort>> = {
  due: { by: DUE, type: 'timestamptz' },
  received: { by: 't.received_at', type: 'timestamptz' },
  changed: { by: 't.changed_at', type: 'timestamptz' },
  owed: { by: `coalesce(t.reply_owed_since, 'infinity'::timestamptz)`, type: 'timestamptz' },
};

/** Where the work of a ticket is, in SQL: its contact's site, else its asset's. @param t the ticket's alias */
export function siteOf(t: string): string {
  return `coalesce((select site_id from contact where id = ${t}.contact_id), (select site_id from asset where id = ${t}.asset_id))`;
}

/** Just what a row shows: a ticket has far more, and its search words are long. */
const ROW_COLUMNS = [
  'id',
  'version',
  'number',
  'subject',
  'kind',
  'status',
  'priority',
  'client_id',
  'assignee_id',
  'contact_id',
  'sender_name',
  'received_at',
  'changed_at',
  'due_at',
  'reply_owed_since',
  'reply_owed_by',
  'look_since',
  'look_is',
  'look_at',
  'is_umbrella',
  'umbrella_id',
  'promise_version_id',
] as const;

/**
 * What a row names, each looked up by its key. As joins, PostgreSQL would spend far longer on finding the best
 * order of them than on reading the hundred rows.
 */
const NAMES: Readonly<Record<string, readonly [string, string]>> = {
  client: ['name', 'client where id = t.client_id'],
  calendar_id: ['calendar_id', 'client where id = t.client_id'],
  contact: ['name', 'contact where id = t.contact_id'],
  desk: ['name', 'desk where id = t.desk_id'],
  assignee: ['name', 'person where id = t.assignee_id'],
  umbrella_number: ['number', 'ticket where id = t.umbrella_id'],
  own_status: ['name', 'own_status where id = t.own_status_id'],
  own_kind: ['name', 'own_kind where id = t.own_kind_id'],
};

/** A ticket as its row in a list shows it. */
export type TicketShown = Row<'ticket', (typeof ROW_COLUMNS)[number]> & {
  readonly client: string | null;
  readonly calendar_id: string | null;
  readonly contact: string | null;
  readonly desk: string | null;
  readonly assignee: string | null;
  readonly umbrella_number: number | null;
  readonly own_status: string | null;
  readonly own_kind: string | null;
};

export async function listTickets(
  db: Db,
  book: HouseBook,
  { filter, now }: { readonly filter: TicketFilter; readonly now: Instant },
): Promise<Outcome<Page<TicketRowWire>>> {
  const select = (rows: Knex.QueryBuilder) =>
    rows.select(
      ...ROW_COLUMNS.map((column) => `t.${column}`),
      ...Object.entries(NAMES).map(([name, [column, from]]) => db.raw(`(select ${column} from ${from}) as ${name}`)),
    );
  const source = { matching: () => narrow(db, filter, now), id: 't.id', sorts: SORTS, select };
  const page = await keysetPage<TicketShown>(db, source, filter);
  return isRefusal(page) ? page : { ...page, rows: await ticketRows(db, book, { rows: page.rows, now }) };
}

/** The tickets that a filter lets through, as rows of t. */
export function narrow(db: Db, filter: TicketFilter, now: Instant): Knex.QueryBuilder {
  const query = db('ticket as t');
  if (filter.state === 'open')
    void query.whereRaw(`t.status not in ('resolved','closed') and (t.kind <> 'unsorted' or t.umbrella_id is not null)`);
  if (filter.state === 'ended') void query.whereIn('t.status', ['resolved', 'closed']);
  if (filter.state === 'unsorted') void query.where('t.kind', 'unsorted').whereNot('t.status', 'closed').whereNull('t.umbrella_id');
  for (const [field, column] of [
    ['deskId', 'desk_id'],
    ['assigneeId', 'assignee_id'],
    ['clientId', 'client_id'],
    ['assetId', 'asset_id'],
    ['priority', 'priority'],
    ['status', 'status'],
    ['ownStatusId', 'own_status_id'],
    ['kind', 'kind'],
    ['ownKindId', 'own_kind_id'],
    ['line', 'line'],
    ['categoryId', 'category_id'],
    ['holdReason', 'hold_reason'],
  ] as const)
    if (filter[field]) void query.where(`t.${column}`, filter[field]);
  if (filter.skillId) void query.whereIn('t.category_id', db('category').where({ skill_id: filter.skillId }).select('id'));
  if (filter.siteId) void query.whereRaw(`${siteOf('t')} = ?`, [filter.siteId]);
  if (filter.notHeld) void query.whereNot('t.status', 'on hold');
  if (filter.visit) void query.where('t.needs_visit', filter.visit === 'yes');
  if (filter.booked) {
    const standing = db('booking as b').whereRaw('b.ticket_id = t.id').whereIn('b.state', ['planned', 'underway']).select(db.raw('1'));
    void (filter.booked === 'yes' ? query.whereExists(standing) : query.whereNotExists(standing));
  }
  // A member's reply is owed on its umbrella, where it is named.
  if (filter.owed) void query.whereNotNull('t.reply_owed_since').whereNull('t.umbrella_id');
  if (filter.look) void query.whereNotNull('t.look_since');
  if (filter.teamId) void query.whereIn('t.assignee_id', db('person').where({ team_id: filter.teamId }).select('id'));
  if (filter.missWithin !== undefined) void query.whereRaw(`${DUE} <= ?`, [at(plusSeconds(now, filter.missWithin * 60))]);
  if (filter.dueFrom) void query.whereRaw(`${DUE} >= ?`, [filter.dueFrom]);
  if (filter.dueTo) void query.whereRaw(`${DUE} < ?`, [filter.dueTo]);
  if (filter.q)
    void (/^#?\d+$/.test(filter.q.trim())
      ? query.where('t.number', Number(filter.q.replace('#', '')))
      : query.whereRaw(`t.search @@ websearch_to_tsquery('english', ?)`, [searchWords(filter.q)]));
  return query;
}

/** Rows with their clocks, read for just those shown. */
export async function ticketRows(
  db: Db,
  book: HouseBook,
  { rows, now }: { readonly rows: readonly TicketShown[]; readonly now: Instant },
): Promise<TicketRowWire[]> {
  const clocks = await readClocks(db, book, {
    tickets: rows.map((t) => ({ id: t.id, promiseVersionId: t.promise_version_id, clientCalendarId: t.calendar_id ?? null })),
    now,
  });
  return rows.map((t) => rowWire(book, { ticket: t, clocks: clocks.get(t.id)!.map(clockWire), now }));
}

export function rowWire(
  book: HouseBook,
  { ticket: t, clocks, now }: { readonly ticket: TicketShown; readonly clocks: TicketRowWire['clocks']; readonly now: Instant },
): TicketRowWire {
  const owedSince = t.reply_owed_since;
  return {
    id: t.id,
    version: t.version,
    number: t.number,
    subject: t.subject,
    kind: t.kind,
    ownKind: t.own_kind,
    status: t.status,
    ownStatus: t.own_status,
    priority: t.priority,
    client: t.client,
    clientId: t.client_id,
    contact: t.contact ?? t.sender_name,
    desk: t.desk,
    assignee: t.assignee,
    assigneeId: t.assignee_id,
    receivedAt: formatInstant(t.received_at),
    changedAt: formatInstant(t.changed_at),
    dueAt: wireAt(t.due_at),
    replyOwedSince: wireAt(owedSince),
    replyOwedBy: t.reply_owed_by,
    owedWorkingSeconds: owedSince === null ? null : workingSeconds(book.house.calendar, owedSince, now),
    look: t.look_since === null ? null : { since: formatInstant(t.look_since), is: t.look_is!, at: t.look_at! },
    unknownSender: t.contact_id === null && !t.is_umbrella,
    isUmbrella: t.is_umbrella,
    // One of a division that its reader does not see is none to them.
    umbrella: t.umbrella_number ? { id: t.umbrella_id!, number: t.umbrella_number } : null,
    clocks,
  };
}
