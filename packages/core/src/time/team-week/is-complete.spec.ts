import { parseLocalDate, type LocalDate } from '../../ground';
import { isComplete } from '.';

const day = (n: number, expectedMinutes = 480) => ({ day: parseLocalDate(`2026-11-${n}`), expectedMinutes });
const on = (n: number): LocalDate => parseLocalDate(`2026-11-${n}`);
const week = [day(23), day(24), day(25), day(26), day(27), day(28, 0), day(29, 0)];

describe('a week that is complete', () => {
  it('reaches the last day that is over and had anything expected', () => {
    expect(isComplete(week, null, on(23))).toBe(true);
    expect(isComplete(week, null, on(24))).toBe(false);
    expect([isComplete(week, on(23), on(24)), isComplete(week, on(23), on(25))]).toEqual([true, false]);
    expect([isComplete(week, on(27), on(30)), isComplete(week, on(26), on(30))]).toEqual([true, false]);
    expect(isComplete([day(28, 0)], null, on(30))).toBe(true);
  });
});
