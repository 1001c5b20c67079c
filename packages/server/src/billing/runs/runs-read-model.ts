import {
  documentKindOf,
  invoiceLines,
  invoiceTotals,
  LEFT_TO_ISSUE,
  partKey,
  type RunInvoiceRowWire,
  type RunInvoiceWire,
  type RunRowWire,
  type RunWire,
} from '@core/billing';
import {
  type Currency,
  dateOf,
  formatInstant,
  type Id,
  type Instant,
  isRefusal,
  type LocalDate,
  money,
  type Outcome,
  type Page,
  refuse,
} from '@core/ground';
import type { Db } from '../../app/database';
import { keysetPage, type PageQuery, type Sort } from '../../app/keyset-page';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import { chargeFigures } from '../charges/charge-figures';
import { groupsWire } from '../invoices/line-wire';
import { readCloses, readFound } from './beside-run-invoice';
import { type ChargeOfRun, chargesOfRun, toIssue } from './run-charges';
import { readRunClient } from './run-client';

/** The most lines of one invoice that a run shows; all are counted and issued. */
const SHOWN_LINES = 500;

/** A run with what its invoices come to. */
type SummedRun = Row<'billing_run'> & { readonly invoices: number; readonly issued: number; readonly net: number };

const SUMS = `(select count(*) from billing_run_invoice i where i.run_id = r.id) as invoices,
  (select count(*) from billing_run_invoice i where i.run_id = r.id and i.state = 'issued') as issued,
  (select coalesce(sum(i.net_minor), 0)::bigint from billing_run_invoice i where i.run_id = r.id) as net`;

export async function listRuns(
  db: Db,
  book: HouseBook,
  query: PageQuery & { readonly open?: boolean | undefined },
): Promise<Outcome<Page<RunRowWire>>> {
  const sorts: Readonly<Record<string, Sort>> = { on: { by: 'r.on_date', type: 'date' } };
  const page = await keysetPage<SummedRun>(
    db,
    {
      matching: () => db('billing_run as r').modify((q) => query.open && void q.whereNot('r.state', 'done')),
      id: 'r.id',
      sorts,
      select: (q) => q.select('r.*', db.raw(SUMS)),
    },
    query,
  );
  return isRefusal(page) ? page : { ...page, rows: page.rows.map((r) => runRow(r, book.house.currency)) };
}

function runRow(r: SummedRun, currency: Currency): RunRowWire {
  return {
    id: r.id,
    on: r.on_date,
    state: r.state,
    preparedAt: formatInstant(r.prepared_at),
    preparedBy: r.who_name,
    clients: r.clients,
    lookedAt: r.looked_at,
    trouble: r.trouble,
    invoices: Number(r.invoices),
    issued: Number(r.issued),
    net: money(Number(r.net), currency),
  };
}

export async function readRun(db: Db, book: HouseBook, runId: Id<'billing_run'>): Promise<Outcome<RunWire>> {
  const { currency } = book.house;
  const run: SummedRun | undefined = await db('billing_run as r').where('r.id', runId).first('r.*', db.raw(SUMS));
  if (!run) return refuse('not-found', 'There is no such run.');
  const left = await db('billing_run_invoice')
    .where({ run_id: runId })
    .whereIn('state', [...LEFT_TO_ISSUE])
    .where('charges', '>', 0)
    .first(
      db.raw(`count(*) as invoices, coalesce(sum(net_minor), 0)::bigint as net,
        coalesce(sum(net_minor - last_minor), 0)::bigint as differs`),
    );
  const sums = left as unknown as { invoices: number; net: number; differs: number };
  return {
    ...runRow(run, currency),
    toIssue: { invoices: Number(sums.invoices), net: money(Number(sums.net), currency), differs: money(Number(sums.differs), currency) },
    undecided: await undecided(db, { currency, on: run.on_date }),
  };
}

/** What waits for a decision and is on no invoice of a run. What recurs is not among it: issuing approves it. */
async function undecided(
  db: Db,
  { currency, on, clientId }: { readonly currency: Currency; readonly on: LocalDate; readonly clientId?: Id<'client'> },
): Promise<RunWire['undecided']> {
  const sums = (await db('charge')
    .where({ state: 'proposed' })
    .whereNot({ cause: 'recurring' })
    .where('on_date', '<=', on)
    .modify((q) => clientId && void q.where({ client_id: clientId }))
    .first(db.raw('count(*) as charges, coalesce(sum(net_minor), 0)::bigint as net'))) as unknown as { charges: number; net: number };
  return { charges: Number(sums.charges), net: money(Number(sums.net), currency) };
}

type InvoiceShown = Row<'billing_run_invoice'> & {
  readonly client: string;
  readonly last_number: string | null;
  readonly last_on: LocalDate | null;
  readonly number: string | null;
  readonly overdue: number;
  readonly billed_as_of: LocalDate | null;
};

const INVOICE_SORTS: Readonly<Record<string, Sort>> = {
  differs: { by: 'abs(i.net_minor - i.last_minor)', type: 'int' },
  client: { by: 'c.name', type: 'text' },
  net: { by: 'i.net_minor', type: 'int' },
};

const invoicesOf = (db: Db, runId: Id<'billing_run'>) =>
  db('billing_run_invoice as i').join('client as c', 'c.id', 'i.client_id').where('i.run_id', runId);

function withDocuments(today: LocalDate) {
  return (rows: ReturnType<Db['queryBuilder']>) =>
    rows
      .leftJoin('invoice as l', 'l.id', 'i.last_id')
      .leftJoin('invoice as d', 'd.id', 'i.invoice_id')
      .join('billing_run as r', 'r.id', 'i.run_id')
      .select('i.*', 'c.name as client', 'l.number as last_number', 'l.issued_on as last_on', 'd.number')
      .select(rows.client.raw('nullif(i.through, r.on_date) as billed_as_of'))
      .select(
        rows.client.raw(
          `(select count(*) from invoice v join invoice_standing s on s.invoice_id = v.id
             where v.client_id = i.client_id and v.kind = 'invoice' and v.due_on < ? and s.settled_minor < v.gross_minor) as overdue`,
          [today],
        ),
      ) as ReturnType<Db['queryBuilder']>;
}

export async function listRunInvoices(
  db: Db,
  book: HouseBook,
  {
    runId,
    query,
    now,
  }: { readonly runId: Id<'billing_run'>; readonly query: PageQuery & { readonly state?: string | undefined }; readonly now: Instant },
): Promise<Outcome<Page<RunInvoiceRowWire>>> {
  const matching = () => invoicesOf(db, runId).modify((q) => query.state && void q.where('i.state', query.state));
  const select = withDocuments(dateOf(now, book.house.zone));
  const page = await keysetPage<InvoiceShown>(db, { matching, id: 'i.id', sorts: INVOICE_SORTS, select }, query);
  return isRefusal(page) ? page : { ...page, rows: page.rows.map(invoiceRow) };
}

function invoiceRow(r: InvoiceShown): RunInvoiceRowWire {
  const of = (minor: number) => money(minor, r.currency);
  return {
    id: r.id,
    clientId: r.client_id,
    client: r.client,
    part: r.part,
    billedAsOf: r.billed_as_of,
    state: r.state,
    kind: r.net_minor < 0 ? 'credit note' : 'invoice',
    charges: r.charges,
    net: of(r.net_minor),
    last: r.last_id && { id: r.last_id, number: r.last_number!, issuedOn: r.last_on!, net: of(r.last_minor) },
    differs: of(r.net_minor - r.last_minor),
    reasons: r.reasons,
    invoiceId: r.invoice_id,
    number: r.number,
    trouble: r.trouble,
    overdue: Number(r.overdue),
  };
}

export async function readRunInvoice(
  db: Db,
  book: HouseBook,
  {
    runId,
    runInvoiceId,
    now,
  }: { readonly runId: Id<'billing_run'>; readonly runInvoiceId: Id<'billing_run_invoice'>; readonly now: Instant },
): Promise<Outcome<RunInvoiceWire>> {
  const today = dateOf(now, book.house.zone);
  const rows = withDocuments(today)(invoicesOf(db, runId).where('i.id', runInvoiceId));
  const row = (await rows)[0] as InvoiceShown | undefined;
  if (!row) return refuse('not-found', 'There is no such invoice in this run.');
  const run = (await db('billing_run').where({ id: runId }).first('id', 'on_date'))!;
  const isOver = row.state === 'issued';
  const of = await readRunClient(db, run, row.client_id);
  const charges = isOver ? [] : (await chargesOfRun(db, of)).filter((c) => partKey(c.invoicePart) === row.part_key);
  const due = toIssue(charges);
  const totals = invoiceTotals(invoiceLines(due, documentKindOf(due)), row.currency);
  const shown = charges.slice(0, SHOWN_LINES);
  const tickets: Row<'ticket', 'id' | 'number'>[] = await db('ticket')
    .whereIn(
      'id',
      shown.flatMap((c) => c.ticket_id ?? []),
    )
    .select('id', 'number');
  const numbers = new Map<string, number>(tickets.map((t) => [t.id, t.number]));
  return {
    ...invoiceRow(row),
    lines: shown.map((c) => lineWire(c, c.ticket_id === null ? null : (numbers.get(c.ticket_id) ?? null))),
    lineCount: charges.length,
    groups: groupsWire(totals),
    gross: totals.gross,
    undecided: await undecided(db, { currency: row.currency, on: of.through, clientId: row.client_id }),
    closes: isOver ? [] : await readCloses(db, book, { clientId: row.client_id, by: of.through, today }),
    found: isOver ? [] : await readFound(db, { clientId: row.client_id, today, currency: row.currency }),
  };
}

function lineWire(c: ChargeOfRun, ticketNumber: number | null): RunInvoiceWire['lines'][number] {
  const { id: chargeId, open, net: _whole, ...figures } = chargeFigures(c);
  return {
    ...figures,
    chargeId,
    version: c.version,
    kind: c.kind,
    details: c.details,
    net: open,
    odd: [...c.odd],
    ticketId: c.ticket_id,
    ticketNumber,
    contractId: c.contract_id,
    held: c.held,
    why: c.explanation,
  };
}
