import { type Outcome, refuse } from '@core/ground';
import type { Db } from './database';

/** Records that people call by a number: what it looks like, where it stands, and what is said where there is none. */
const NUMBERED: Readonly<Record<string, { readonly table: string; readonly shape: RegExp; readonly none: (number: string) => string }>> = {
  ticketId: { table: 'ticket', shape: /^\d{1,9}$/, none: (n) => `There is no ticket #${n}.` },
  clientId: { table: 'client', shape: /^\d{1,9}$/, none: (n) => `There is no client with the number ${n}.` },
  invoiceId: { table: 'invoice', shape: /^[A-Za-z0-9]+-[A-Za-z0-9-]{1,36}$/, none: (n) => `There is no invoice ${n}.` },
  assetId: { table: 'asset', shape: /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/, none: (n) => `There is no asset with the number ${n}.` },
};
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/**
 * The same parameters with the ids of records that were called by their number, so that an address can be read out and
 * typed: `/tickets/4479`, `/billing/PH-01221`. What looks like no number stays as it is, and is refused where ids are checked.
 */
export async function readNumbers(db: Db, params: Readonly<Record<string, string>>): Promise<Outcome<Record<string, string>>> {
  const read: Record<string, string> = { ...params };
  for (const [name, given] of Object.entries(params)) {
    const numbered = NUMBERED[name];
    if (!numbered || UUID.test(given) || !numbered.shape.test(given)) continue;
    const row = await db(numbered.table).where({ number: given }).first('id');
    if (!row) return refuse('not-found', numbered.none(given));
    read[name] = row.id;
  }
  return read;
}
