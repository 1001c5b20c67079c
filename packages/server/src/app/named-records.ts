import { isAddressNumber, isId, isNumberedParam, type NumberedParam, type Outcome, refuse } from '@core/ground';
import type { Db } from './database';

/** Where records that people call by a number stand, and what is said where there is none. */
const NUMBERED: Readonly<Record<NumberedParam, { readonly table: string; readonly none: (number: string) => string }>> = {
  ticketId: { table: 'ticket', none: (n) => `There is no ticket #${n}.` },
  clientId: { table: 'client', none: (n) => `There is no client with the number ${n}.` },
  contractId: { table: 'contract', none: (n) => `There is no contract with the number ${n}.` },
  invoiceId: { table: 'invoice', none: (n) => `There is no invoice ${n}.` },
  assetId: { table: 'asset', none: (n) => `There is no asset with the number ${n}.` },
};

/**
 * The same parameters with the ids of records that were called by their number, so that an address can be read out and
 * typed: `/tickets/4479`, `/billing/PH-01221`. What looks like no number stays as it is, and is refused where ids are checked.
 */
export async function readNumbers(db: Db, params: Readonly<Record<string, string>>): Promise<Outcome<Record<string, string>>> {
  const read: Record<string, string> = { ...params };
  for (const [name, given] of Object.entries(params)) {
    if (!isNumberedParam(name) || isId(given) || !isAddressNumber(name, given)) continue;
    const row = await db(NUMBERED[name].table).where({ number: given }).first('id');
    if (!row) return refuse('not-found', NUMBERED[name].none(given));
    read[name] = row.id;
  }
  return read;
}
