import {
  MOST_NEVER_CHARGED,
  MOST_REASONS,
  NEVER_CHARGED,
  NEVER_CHARGED_DAYS,
  type NeverChargedIs,
  type NeverChargedWire,
} from '@core/billing';
import { dateOf, type Id, type Instant, type LocalDate, money, type Money, plusDays, sumMoney } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { readFeeHints } from '../../desk';
import { itemForClient, netPriceOf } from '../../goods';
import { type HouseBook, spanOfDates } from '../../house';
import { previewEffects, type PreviewedRow } from '../../time';

interface Span {
  readonly from: LocalDate;
  readonly to: LocalDate;
}

interface NeverCharged {
  readonly from: LocalDate;
  readonly sums: { is: NeverChargedIs; count: number; worth: Money }[];
  readonly reasons: { reason: string | null; count: number; worth: Money }[];
  readonly rows: NeverChargedWire[];
}

/** What was done for clients and charged to nobody, the dearest first; sums are over all, also over what is not listed. */
export async function readNeverCharged(
  db: Db,
  book: HouseBook,
  { today, reason }: { readonly today: LocalDate; readonly reason: string | null },
): Promise<NeverCharged> {
  const span = { from: plusDays(today, -NEVER_CHARGED_DAYS), to: today };
  const feeOf = feePrices(db, today);
  const found = [
    ...(await notBillable(db, book, span)),
    ...(await withoutFee(db, book, { span, feeOf })),
    ...(await newOnes(db, book, { span, feeOf, is: 'new person' })),
    ...(await newOnes(db, book, { span, feeOf, is: 'new device' })),
  ];
  const of = (is: NeverChargedIs) => found.filter((f) => f.is === is).sort((a, b) => b.worth.minor - a.worth.minor);
  return {
    from: span.from,
    sums: NEVER_CHARGED.map((is) => ({
      is,
      count: of(is).length,
      worth: sumMoney(
        of(is).map((f) => f.worth),
        book.house.currency,
      ),
    })),
    reasons: reasonsOf(of('not billable'), book),
    rows: NEVER_CHARGED.flatMap((is) =>
      of(is)
        .filter((f) => is !== 'not billable' || f.because === reason)
        .slice(0, MOST_NEVER_CHARGED),
    ),
  };
}

/** Why time is not billable, the most frequent first. */
function reasonsOf(silent: readonly NeverChargedWire[], book: HouseBook): NeverCharged['reasons'] {
  const by = new Map<string | null, NeverChargedWire[]>();
  for (const f of silent) (by.get(f.because) ?? by.set(f.because, []).get(f.because)!).push(f);
  return [...by]
    .map(([reason, rows]) => ({
      reason,
      count: rows.length,
      worth: sumMoney(
        rows.map((r) => r.worth),
        book.house.currency,
      ),
    }))
    .sort((a, b) => b.count - a.count)
    .slice(0, MOST_REASONS);
}

type SilentEntry = PreviewedRow &
  Row<'time_entry', 'note' | 'reason' | 'ticket_id'> & {
    readonly client: string;
    readonly person: string;
    readonly number: number;
    readonly subject: string;
  };

/** Time on clients' tickets that is not billable, at what it would come to. */
async function notBillable(db: Db, book: HouseBook, { from, to }: Span): Promise<NeverChargedWire[]> {
  const span = spanOfDates(book, from, to);
  const rows: SilentEntry[] = await db('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .join('ticket as t', 't.id', 'e.ticket_id')
    .join('client as c', 'c.id', 'e.client_id')
    .join('person as p', 'p.id', 'e.person_id')
    .where({ 'e.billable': false })
    .whereNull('e.removed_at')
    .whereNull('e.corrects')
    .whereNotIn('w.ticket_kind', ['internal', 'flat-fee job'])
    .whereBetween('e.starts_at', [at(span.from), at(span.to)])
    .orderBy('e.starts_at')
    .select('e.*', 'w.ticket_kind', 'c.name as client', 'p.name as person', 't.number', 't.subject');
  const effects = await previewEffects(db, book, { rows: rows.map((row) => ({ ...row, billable: true })) });
  return rows.map((row, n) => ({
    is: 'not billable',
    clientId: row.client_id!,
    client: row.client,
    ticketId: row.ticket_id,
    ticketNumber: row.number,
    on: dateOf(row.starts_at, book.house.zone),
    what: row.note || row.subject,
    person: row.person,
    minutes: row.minutes,
    because: row.reason,
    worth: effects[n]!.amount ?? money(0, book.house.currency),
    isRated: effects[n]!.is !== 'no rate',
  }));
}

type FeeOf = (feeId: Id<'flat_fee'>, clientId: Id<'client'>) => Promise<Money>;

/** What one of a fee comes to for a client, read once each. */
function feePrices(db: Db, on: LocalDate): FeeOf {
  const known = new Map<string, Promise<Money>>();
  const read: FeeOf = async (feeId, clientId) => {
    const fee = (await db('flat_fee').where({ id: feeId }).first('item_id'))!;
    return netPriceOf((await itemForClient(db, { itemId: fee.item_id, clientId, quantity: '1', on }))!).one;
  };
  return (feeId, clientId) => {
    const key = `${feeId} ${clientId}`;
    if (!known.has(key)) known.set(key, read(feeId, clientId));
    return known.get(key)!;
  };
}

interface Priced {
  readonly span: Span;
  readonly feeOf: FeeOf;
}

/** Jobs that are over and look like one with a flat fee, but carry none. */
async function withoutFee(db: Db, book: HouseBook, { span: { from, to }, feeOf }: Priced): Promise<NeverChargedWire[]> {
  const span = spanOfDates(book, from, to);
  const hints = await readFeeHints(
    db,
    (q) =>
      void q
        .whereNotNull('t.client_id')
        .whereNotExists(db('ticket_fee as x').whereRaw('x.ticket_id = t.id').select('x.ticket_id'))
        .whereBetween('t.resolved_at', [at(span.from), at(span.to)]),
  );
  return Promise.all(
    hints.map(async ({ ticket, hint }) => ({
      is: 'no fee' as const,
      clientId: ticket.client_id!,
      client: ticket.client!,
      ticketId: ticket.id,
      ticketNumber: ticket.number,
      on: dateOf(ticket.resolved_at ?? ticket.received_at, book.house.zone),
      what: ticket.subject,
      person: null,
      minutes: null,
      because: `${hint.name}, by ${hint.why}`,
      worth: await feeOf(hint.feeId, ticket.client_id!),
      isRated: true,
    })),
  );
}

type NewOne = Row<'contact', 'id' | 'name' | 'client_id'> & { readonly since: Instant; readonly client: string };

const NEW = {
  'new person': { table: 'contact', of: 't.contact_id', flag: 'for_new_person' },
  'new device': { table: 'asset', of: 't.asset_id', flag: 'for_new_asset' },
} as const;

/** People and devices that came to a client, where there is a fee for such and no ticket of theirs carries it. */
async function newOnes(
  db: Db,
  book: HouseBook,
  { span: { from, to }, feeOf, is }: Priced & { readonly is: keyof typeof NEW },
): Promise<NeverChargedWire[]> {
  const { table, of, flag } = NEW[is];
  const fee = await db('flat_fee').where(flag, true).whereNull('archived_at').orderBy('position').first('id', 'name');
  if (!fee) return [];
  const span = spanOfDates(book, from, to);
  const rows: NewOne[] = await db(`${table} as n`)
    .join('client as c', 'c.id', 'n.client_id')
    .whereBetween('n.since', [at(span.from), at(span.to)])
    .whereNull('n.archived_at')
    .modify((q) => table === 'contact' && void q.where('n.placeholder', false))
    .whereNotExists(
      db('ticket as t')
        .leftJoin('ticket_fee as x', 'x.ticket_id', 't.id')
        .whereRaw('?? = n.id', [of])
        // Somebody said that it is none, or it has one already.
        .where((q) => void q.whereNotNull('x.fee_id').orWhereNotNull('t.no_fee_at'))
        .select('t.id'),
    )
    .orderBy('n.since')
    .select('n.id', 'n.name', 'n.client_id', 'n.since', 'c.name as client');
  return Promise.all(
    rows.map(async (row) => ({
      is,
      clientId: row.client_id,
      client: row.client,
      ticketId: null,
      ticketNumber: null,
      on: dateOf(row.since, book.house.zone),
      what: row.name,
      person: null,
      minutes: null,
      because: fee.name,
      worth: await feeOf(fee.id, row.client_id),
      isRated: true,
    })),
  );
}
