import { anchorOf, type CoverTerms } from '@core/contracts';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';

/** What a contract says of work, with what it is called. */
export interface NamedTerms extends CoverTerms {
  readonly number: number;
  readonly name: string;
}

/** The terms of some contracts, by their ids: five reads, however many they are. */
export async function readCoverTerms(db: Db, contractIds: readonly string[]): Promise<ReadonlyMap<string, NamedTerms>> {
  if (!contractIds.length) return new Map();
  const [contracts, allowances, rules, grants, blocks] = await Promise.all([
    db('contract').whereIn('id', contractIds) as Promise<Row<'contract'>[]>,
    db('contract_allowance').whereIn('contract_id', contractIds).orderBy('position') as Promise<Row<'contract_allowance'>[]>,
    db('contract_cover').whereIn('contract_id', contractIds).orderBy('position') as Promise<Row<'contract_cover'>[]>,
    db('contract_grant as g')
      .join('contract_allowance as a', 'a.id', 'g.allowance_id')
      .whereIn('a.contract_id', contractIds)
      .orderBy('g.from_on')
      .select('g.*') as Promise<Row<'contract_grant'>[]>,
    db('contract_block as b')
      .join('contract_allowance as a', 'a.id', 'b.allowance_id')
      .join('contract_line as l', 'l.id', 'b.line_id')
      .whereNull('l.taken_away_at')
      .whereIn('a.contract_id', contractIds)
      .orderBy('b.starts_on')
      .select('b.*') as Promise<Row<'contract_block'>[]>,
  ]);
  const of = <T extends { readonly contract_id: string }>(rows: readonly T[], id: string) => rows.filter((r) => r.contract_id === id);
  return new Map(
    contracts.map((c) => [
      c.id,
      {
        number: c.number,
        name: c.name,
        from: c.starts_on,
        to: c.ends_on,
        schedule: { frequency: c.frequency, anchor: anchorOf(c.anchored, c.starts_on) },
        overageFactor: plainDecimal(c.overage_factor),
        allowances: of(allowances, c.id).map((a) => ({
          id: a.id,
          name: a.name,
          measure: a.measure,
          grant: a.granted_units,
          each: a.each,
          granted: a.granted,
          carryDays: a.carry_days,
          borrowPercent: a.borrow_percent,
          later: grants.filter((g) => g.allowance_id === a.id).map((g) => ({ from: g.from_on, grant: g.granted_units })),
          blocks: blocks
            .filter((b) => b.allowance_id === a.id)
            .map((b) => ({ from: b.starts_on, expiry: b.ends_on, grant: b.granted_units })),
        })),
        rules: of(rules, c.id).map((r) => ({
          id: r.id,
          gradeIds: r.grade_ids,
          activityIds: r.activity_ids,
          bands: r.bands,
          deskIds: r.desk_ids,
          kinds: r.kinds,
          from: r.from_on,
          to: r.to_on,
          allowanceId: r.allowance_id,
          cap: r.cap_units,
          overageFactor: r.overage_factor === null ? null : plainDecimal(r.overage_factor),
          includesFees: r.includes_fees,
        })),
      },
    ]),
  );
}
