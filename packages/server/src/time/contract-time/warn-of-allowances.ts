import { type Allowance, periodOf, sayUnits } from '@core/contracts';
import { dateOf, type LocalDate, parseLocalDate } from '@core/ground';
import { type AllowanceUseWire, levelsReached } from '@core/time';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { tellRole } from '../../house';
import type { DrawnWork } from '../time-entries/cover-entries';
import { useOf } from './read-contract-time';

/** Account managers are told once a period when so much of an allowance is used, by the levels that are set. @param drawn by contract */
export async function warnOfAllowances(work: Work, drawn: ReadonlyMap<string, DrawnWork>): Promise<void> {
  const today = dateOf(work.now, work.book.house.zone);
  for (const [contractId, all] of drawn)
    for (const allowance of all.terms.allowances.filter((a) => a.measure !== 'unlimited')) {
      const use = useOf(allowance, { ...all, lots: all.lots.get(allowance.id)!, on: today, today });
      const levels = await levelsToTell(work, { allowance, since: sinceOf(all, { allowance, use, today }), use });
      if (levels.length) await tell(work, { contractId, drawn: all, use });
    }
}

/** When the levels are told anew: with each period; of what is granted once, with each block that was bought. */
function sinceOf({ terms }: DrawnWork, { allowance, use, today }: Levels): LocalDate {
  if (allowance.each !== 'once') return periodOf(terms.schedule, today).from;
  return use.lots.reduce((latest, lot) => (lot.from > latest ? parseLocalDate(lot.from) : latest), terms.from);
}

interface Levels {
  readonly allowance: Allowance;
  readonly use: AllowanceUseWire;
  readonly today: LocalDate;
}

/** Those that were reached and not told yet; they are told from now on. */
async function levelsToTell(
  work: Work,
  { allowance, since, use }: { readonly allowance: Allowance; readonly since: LocalDate; readonly use: AllowanceUseWire },
): Promise<number[]> {
  const settings: Row<'contract_settings'> = (await work.tx('contract_settings').first())!;
  const reached = levelsReached(use.usedPercent, settings.warn_levels, []);
  if (!reached.length) return [];
  const told: number[] = await work.tx('allowance_warning').where({ allowance_id: allowance.id, period_from: since }).pluck('level');
  const levels = levelsReached(use.usedPercent, settings.warn_levels, told);
  const row = { allowance_id: allowance.id, period_from: since, told_at: at(work.now) };
  if (levels.length) await work.tx('allowance_warning').insert(levels.map((level) => ({ ...row, level })));
  return levels;
}

async function tell(
  work: Work,
  { contractId, drawn, use }: { readonly contractId: string; readonly drawn: DrawnWork; readonly use: AllowanceUseWire },
): Promise<void> {
  const { number, name } = drawn.terms;
  const { division_id: divisionId } = (await work.tx('contract').where({ id: contractId }).first('division_id'))!;
  const left = use.left === 0 ? 'nothing is left' : `${sayUnits(use.measure, use.left, work.book.house.currency)} left`;
  const text = `${number} ${name}: ${use.usedPercent} % of ${use.name} is used, ${left}`;
  await tellRole(work, { divisionId, role: 'account manager', text });
}
