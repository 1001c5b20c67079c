import { type DraftLineWire, type DraftWire, invoiceLines, invoiceTotals } from '@core/billing';
import { type Currency, type Id, isRefusal, money, type Outcome, type Page } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { keysetPage, type PageQuery, type Sort } from '../../app/keyset-page';
import { plainDecimal } from '../../app/plain-decimal';
import type { HouseBook } from '../../house';
import { PLACE, TO_BILL } from '../charges/charges-read-model';
import { chargeToInvoice } from './charges-to-bill';
import { groupsWire, lineWire } from './line-wire';

/** What waits of a client under one tax. */
type WaitingGroup = Row<'charge', 'client_id' | 'tax_category' | 'tax_percent'> & { readonly charges: number; readonly net: number };

/** What waits for an invoice, by client: two reads a page, however many charges there are. */
export async function listDrafts(
  db: Db,
  book: HouseBook,
  query: PageQuery & { clientId?: Id<'client'> | undefined },
): Promise<Outcome<Page<DraftWire>>> {
  const { currency } = book.house;
  const waiting = () =>
    db('client as c')
      .whereExists(db('charge as ch').whereRaw('ch.client_id = c.id').whereRaw(TO_BILL).select('ch.id'))
      .modify((q) => query.clientId && void q.where('c.id', query.clientId));
  const sorts: Readonly<Record<string, Sort>> = { client: { by: 'c.name', type: 'text' } };
  const page = await keysetPage<Row<'client', 'id' | 'name'>>(
    db,
    { matching: waiting, id: 'c.id', sorts, select: (q) => q.select('c.id', 'c.name') },
    query,
  );
  if (isRefusal(page)) return page;
  const groups: WaitingGroup[] = await db('charge as ch')
    .whereRaw(TO_BILL)
    .whereIn(
      'ch.client_id',
      page.rows.map((r) => r.id),
    )
    .groupBy('ch.client_id', 'ch.tax_category', 'ch.tax_percent')
    .select(
      'ch.client_id',
      'ch.tax_category',
      'ch.tax_percent',
      db.raw('count(*) as charges, sum(ch.net_minor - coalesce(ch.billed_minor, 0))::bigint as net'),
    );
  return {
    ...page,
    rows: page.rows.map((client) =>
      draftOf(
        client,
        groups.filter((g) => g.client_id === client.id),
        currency,
      ),
    ),
  };
}

function draftOf(client: Row<'client', 'id' | 'name'>, groups: readonly WaitingGroup[], currency: Currency): DraftWire {
  const open = groups.reduce((sum, g) => sum + Number(g.net), 0);
  const sign = open < 0 ? -1 : 1;
  const totals = invoiceTotals(
    groups.map((g) => ({
      net: money(sign * Number(g.net) + 0, currency),
      tax: { category: g.tax_category, percent: plainDecimal(g.tax_percent) },
    })),
    currency,
  );
  return {
    clientId: client.id,
    client: client.name,
    kind: open < 0 ? 'credit note' : 'invoice',
    charges: groups.reduce((sum, g) => sum + Number(g.charges), 0),
    groups: groupsWire(totals),
    net: totals.net,
    tax: totals.tax,
    gross: totals.gross,
  };
}

/** As the lines of the invoice come. */
const LINE_SORTS: Readonly<Record<string, Sort>> = {
  on: { by: `(ch.on_date || coalesce(ch.ticket_id::text, '~') || lpad(${PLACE}::text, 10, '0'))`, type: 'text' },
};

/** The lines that an invoice of all that waits would have, by day. */
export async function listDraftLines(db: Db, clientId: Id<'client'>, query: PageQuery): Promise<Outcome<Page<DraftLineWire>>> {
  const matching = () => db('charge as ch').whereRaw(TO_BILL).where('ch.client_id', clientId);
  const page = await keysetPage<Row<'charge'>>(db, { matching, id: 'ch.id', sorts: LINE_SORTS, select: (q) => q.select('ch.*') }, query);
  if (isRefusal(page)) return page;
  const whole = await matching()
    .sum({ n: db.raw('ch.net_minor - coalesce(ch.billed_minor, 0)') })
    .first();
  const lines = invoiceLines(page.rows.map(chargeToInvoice), Number(whole?.n ?? 0) < 0 ? 'credit note' : 'invoice');
  return {
    ...page,
    rows: lines.map((l) => ({ ...lineWire(l), chargeId: l.links[0]!.chargeId })),
  };
}
