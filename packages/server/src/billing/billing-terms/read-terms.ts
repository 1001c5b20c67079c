import { type BillingTerms, NO_TERMS, type OwnTerms, termsOf } from '@core/billing';
import type { Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

export async function readHouseTerms(db: Db): Promise<BillingTerms & { readonly version: number }> {
  const row: Row<'house_billing_terms'> = (await db('house_billing_terms').first())!;
  return { version: row.version, ...houseOf(row) };
}

function houseOf({ billed_every: every, weekday, day, month, per, lead_days: leadDays }: Row<'house_billing_terms'>): BillingTerms {
  return { rhythm: { every, weekday, day, month }, per, leadDays };
}

/** What a client has of its own; version 0 where it never had any. */
export async function readOwnTerms(db: Db, clientId: Id<'client'>): Promise<{ readonly own: OwnTerms; readonly version: number }> {
  const row = await db('client_billing_terms').where({ client_id: clientId }).first();
  return row ? { own: ownOf(row), version: row.version } : { own: NO_TERMS, version: 0 };
}

export function ownOf({ billed_every: every, weekday, day, month, per, lead_days: leadDays }: Row<'client_billing_terms'>): OwnTerms {
  return { rhythm: every === null ? null : { every, weekday, day, month }, per, leadDays };
}

/** The terms that hold for a client: one read, as a run asks for those of each of its clients. */
export async function readTerms(db: Db, clientId: Id<'client'>): Promise<BillingTerms> {
  const both = (await db('house_billing_terms as h')
    .leftJoin('client_billing_terms as o', db.raw('o.client_id = ?', [clientId]))
    .first(db.raw('to_jsonb(h) as house, to_jsonb(o) as own'))) as unknown as {
    readonly house: Row<'house_billing_terms'>;
    readonly own: Row<'client_billing_terms'> | null;
  };
  return termsOf(both.own ? ownOf(both.own) : NO_TERMS, houseOf(both.house));
}
