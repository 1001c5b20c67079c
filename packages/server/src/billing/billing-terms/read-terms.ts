import { type BillingTerms, NO_TERMS, type OwnTerms, termsOf } from '@core/billing';
import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

export async function readHouseTerms(db: Db): Promise<BillingTerms & { readonly version: number }> {
  const row: Row<'house_billing_terms'> = (await db('house_billing_terms').first())!;
  const { weekday, day, month } = row;
  return {
    version: row.version,
    rhythm: { every: row.billed_every, weekday, day, month },
    per: row.per,
    leadDays: row.lead_days,
  };
}

/** What a client has of its own; version 0 where it never had any. */
export async function readOwnTerms(db: Db, clientId: Id<'client'>): Promise<{ readonly own: OwnTerms; readonly version: number }> {
  const row = await db('client_billing_terms').where({ client_id: clientId }).first();
  return row ? { own: ownOf(row), version: row.version } : { own: NO_TERMS, version: 0 };
}

export function ownOf({ billed_every: every, weekday, day, month, per, lead_days: leadDays }: Row<'client_billing_terms'>): OwnTerms {
  return { rhythm: every === null ? null : { every, weekday, day, month }, per, leadDays };
}

/** The terms that hold for a client. */
export async function readTerms(db: Db, clientId: Id<'client'>): Promise<BillingTerms> {
  const { rhythm, per, leadDays } = await readHouseTerms(db);
  return termsOf((await readOwnTerms(db, clientId)).own, { rhythm, per, leadDays });
}
