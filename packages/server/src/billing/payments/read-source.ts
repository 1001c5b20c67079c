import type { CreditSource } from '@core/billing';
import { type Id, money, type Money } from '@core/ground';
import { sumOf } from '../../app/database';
import type { Knex } from 'knex';
import type { Row } from '../../app/rows';

/** What may settle an invoice: a payment or a credit note, with what is left of it. */
export interface Source {
  readonly kind: CreditSource;
  readonly id: string;
  /** The number of a credit note, or the reference of a payment. */
  readonly name: string;
  /** null where it is not known whose it is. */
  readonly clientId: Id<'client'> | null;
  readonly left: Money;
}

/** Reads and locks it, so that two who use the same one at once wait for each other. */
export async function readSource(tx: Knex.Transaction, kind: CreditSource, id: string): Promise<Source | undefined> {
  return kind === 'payment' ? readPayment(tx, id) : readCreditNote(tx, id);
}

async function readPayment(tx: Knex.Transaction, id: string): Promise<Source | undefined> {
  const row: Row<'payment'> | undefined = await tx('payment').where({ id }).forUpdate().first();
  if (!row) return undefined;
  const used = await sumOf(tx('allocation').where({ payment_id: id }), 'amount_minor');
  const returned = await sumOf(tx('payment_return').where({ payment_id: id }), 'amount_minor');
  return {
    kind: 'payment',
    id,
    name: row.reference,
    clientId: row.client_id,
    left: money(row.amount_minor - used - returned, row.currency),
  };
}

async function readCreditNote(tx: Knex.Transaction, id: string): Promise<Source | undefined> {
  const row: (Row<'invoice', 'number' | 'client_id' | 'gross_minor' | 'currency'> & Row<'invoice_standing', 'settled_minor'>) | undefined =
    await tx('invoice_standing as s')
      .join('invoice as i', 'i.id', 's.invoice_id')
      .where({ 'i.id': id, 'i.kind': 'credit note' })
      .forUpdate('s')
      .first('i.number', 'i.client_id', 'i.gross_minor', 'i.currency', 's.settled_minor');
  if (!row) return undefined;
  const left = money(row.gross_minor - row.settled_minor, row.currency);
  return { kind: 'credit note', id, name: row.number, clientId: row.client_id, left };
}
