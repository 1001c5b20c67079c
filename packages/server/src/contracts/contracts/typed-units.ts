import { grantUnits, type Measure } from '@core/contracts';
import { type Outcome, refuse } from '@core/ground';
import type { Work } from '../../app/work';

/** What somebody typed of an allowance, as its units; refused where it is no whole number of them. */
export function unitsOf(work: Work, measure: Measure, typed: string): Outcome<{ units: number }> {
  if (measure === 'unlimited') return { units: 0 };
  const units = grantUnits(measure, typed, work.book.house.currency);
  const allowed = { hours: 'hours that are whole minutes, such as 12 or 0.25', money: 'an amount of money', incidents: 'a whole number' };
  return units === undefined ? refuse('invalid', `${typed} is not ${allowed[measure]}.`, { grant: allowed[measure] }) : { units };
}
