import { type InvoiceFilter, type InvoiceRowWire, type InvoiceWire, leftToCredit, paymentState, type SettlementWire } from '@core/billing';
import { dateOf, daysBetween, formatInstant, type Id, type Instant, isRefusal, money, type Outcome, type Page, refuse } from '@core/ground';
import { wireAt, type Db } from '../../app/database';
import type { Joined, Row, Rows } from '../../app/rows';
import { containing, keysetPage, type Sort } from '../../app/keyset-page';
import { readStory } from '../../app/read-story';
import type { HouseBook } from '../../house';
import { earlierCredits } from './credit-invoice';
import { groupsWire, lineWire } from './line-wire';
import { readDocuments } from './read-documents';

type InvoiceShown = Row<'invoice'> &
  Row<'invoice_standing', 'settled_minor' | 'mailed_at' | 'ledger_at' | 'undelivered_at'> & { readonly client: string };

function rowsQuery(db: Db) {
  return db('invoice as i')
    .join('client as c', 'c.id', 'i.client_id')
    .join('invoice_standing as s', 's.invoice_id', 'i.id')
    .select('i.*', 'c.name as client', 's.settled_minor', 's.mailed_at', 's.ledger_at', 's.undelivered_at');
}

function rowWire(i: InvoiceShown, book: HouseBook, now: Instant): InvoiceRowWire {
  const gross = money(i.gross_minor, i.currency);
  const settled = money(i.settled_minor, i.currency);
  const daysAfterDue = daysBetween(i.due_on, dateOf(now, book.house.zone));
  const state = paymentState({ kind: i.kind, gross, settled, daysAfterDue });
  return {
    id: i.id,
    kind: i.kind,
    number: i.number,
    clientId: i.client_id,
    client: i.client,
    billedFor: i.billed_for,
    issuedOn: i.issued_on,
    dueOn: i.due_on,
    gross,
    left: 'left' in state ? state.left : money(0, gross.currency),
    state: state.is,
    mailedAt: wireAt(i.mailed_at),
    undeliveredAt: wireAt(i.undelivered_at),
    ledgerAt: wireAt(i.ledger_at),
  };
}

const LEFT = '(i.gross_minor - s.settled_minor)';
const SORTS: Readonly<Record<string, Sort>> = {
  issued: { by: 'i.issued_on', type: 'date' },
  due: { by: 'i.due_on', type: 'date' },
  number: { by: 'i.number', type: 'text' },
  client: { by: '(select name from client where id = i.client_id)', type: 'text' },
  gross: { by: 'i.gross_minor', type: 'int' },
};
/** The stored figures that each payment state stands on; a test holds them to core's paymentState. */
const STATES: Readonly<Record<string, string>> = {
  open: `i.kind = 'invoice' and ${LEFT} > 0 and i.due_on >= :today and s.settled_minor <= 0`,
  overdue: `i.kind = 'invoice' and ${LEFT} > 0 and i.due_on < :today`,
  'part paid': `i.kind = 'invoice' and ${LEFT} > 0 and i.due_on >= :today and s.settled_minor > 0`,
  paid: `i.kind = 'invoice' and ${LEFT} <= 0`,
  'credit left': `i.kind = 'credit note' and ${LEFT} > 0`,
  'credit used': `i.kind = 'credit note' and ${LEFT} <= 0`,
};

export async function listInvoices(
  db: Db,
  book: HouseBook,
  { filter, now }: { readonly filter: InvoiceFilter; readonly now: Instant },
): Promise<Outcome<Page<InvoiceRowWire>>> {
  const matching = () =>
    db('invoice as i')
      .join('invoice_standing as s', 's.invoice_id', 'i.id')
      .modify((q) => {
        if (filter.clientId) void q.where('i.client_id', filter.clientId);
        if (filter.q) void q.whereRaw('i.number ilike ?', [containing(filter.q)]);
        if (filter.state) void q.whereRaw(STATES[filter.state]!, { today: dateOf(now, book.house.zone) });
      });
  const select = (q: ReturnType<Db['queryBuilder']>) =>
    q
      .join('client as c', 'c.id', 'i.client_id')
      .select('i.*', 'c.name as client', 's.settled_minor', 's.mailed_at', 's.ledger_at', 's.undelivered_at');
  const page = await keysetPage<InvoiceShown>(db, { matching, id: 'i.id', sorts: SORTS, select }, filter);
  return isRefusal(page) ? page : { ...page, rows: page.rows.map((r) => rowWire(r, book, now)) };
}

/** A document with the trail of each line, what it corrects and is corrected by, and what settled it. */
export async function readInvoice(
  db: Db,
  book: HouseBook,
  { invoiceId, now }: { readonly invoiceId: Id<'invoice'>; readonly now: Instant },
): Promise<Outcome<InvoiceWire>> {
  const row: InvoiceShown | undefined = await rowsQuery(db).where('i.id', invoiceId).first();
  const [document] = await readDocuments(db, [invoiceId]);
  if (!row || !document) return refuse('not-found', 'There is no such invoice.');
  const [trails, credits, earlier, settlements, story] = await Promise.all([
    readTrails(db, invoiceId),
    db('invoice').where({ corrects_id: invoiceId }).orderBy(['issued_at', 'number']).select('id', 'number', 'gross_minor', 'undoes'),
    earlierCredits(db, invoiceId),
    readSettlements(db, invoiceId),
    readStory(db, { subject: 'invoice', id: invoiceId }),
  ]);
  const amount = (minor: number) => money(minor, document.currency);
  const left = row.kind === 'invoice' ? leftToCredit({ ...document, groups: document.totals.groups }, earlier) : [];
  return {
    ...rowWire(row, book, now),
    purchaseOrder: document.purchaseOrder,
    seller: document.seller,
    buyer: document.buyer,
    lines: document.lines.map((l, n) => ({
      position: l.position,
      ...lineWire(l),
      trail: trails.filter((t) => t.position === l.position).map(({ position: _, ...trail }) => trail),
      left: left[n] ?? null,
    })),
    groups: groupsWire(document.totals),
    net: document.totals.net,
    tax: document.totals.tax,
    settled: amount(row.settled_minor),
    corrects: document.corrects && { id: row.corrects_id!, number: document.corrects.number },
    reason: row.reason,
    undoes: row.undoes,
    credits: credits.map((c) => ({ id: c.id, number: c.number, gross: amount(c.gross_minor), undoes: c.undoes! })),
    settlements,
    story,
  };
}

/** From what each line comes, by its position. */
async function readTrails(db: Db, invoiceId: Id<'invoice'>) {
  const rows: (Row<'billing_link', 'position' | 'does'> &
    Row<'charge', 'id' | 'ticket_id' | 'explanation'> &
    Joined<'ticket', 'number'> &
    Joined<'person', 'name'>)[] = await db('billing_link as l')
    .join('charge as ch', 'ch.id', 'l.charge_id')
    .leftJoin('ticket as t', 't.id', 'ch.ticket_id')
    .leftJoin('person as p', 'p.id', 'ch.person_id')
    .where({ 'l.invoice_id': invoiceId })
    .orderBy('l.id')
    .select('l.position', 'l.does', 'ch.id', 'ch.ticket_id', 'ch.explanation', 't.number', 'p.name');
  return rows.map((c) => ({
    position: c.position,
    chargeId: c.id,
    does: c.does,
    ticketId: c.ticket_id,
    ticketNumber: c.number,
    person: c.name,
    why: c.explanation,
  }));
}

/** What settled an invoice, or what a credit note settled, oldest first. */
async function readSettlements(db: Db, invoiceId: Id<'invoice'>): Promise<SettlementWire[]> {
  const rows: (Row<'allocation'> &
    Row<'invoice', 'currency'> &
    Joined<'payment', 'reference' | 'received_on'> & {
      readonly invoice_number: Rows['invoice']['number'];
      readonly note_number: Rows['invoice']['number'] | null;
      readonly taken_back_by: Rows['allocation']['id'] | null;
    })[] = await db('allocation as a')
    .leftJoin('payment as p', 'p.id', 'a.payment_id')
    .leftJoin('invoice as n', 'n.id', 'a.credit_note_id')
    .join('invoice as i', 'i.id', 'a.invoice_id')
    .leftJoin('allocation as b', 'b.takes_back_id', 'a.id')
    .where('a.invoice_id', invoiceId)
    .orWhere('a.credit_note_id', invoiceId)
    .orderBy('a.id')
    .select(
      'a.*',
      'i.number as invoice_number',
      'i.currency',
      'n.number as note_number',
      'p.reference',
      'p.received_on',
      'b.id as taken_back_by',
    );
  return rows.map((a) => {
    const isNote = a.credit_note_id === invoiceId;
    const otherId = isNote ? a.invoice_id : a.credit_note_id;
    return {
      id: a.id,
      at: formatInstant(a.at),
      amount: money(a.amount_minor, a.currency),
      from: a.payment_id ? 'payment' : 'credit note',
      otherDocument: otherId ? { id: otherId, number: (isNote ? a.invoice_number : a.note_number)! } : null,
      reference: a.reference,
      receivedOn: a.received_on,
      takenBack: Boolean(a.taken_back_by ?? a.takes_back_id),
    };
  });
}
