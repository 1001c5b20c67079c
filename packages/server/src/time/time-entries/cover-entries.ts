import { isDeepStrictEqual } from 'node:util';
import { type ChosenContract, type DrawOnDay, type Lots, type WorkToCover, type ClosedWork, coverWork } from '@core/contracts';
import { datesIn, type Id } from '@core/ground';
import { effectByRate, type EntryEffect, effectUnderContract } from '@core/time';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { type NamedTerms, readCoverTerms } from '../../contracts';
import type { HouseBook } from '../../house';
import { frozenOfContracts } from './is-frozen';
import { onlyOpen, readClosed } from './read-closed';

/** An entry as its contract takes it. */
export interface EntryOfContract extends Row<'time_entry', 'id' | 'starts_at' | 'grade_id' | 'activity_id' | 'ticket_id' | 'contract_id'> {
  readonly effect: EntryEffect | null;
}

/** All open work of a contract with what it drew, in order of its start, what is closed, and the lots as they stand after both. */
export interface DrawnWork {
  readonly terms: NamedTerms;
  readonly closed: ClosedWork;
  /** What each drew stands in its `frozen`. */
  readonly work: readonly WorkToCover[];
  readonly lots: ReadonlyMap<string, Lots>;
}

export interface Covered {
  /** What each entry of the contracts does; of what is frozen, what it did. */
  readonly effects: ReadonlyMap<string, EntryEffect>;
  /** Those whose effect is another than what is stored. */
  readonly changed: readonly Id<'time_entry'>[];
  /** What stands of each contract after it. */
  readonly drawn: ReadonlyMap<string, DrawnWork>;
}

/**
 * What contracts do with all their entries. Two saves of one contract wait for each other where `lock` says so, so that
 * nothing is drawn twice.
 * @param fresh effects by rate of entries that are rated now, by id
 * @param instead entries that are only previewed, in the place of those of their ids
 * @param without entries that would be there no more
 */
export async function coverEntries(
  db: Db,
  book: HouseBook,
  {
    contractIds,
    fresh,
    chosen,
    instead = [],
    without = [],
  }: {
    readonly contractIds: readonly string[];
    readonly fresh: ReadonlyMap<string, EntryEffect>;
    /** How those that are rated now found their contract. */
    readonly chosen: ReadonlyMap<string, ChosenContract>;
    readonly instead?: readonly EntryOfContract[];
    readonly without?: readonly string[];
  },
): Promise<Covered> {
  const terms = await readCoverTerms(db, contractIds);
  const stored: EntryOfContract[] = await db('time_entry as e')
    .leftJoin('entry_effect as x', 'x.time_entry_id', 'e.id')
    .whereIn('e.contract_id', contractIds)
    .whereNull('e.removed_at')
    // What is closed is summed up already.
    .modify(onlyOpen(db, 'e'))
    .select('e.id', 'e.starts_at', 'e.grade_id', 'e.activity_id', 'e.ticket_id', 'e.contract_id', 'x.effect');
  const gone = new Set([...without, ...instead.map((r) => r.id)]);
  const rows = [...stored.filter((r) => !gone.has(r.id)), ...instead];
  const frozen = await frozenOfContracts(db, contractIds);
  const asked = await readAsked(db, terms, rows);
  const closedOf = await readClosed(
    db,
    contractIds,
    rows.flatMap((r) => r.ticket_id ?? []),
  );
  const { currency, zone } = book.house;
  const on = datesIn(zone);
  const effects = new Map<string, EntryEffect>();
  const drawn = new Map<string, DrawnWork>();
  const stood = new Map(stored.flatMap((r) => (r.effect ? [[r.id, r.effect]] : [])));
  for (const [contractId, contract] of terms) {
    const mine = rows.filter((r) => r.contract_id === contractId);
    const byRate = new Map<string, EntryEffect>();
    const whyOf = (row: EntryOfContract) => chosen.get(row.id)?.why ?? row.effect?.under?.chosen ?? [];
    const found = new Map(mine.map((row) => [row.id, whyOf(row)]));
    const work = mine.flatMap((row): WorkToCover[] => {
      const effect = fresh.get(row.id) ?? (row.effect && effectByRate(row.effect, currency));
      if (!effect || effect.is !== 'charged') return [];
      byRate.set(row.id, effect);
      const entry = {
        id: row.id,
        startsAt: row.starts_at,
        on: on(row.starts_at),
        gradeId: row.grade_id,
        activityId: row.activity_id,
        ticketId: row.ticket_id,
        deskId: asked.get(row.ticket_id ?? '')?.desk_id ?? null,
        kind: asked.get(row.ticket_id ?? '')?.kind ?? null,
        stretches: effect.parts,
      };
      if (!frozen.has(row.id)) return [entry];
      // What was decided on before it had this contract stays as it was decided.
      return row.effect?.under?.contractId === contractId ? [{ ...entry, frozen: row.effect.under.stretches }] : [];
    });
    const closed = closedOf(contractId);
    const { entries, lots } = coverWork(contract, work, { currency, closed });
    const stretchesOf = new Map(entries.map((e) => [e.id, e.stretches]));
    drawn.set(contractId, { terms: contract, work: work.map((w) => ({ ...w, frozen: stretchesOf.get(w.id)! })), closed, lots });
    for (const covered of entries)
      effects.set(
        covered.id,
        frozen.has(covered.id)
          ? stood.get(covered.id)!
          : effectUnderContract(byRate.get(covered.id)!, {
              contract: { id: contractId, ...contract },
              chosen: found.get(covered.id)!,
              covered,
              currency,
            }),
      );
  }
  const known = new Set(stored.map((r) => r.id));
  const changed = [...effects].flatMap(([id, effect]) =>
    known.has(id) && !isDeepStrictEqual(stood.get(id), JSON.parse(JSON.stringify(effect))) ? [id] : [],
  );
  return { effects, changed, drawn };
}

type Asked = Row<'ticket', 'id' | 'desk_id' | 'kind'>;

/** The desks and kinds of tickets, where a rule of a contract asks for them. */
async function readAsked(
  db: Db,
  terms: ReadonlyMap<string, NamedTerms>,
  rows: readonly EntryOfContract[],
): Promise<ReadonlyMap<string, Asked>> {
  const asks = [...terms.values()].some((t) => t.rules.some((r) => r.deskIds !== null || r.kinds !== null));
  if (!asks) return new Map();
  const ids = [...new Set(rows.flatMap((r) => r.ticket_id ?? []))];
  const tickets: Asked[] = await db('ticket').whereIn('id', ids).select('id', 'desk_id', 'kind');
  return new Map(tickets.map((t) => [t.id, t]));
}

/** What was drawn of a contract by all its work, by day. */
export function drawsOf({ work, closed }: Pick<DrawnWork, 'work' | 'closed'>): DrawOnDay[] {
  return [...closed.draws, ...work.flatMap(({ on, frozen }) => frozen!.flatMap((s) => s.draws.map((d) => ({ ...d, on }))))];
}
