import type { BooksWire } from '@core/billing';
import type { Db } from '../../app/database';

/** What must hold in the books. Each reads what breaks it: where, what is there, and what should be. */
const RULES: readonly { readonly rule: string; readonly broken: string }[] = [
  {
    rule: 'numbers of documents have no gap and no double',
    broken: `select s.prefix as at, count(i.id) || ' documents up to ' || coalesce(max(i.sequence), 0) as is,
        'all numbers from ' || coalesce(min(i.sequence), 0) || ' to ' || s.last_number as should_be
      from invoice_series s join invoice i on i.series_id = s.id group by s.id, s.prefix, s.last_number
      having max(i.sequence) - min(i.sequence) + 1 <> count(i.id) or max(i.sequence) <> s.last_number`,
  },
  {
    rule: 'a document comes to the sum of its lines',
    broken: `select i.number as at, i.net_minor::text as is, coalesce(sum(l.net_minor), 0)::text as should_be
      from invoice i left join invoice_line l on l.invoice_id = i.id group by i.id having i.net_minor <> coalesce(sum(l.net_minor), 0)`,
  },
  {
    rule: 'the tax of a document is on the sum of its lines, by rate',
    broken: `select i.number as at, t.base_minor::text as is, coalesce(sum(l.net_minor), 0)::text as should_be
      from invoice_tax t join invoice i on i.id = t.invoice_id
        left join invoice_line l on l.invoice_id = t.invoice_id and l.tax_category = t.tax_category and l.tax_percent = t.tax_percent
      group by i.id, t.tax_category, t.tax_percent, t.base_minor having t.base_minor <> coalesce(sum(l.net_minor), 0)`,
  },
  {
    rule: 'the tax of a document is the sum of its rates',
    broken: `select i.number as at, i.tax_minor::text as is, coalesce(sum(t.tax_minor), 0)::text as should_be
      from invoice i left join invoice_tax t on t.invoice_id = i.id group by i.id having i.tax_minor <> coalesce(sum(t.tax_minor), 0)`,
  },
  {
    rule: 'a line bills what it links',
    broken: `select i.number || ', line ' || l.position as at, l.net_minor::text as is,
        (coalesce(sum(k.net_minor), 0) * case when i.kind = 'credit note' then -1 else 1 end)::text as should_be
      from invoice_line l join invoice i on i.id = l.invoice_id left join billing_link k on k.invoice_id = l.invoice_id and k.position = l.position
      group by i.id, l.invoice_id, l.position
      having l.net_minor <> coalesce(sum(k.net_minor), 0) * case when i.kind = 'credit note' then -1 else 1 end`,
  },
  {
    rule: 'what is billed of a charge is the sum of what documents bill of it',
    broken: `select c.id::text as at, coalesce(c.billed_minor, 0)::text as is, coalesce(sum(k.net_minor), 0)::text as should_be
      from charge c left join billing_link k on k.charge_id = c.id and k.does <> 'give back'
      group by c.id having coalesce(c.billed_minor, 0) <> coalesce(sum(k.net_minor), 0)`,
  },
  {
    rule: 'no more of a charge is billed than it is worth',
    broken: `select id::text as at, billed_minor::text as is, net_minor::text as should_be
      from charge where billed_minor is not null and (abs(billed_minor) > abs(net_minor) or billed_minor * net_minor < 0)`,
  },
  {
    rule: 'a period of a contract line is charged once for each part',
    broken: `select contract_line_id || ', ' || period || ', part ' || part as at, count(*)::text as is, '1' as should_be
      from charge where cause = 'recurring' group by contract_line_id, period, part having count(*) > 1`,
  },
  {
    rule: 'what is settled of a document is the sum of what settles it',
    broken: `select i.number as at, s.settled_minor::text as is, coalesce(sum(a.amount_minor), 0)::text as should_be
      from invoice i join invoice_standing s on s.invoice_id = i.id left join allocation a on i.id in (a.invoice_id, a.credit_note_id)
      group by i.id, s.settled_minor having s.settled_minor <> coalesce(sum(a.amount_minor), 0)`,
  },
  {
    rule: 'no document is settled with more than it comes to',
    broken: `select i.number as at, s.settled_minor::text as is, 'at most ' || i.gross_minor as should_be
      from invoice i join invoice_standing s on s.invoice_id = i.id where s.settled_minor > i.gross_minor or s.settled_minor < 0`,
  },
  {
    rule: 'no payment settles more than was received; the rest is credit',
    broken: `select p.reference as at, coalesce(a.used, 0)::text as is, 'at most ' || (p.amount_minor - coalesce(r.back, 0)) as should_be
      from payment p
        left join (select payment_id, sum(amount_minor) as used from allocation group by payment_id) a on a.payment_id = p.id
        left join (select payment_id, sum(amount_minor) as back from payment_return group by payment_id) r on r.payment_id = p.id
      where coalesce(a.used, 0) < 0 or coalesce(a.used, 0) + coalesce(r.back, 0) > p.amount_minor`,
  },
  {
    rule: 'a matched line of the bank is a payment of what came, and not one that was taken back',
    broken: `select l.place || ' of ' || s.name as at, coalesce(p.amount_minor - coalesce(r.back, 0), 0)::text as is, l.amount_minor::text as should_be
      from bank_line l join bank_statement s on s.id = l.statement_id left join payment p on p.id = l.payment_id
        left join (select payment_id, sum(amount_minor) as back from payment_return group by payment_id) r on r.payment_id = p.id
      where l.state = 'matched' and (p.amount_minor - coalesce(r.back, 0) <> l.amount_minor or p.currency <> l.currency)`,
  },
  {
    rule: 'a run issues to its client what it says',
    broken: `select i.number as at, i.client_id::text as is, r.client_id::text as should_be
      from billing_run_invoice r join invoice i on i.id = r.invoice_id where i.client_id <> r.client_id`,
  },
];

/** So many of each rule are named; one is enough to look into. */
const MOST_NAMED = 50;

/** Proves that the books agree with themselves. */
export async function checkBooks(db: Db): Promise<BooksWire> {
  const findings: BooksWire['findings'] = [];
  for (const { rule, broken } of RULES) {
    const { rows } = await db.raw<{ rows: { at: string; is: string; should_be: string }[] }>(
      `select * from (${broken}) b limit ${MOST_NAMED}`,
    );
    for (const { at, is, should_be } of rows) findings.push({ rule, at, is, shouldBe: should_be });
  }
  const counted = await db.raw<{ rows: [{ documents: number; charges: number }] }>(
    'select (select count(*) from invoice)::int as documents, (select count(*) from charge)::int as charges',
  );
  return { ...counted.rows[0], findings };
}
