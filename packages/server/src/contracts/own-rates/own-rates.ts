import type { ContractWire, OwnRateForm, OwnRoundingForm } from '@core/contracts';
import { type Id, isRefusal, type LocalDate, type Outcome, parseLocalDate, plusDays, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import { changeRow } from '../../app/change-row';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';

type Changed = Outcome<{ id: string; version: number }>;
interface Seen {
  readonly contractId: Id<'contract'>;
  readonly version: number;
}

/** A contract's rates, over those of its client and of the house. */
export async function setOwnRates(work: Work, { contractId, version }: Seen, rates: readonly OwnRateForm[]): Promise<Changed> {
  const backwards = rates.findIndex((r) => r.lastDay !== null && r.lastDay < r.from);
  if (backwards >= 0)
    return refuse('invalid', 'A rate ends before it begins.', { [`rates.${backwards}.lastDay`]: `${rates[backwards]!.from} or later` });
  const changed = await changeRow(work, { table: 'contract', id: contractId, version, set: {} });
  if (isRefusal(changed)) return changed;
  const { client_id } = (await work.tx('contract').where({ id: contractId }).first('client_id'))!;
  await work.tx('rate_rule').where({ contract_id: contractId }).delete();
  if (rates.length)
    await work.tx('rate_rule').insert(
      rates.map((r) => ({
        level: 'contract' as const,
        client_id,
        contract_id: contractId,
        grade_id: r.gradeId,
        activity_id: r.activityId,
        band: r.band,
        rate: r.rate,
        valid_from: parseLocalDate(r.from),
        valid_to: firstWithout(r.lastDay),
      })),
    );
  const stored = await readOwnRates(work.tx, contractId);
  await work.tell('contract.rates-set', contractId, { rates: stored.map((r) => r.says) });
  return changed;
}

const firstWithout = (lastDay: string | null): LocalDate | null => (lastDay === null ? null : plusDays(parseLocalDate(lastDay), 1));

/** How a contract rounds time, for an activity or for all that have no rule of their own here. */
export async function setOwnRoundings(work: Work, { contractId, version }: Seen, roundings: readonly OwnRoundingForm[]): Promise<Changed> {
  const twice = roundings.findIndex((r, n) => roundings.findIndex((o) => o.activityId === r.activityId) < n);
  if (twice >= 0)
    return refuse('invalid', 'Two rules round the same work.', { [`roundings.${twice}.activityId`]: 'an activity that is not named yet' });
  const changed = await changeRow(work, { table: 'contract', id: contractId, version, set: {} });
  if (isRefusal(changed)) return changed;
  await work.tx('contract_rounding').where({ contract_id: contractId }).delete();
  if (roundings.length)
    await work
      .tx('contract_rounding')
      .insert(roundings.map(({ activityId, ...r }, position) => ({ contract_id: contractId, position, activity_id: activityId, ...r })));
  const stored = await readOwnRoundings(work.tx, contractId);
  await work.tell('contract.roundings-set', contractId, { roundings: stored.map((r) => r.says) });
  return changed;
}

/** Rates of a contract in the order of what they name, each in words: "Engineer, out of hours: 140 an hour". */
export async function readOwnRates(db: Db, contractId: Id<'contract'>): Promise<ContractWire['rates']> {
  const rows: (Row<'rate_rule'> & { readonly grade: string | null; readonly activity: string | null })[] = await db('rate_rule as r')
    .leftJoin('grade as g', 'g.id', 'r.grade_id')
    .leftJoin('activity as a', 'a.id', 'r.activity_id')
    .where({ 'r.contract_id': contractId })
    .orderByRaw('g.position nulls last, a.position nulls last, r.band nulls last, r.valid_from, r.id')
    .select('r.*', 'g.name as grade', 'a.name as activity');
  return rows.map((r) => ({
    gradeId: r.grade_id,
    activityId: r.activity_id,
    band: r.band as ContractWire['rates'][number]['band'],
    rate: plainDecimal(r.rate),
    from: r.valid_from,
    lastDay: r.valid_to === null ? null : plusDays(r.valid_to, -1),
    says: [r.grade, r.activity, r.band].filter((part) => part !== null).join(', ') || 'all work',
  }));
}

export async function readOwnRoundings(db: Db, contractId: Id<'contract'>): Promise<ContractWire['roundings']> {
  const rows: (Row<'contract_rounding'> & { readonly activity: string | null })[] = await db('contract_rounding as r')
    .leftJoin('activity as a', 'a.id', 'r.activity_id')
    .where({ 'r.contract_id': contractId })
    .orderBy('r.position')
    .select('r.*', 'a.name as activity');
  return rows.map(({ activity_id, increment, mode, minimum, activity }) => ({
    activityId: activity_id,
    increment,
    mode,
    minimum,
    says: `${activity ?? 'all work'}: ${mode} to ${increment} min, at least ${minimum} min`,
  }));
}

/** How contracts round an activity; undefined leaves it to the activity. */
export type OwnRoundings = (
  contractId: string | null,
  activityId: string,
) => Pick<Row<'contract_rounding'>, 'increment' | 'mode' | 'minimum'> | undefined;

export async function readRoundingsOf(db: Db, contractIds: readonly string[]): Promise<OwnRoundings> {
  const rows: Row<'contract_rounding'>[] = contractIds.length ? await db('contract_rounding').whereIn('contract_id', contractIds) : [];
  return (contractId, activityId) => {
    const mine = rows.filter((r) => r.contract_id === contractId);
    const found = mine.find((r) => r.activity_id === activityId) ?? mine.find((r) => r.activity_id === null);
    return found && { increment: found.increment, mode: found.mode, minimum: found.minimum };
  };
}
