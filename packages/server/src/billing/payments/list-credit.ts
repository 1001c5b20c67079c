import type { CreditFilter, CreditRowWire } from '@core/billing';
import { type Currency, isRefusal, type LocalDate, money, type Outcome, type Page } from '@core/ground';
import type { Db } from '../../app/database';
import { containing, keysetPage, type Sort } from '../../app/keyset-page';

/** Payments and credit notes as one list of what clients have paid or been given, with what is left of each. */
export const CREDIT = `(
  select 'payment' as source, p.id, p.reference as name, p.client_id, p.received_on as on_day, p.amount_minor, p.currency,
         p.amount_minor - coalesce((select sum(a.amount_minor) from allocation a where a.payment_id = p.id), 0)::bigint
           - coalesce((select sum(r.amount_minor) from payment_return r where r.payment_id = p.id), 0)::bigint as left_minor
    from payment p
  union all
  select 'credit note', i.id, i.number, i.client_id, i.issued_on, i.gross_minor, i.currency, i.gross_minor - s.settled_minor
    from invoice i join invoice_standing s on s.invoice_id = i.id where i.kind = 'credit note'
) as x`;
const SORTS: Readonly<Record<string, Sort>> = {
  received: { by: 'x.on_day', type: 'date' },
  client: { by: `coalesce((select name from client where id = x.client_id), '')`, type: 'text' },
  left: { by: 'x.left_minor', type: 'int' },
};

interface CreditRow {
  readonly source: CreditRowWire['source'];
  readonly id: string;
  readonly name: string;
  readonly client_id: string | null;
  readonly client: string | null;
  readonly on_day: LocalDate;
  readonly amount_minor: number;
  readonly left_minor: number;
  readonly currency: Currency;
}

export async function listCredit(db: Db, filter: CreditFilter): Promise<Outcome<Page<CreditRowWire>>> {
  const matching = () =>
    db
      .from(db.raw(CREDIT) as never)
      .modify((q) => filter.clientId && void q.where('x.client_id', filter.clientId))
      .modify((q) => filter.left && void q.where('x.left_minor', '<>', 0))
      .modify((q) => filter.q && void q.whereRaw('x.name ilike ?', [containing(filter.q)]));
  const select = (q: ReturnType<Db['queryBuilder']>) => q.leftJoin('client as c', 'c.id', 'x.client_id').select('x.*', 'c.name as client');
  const page = await keysetPage<CreditRow>(db, { matching, id: 'x.id', sorts: SORTS, select }, filter);
  if (isRefusal(page)) return page;
  return {
    ...page,
    rows: page.rows.map((r) => ({
      source: r['source'],
      id: r['id'],
      name: r['name'],
      clientId: r['client_id'],
      client: r['client'],
      on: r['on_day'],
      amount: money(Number(r['amount_minor']), r['currency']),
      left: money(Number(r['left_minor']), r['currency']),
    })),
  };
}
