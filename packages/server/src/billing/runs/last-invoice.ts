import type { RunLine } from '@core/billing';
import { type Id, money } from '@core/ground';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';

export interface LastInvoice {
  readonly id: Id<'invoice'>;
  readonly netMinor: number;
  readonly lines: readonly RunLine[];
}

/**
 * The newest invoice of a client for the same to compare one with: where periods that recur are billed on that, the newest on which they
 * were, else the newest on which they were not.
 */
export async function lastInvoice(
  db: Db,
  { clientId, partKey, recurs }: { readonly clientId: Id<'client'>; readonly partKey: string; readonly recurs: boolean },
): Promise<LastInvoice | null> {
  const recurred = db('billing_link as l')
    .join('charge as ch', 'ch.id', 'l.charge_id')
    .whereRaw(`l.invoice_id = i.id and ch.cause = 'recurring' and not 'true-up' = any(ch.odd)`)
    .select('l.id');
  const invoice: Row<'invoice', 'id' | 'net_minor'> | undefined = await db('invoice as i')
    .where({ 'i.client_id': clientId, 'i.kind': 'invoice', 'i.part_key': partKey })
    .modify((q) => void (recurs ? q.whereExists(recurred) : q.whereNotExists(recurred)))
    .orderBy([
      { column: 'i.issued_on', order: 'desc' },
      { column: 'i.sequence', order: 'desc' },
    ])
    .first('i.id', 'i.net_minor');
  if (!invoice) return null;
  const lines: LastLine[] = await db('billing_link as l')
    .join('invoice_line as il', (on) => on.on('il.invoice_id', 'l.invoice_id').andOn('il.position', 'l.position'))
    .join('charge as ch', 'ch.id', 'l.charge_id')
    .leftJoin('contract_line as cl', 'cl.id', 'ch.contract_line_id')
    .where({ 'l.invoice_id': invoice.id, 'l.does': 'bill' })
    .orderBy('l.position')
    .select(
      'ch.kind',
      'ch.contract_line_id',
      'ch.odd',
      'ch.currency',
      'cl.name as line',
      'il.quantity',
      'il.unit',
      'il.unit_price',
      'l.net_minor',
    );
  return { id: invoice.id, netMinor: invoice.net_minor, lines: lines.map(lineOf) };
}

type LastLine = Row<'charge', 'kind' | 'contract_line_id' | 'odd' | 'currency'> &
  Row<'invoice_line', 'quantity' | 'unit' | 'unit_price'> & { readonly line: string | null; readonly net_minor: number };

function lineOf(l: LastLine): RunLine {
  return {
    kind: l.kind,
    recurs: l.contract_line_id === null ? null : { lineId: l.contract_line_id, line: l.line ?? '', isTrueUp: l.odd.includes('true-up') },
    quantity: plainDecimal(l.quantity),
    unit: l.unit as RunLine['unit'],
    unitPrice: plainDecimal(l.unit_price),
    net: money(l.net_minor, l.currency),
  };
}
