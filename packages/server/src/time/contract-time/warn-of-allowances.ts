import { periodOf, sayUnits } from '@core/contracts';
import { dateOf, type Id, type LocalDate } from '@core/ground';
import { levelsReached } from '@core/time';
import type { Row } from '../../app/rows';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { tellPerson } from '../../house';
import { useOf } from './read-contract-time';
import { readDrawn } from './read-drawn';

/** Account managers are told once a period when so much of an allowance is used, by the levels that are set. */
export async function warnOfAllowances(work: Work, contractIds: readonly Id<'contract'>[]): Promise<void> {
  const { currency, zone } = work.book.house;
  const today = dateOf(work.now, zone);
  for (const contractId of contractIds) {
    const drawn = await readDrawn(work.tx, work.book, contractId);
    if (!drawn || !drawn.terms.allowances.some((a) => a.measure !== 'unlimited')) continue;
    const { terms, lots } = drawn;
    const period = periodOf(terms.schedule, today);
    for (const allowance of terms.allowances.filter((a) => a.measure !== 'unlimited')) {
      const use = useOf(allowance, { ...drawn, lots: lots.get(allowance.id)!, on: today, today });
      // A block that was bought once is used up once.
      const since = allowance.each === 'once' ? terms.from : period.from;
      const levels = await levelsToTell(work, { allowanceId: allowance.id, since, usedPercent: use.usedPercent });
      const level = levels.at(-1);
      if (level === undefined) continue;
      await work
        .tx('allowance_warning')
        .insert(levels.map((l) => ({ allowance_id: allowance.id, period_from: since, level: l, told_at: at(work.now) })));
      const left = use.left === 0 ? 'nothing is left' : `${sayUnits(allowance.measure, use.left, currency)} left`;
      await tellAccountManagers(work, `${terms.number} ${terms.name}: ${use.usedPercent} % of ${allowance.name} is used, ${left}`);
    }
  }
}

async function levelsToTell(
  work: Work,
  {
    allowanceId,
    since,
    usedPercent,
  }: { readonly allowanceId: Id<'contract_allowance'>; readonly since: LocalDate; readonly usedPercent: number },
): Promise<number[]> {
  const settings: Row<'contract_settings'> = (await work.tx('contract_settings').first())!;
  const told: number[] = await work.tx('allowance_warning').where({ allowance_id: allowanceId, period_from: since }).pluck('level');
  return levelsReached(usedPercent, settings.warn_levels, told);
}

async function tellAccountManagers(work: Work, text: string): Promise<void> {
  const people: Id<'person'>[] = await work.tx('person').where({ role: 'account manager' }).pluck('id');
  for (const personId of people) await tellPerson(work, { personId, text, ticketId: null });
}
