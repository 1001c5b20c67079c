import type { OpenTabWire } from '@core/billing';
import { type Currency, type Id, money, type Money, sumMoney } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

type TabRow = Row<'client', 'id' | 'name'> & {
  readonly charges: number;
  readonly to_review: number;
  readonly cleared: number;
  readonly recurring: number;
  readonly held: number;
  readonly level_minor: number | null;
  readonly told_at: unknown;
  readonly tells: string | null;
};

const OPEN = 'ch.net_minor - coalesce(ch.billed_minor, 0)';
const FREE = `ch.held_until is null`;

/** What is charged and on no invoice, by client; the largest first. @param only of one client */
export async function readOpenTabs(
  db: Db,
  { currency, clientId }: { readonly currency: Currency; readonly clientId?: Id<'client'> | undefined },
): Promise<{ sum: Money; tabs: OpenTabWire[] }> {
  const sum = (where: string) => `coalesce(sum(${OPEN}) filter (where ${where}), 0)::bigint`;
  const rows: TabRow[] = await db('client as c')
    .join('charge as ch', 'ch.client_id', 'c.id')
    .leftJoin('tab_level as l', 'l.client_id', 'c.id')
    .leftJoin('person as p', 'p.id', 'l.person_id')
    .whereIn('ch.standing', ['proposed', 'approved', 'part billed'])
    .modify((q) => clientId && void q.where('c.id', clientId))
    .groupBy('c.id', 'c.name', 'l.level_minor', 'l.told_at', 'p.name')
    .orderByRaw(`${sum(FREE)} desc, c.name`)
    .select(
      'c.id',
      'c.name',
      'l.level_minor',
      'l.told_at',
      'p.name as tells',
      db.raw(
        `count(*) filter (where ${FREE}) as charges, ${sum(`${FREE} and ch.standing = 'proposed'`)} as to_review,
         ${sum(`${FREE} and ch.standing <> 'proposed'`)} as cleared, ${sum(`${FREE} and ch.cause = 'recurring'`)} as recurring, ${sum(`not (${FREE})`)} as held`,
      ),
    );
  const tabs = rows.map((r): OpenTabWire => {
    const of = (minor: number) => money(Number(minor), currency);
    return {
      clientId: r.id,
      client: r.name,
      charges: Number(r.charges),
      toReview: of(r.to_review),
      cleared: of(r.cleared),
      sum: of(Number(r.to_review) + Number(r.cleared)),
      recurring: of(r.recurring),
      held: of(r.held),
      level: r.level_minor === null ? null : of(r.level_minor),
      tells: r.tells,
      isReached: r.told_at !== null,
    };
  });
  return {
    sum: sumMoney(
      tabs.map((t) => t.sum),
      currency,
    ),
    tabs,
  };
}
