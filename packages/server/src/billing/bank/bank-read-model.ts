import {
  type BankFilter,
  type BankLineWire,
  type BankStatementWire,
  indexFacts,
  type MatchFacts,
  type MatchIndex,
  type MatchWire,
  proposeMatches,
} from '@core/billing';
import { formatInstant, type Id, isRefusal, money, type Money, type Outcome, type Page } from '@core/ground';
import type { Db } from '../../app/database';
import { containing, keysetPage, type PageQuery, type Sort } from '../../app/keyset-page';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import { bankLineOf, readMatchFacts } from './match-facts';
import { MOST_OPEN, sureOf } from './match-line';

const LINE_SORTS: Readonly<Record<string, Sort>> = {
  booked: { by: 'l.booked_on', type: 'date' },
  amount: { by: 'l.amount_minor', type: 'int' },
  payer: { by: 'l.payer', type: 'text' },
};

type LineRow = Row<'bank_line'> & { readonly statement: string; readonly account: string };

export async function listBankLines(
  db: Db,
  book: HouseBook,
  filter: BankFilter,
): Promise<Outcome<Page<BankLineWire> & { sure: { lines: number; amount: Money } }>> {
  const matching = () =>
    db('bank_line as l')
      .join('bank_statement as s', 's.id', 'l.statement_id')
      .modify((q) => filter.state && void q.where('l.state', filter.state))
      .modify((q) => filter.q && void q.whereRaw(`concat_ws(' ', l.payer, l.text, l.payer_account) ilike ?`, [containing(filter.q)]));
  const select = (q: ReturnType<Db['queryBuilder']>) => q.select('l.*', 's.name as statement', 's.account');
  const page = await keysetPage<LineRow>(db, { matching, id: 'l.id', sorts: LINE_SORTS, select }, filter);
  if (isRefusal(page)) return page;
  const isOpen = !filter.state || filter.state === 'open';
  const open: Row<'bank_line'>[] = isOpen
    ? await db('bank_line').where({ state: 'open' }).orderBy(['booked_on', 'id']).limit(MOST_OPEN)
    : [];
  const facts = open.length ? await readMatchFacts(db) : NOTHING;
  const names = new Map<string, string>((await db('client').select('id', 'name')).map((c) => [c.id, c.name]));
  const matched = await readMatched(db, page.rows);
  const sure = sureOf(open, facts);
  const index = indexFacts(facts);
  const minor = sure.reduce((sum, { line }) => sum + line.amount_minor, 0);
  return {
    ...page,
    rows: page.rows.map((row) => lineWire(row, { index, names, matched: matched.get(row.payment_id ?? '') })),
    sure: { lines: sure.length, amount: money(minor, book.house.currency) },
  };
}

const NOTHING: MatchFacts = { invoices: [], payers: [], payments: [] };

interface Beside {
  readonly index: MatchIndex;
  readonly names: ReadonlyMap<string, string>;
  readonly matched: BankLineWire['payment'] | undefined;
}

function lineWire(row: LineRow, { index, names, matched }: Beside): BankLineWire {
  const line = bankLineOf(row);
  const matches = row.state === 'open' ? proposeMatches(line, index) : [];
  return {
    id: row.id,
    statement: row.statement,
    account: row.account || null,
    bookedOn: row.booked_on,
    amount: line.amount,
    payer: row.payer || null,
    payerAccount: row.payer_account || null,
    text: row.text || null,
    state: row.state,
    matches: matches.map((m): MatchWire => ({
      ...m,
      settles: m.settles.map((s) => ({ ...s })),
      because: [...m.because],
      client: names.get(m.clientId) ?? '',
    })),
    payment: matched ?? null,
    reason: row.reason,
  };
}

/** What lines were taken for, by payment. */
async function readMatched(db: Db, rows: readonly LineRow[]): Promise<ReadonlyMap<string, BankLineWire['payment']>> {
  const ids = rows.flatMap((r) => r.payment_id ?? []);
  if (!ids.length) return new Map();
  const payments: (Row<'payment'> & { client: string })[] = await db('payment as p')
    .join('client as c', 'c.id', 'p.client_id')
    .whereIn('p.id', ids)
    .select('p.*', 'c.name as client');
  const settled: { payment_id: Id<'payment'>; invoice_id: Id<'invoice'>; number: string; minor: number }[] = await db('allocation as a')
    .join('invoice as i', 'i.id', 'a.invoice_id')
    .whereIn('a.payment_id', ids)
    .groupBy('a.payment_id', 'a.invoice_id', 'i.number')
    .havingRaw('sum(a.amount_minor) <> 0')
    .orderBy('i.number')
    .select('a.payment_id', 'a.invoice_id', 'i.number', db.raw('sum(a.amount_minor)::bigint as minor'));
  return new Map(
    payments.map((p) => {
      const of = settled
        .filter((s) => s.payment_id === p.id)
        .map((s) => ({ invoiceId: s.invoice_id, number: s.number, amount: money(Number(s.minor), p.currency) }));
      const left = money(p.amount_minor - of.reduce((sum, s) => sum + s.amount.minor, 0), p.currency);
      return [p.id, { id: p.id, clientId: p.client_id!, client: p.client, settled: of, left }];
    }),
  );
}

type StatementRow = Row<'bank_statement'> & { readonly open: number };
const STATEMENT_SORTS: Readonly<Record<string, Sort>> = { read: { by: 's.read_at', type: 'timestamptz' } };

export async function listBankStatements(
  db: Db,
  query: PageQuery & { ids?: readonly Id<'bank_statement'>[] },
): Promise<Outcome<Page<BankStatementWire>>> {
  const matching = () => db('bank_statement as s').modify((q) => query.ids && void q.whereIn('s.id', query.ids as string[]));
  const open = `(select count(*) from bank_line l where l.statement_id = s.id and l.state = 'open')::int as open`;
  const select = (q: ReturnType<Db['queryBuilder']>) => q.select('s.*', db.raw(open));
  const page = await keysetPage<StatementRow>(db, { matching, id: 's.id', sorts: STATEMENT_SORTS, select }, query);
  return isRefusal(page) ? page : { ...page, rows: page.rows.map(statementWire) };
}

function statementWire(s: StatementRow): BankStatementWire {
  const amount = (minor: number | null) => (minor === null ? null : money(minor, s.currency));
  return {
    ...{ id: s.id, name: s.name, account: s.account || null, fileName: s.file_name, readAt: formatInstant(s.read_at), readBy: s.who_name },
    ...{
      opening: amount(s.opening_minor),
      closing: amount(s.closing_minor),
      lines: s.lines,
      known: s.known,
      announced: s.announced,
      open: s.open,
    },
  };
}
