import fc from 'fast-check';
import { type Instant, parseCalendar, parseInstant, parseZone, plusSeconds } from '../../ground';
import { gatherTime, HOURS_BY, partsOf, shareOf, type WorkedTime } from '.';

const calendar = parseCalendar({
  name: 'house',
  zone: parseZone('Europe/Dublin'),
  week: [...Array<string[]>(5).fill(['08:00-18:00']), [], []],
  dates: { '2026-10-26': [] },
});
const start = parseInstant('2026-10-24T00:00:00Z');
const worked: fc.Arbitrary<WorkedTime> = fc.record({
  id: fc.uuid(),
  key: fc.record({ technician: fc.constantFrom('a', 'b', 'c'), client: fc.constantFrom('x', 'y'), activity: fc.constantFrom('q', 'r') }),
  name: fc.constant({ technician: 'T', client: 'C', activity: 'A' }),
  from: fc.integer({ min: 0, max: 6 * 86_400 }).map((s): Instant => plusSeconds(start, s)),
  minutes: fc.integer({ min: 0, max: 1440 }),
  billable: fc.boolean(),
});

describe('hours', () => {
  it('add up to the same, whatever they are gathered by, over nights, holidays and a change of the clock', () => {
    fc.assert(
      fc.property(fc.array(worked, { maxLength: 40 }), fc.constantFrom(...HOURS_BY), (entries, by) => {
        const rows = gatherTime(partsOf(entries, by, calendar));
        const sum = (of: readonly { minutes: number }[]) => of.reduce((s, one) => s + one.minutes, 0);
        expect(sum(rows)).toBe(sum(entries));
        expect(rows.reduce((s, r) => s + r.billableMinutes, 0)).toBe(sum(entries.filter((e) => e.billable)));
        expect(new Set(rows.map((r) => r.key)).size).toBe(rows.length);
      }),
    );
  });

  it('are cut at the border of a time band to the minute', () => {
    const one = (from: string, minutes: number): WorkedTime => ({
      id: 'e',
      key: { technician: 'a', client: 'x', activity: 'q' },
      name: { technician: 'Ana', client: 'X', activity: 'remote' },
      from: parseInstant(from),
      minutes,
      billable: true,
    });
    // 17:15 to 18:45 on a Friday in summer time, and the hour that the clock repeats on Sunday.
    const rows = gatherTime(partsOf([one('2026-10-23T16:15:00Z', 90), one('2026-10-25T00:30:00Z', 60)], 'time band', calendar));
    expect(rows).toEqual([
      { key: 'out of hours', name: 'out of hours', minutes: 105, billableMinutes: 105 },
      { key: 'working hours', name: 'working hours', minutes: 45, billableMinutes: 45 },
    ]);
    expect(gatherTime(partsOf([one('2026-10-25T23:30:00Z', 60)], 'time band', calendar))).toEqual(
      [
        { key: 'out of hours', name: 'out of hours', minutes: 30, billableMinutes: 30 },
        { key: 'holiday', name: 'holiday', minutes: 30, billableMinutes: 30 },
      ].sort((a, b) => a.name.localeCompare(b.name)),
    );
  });

  it('say their billable share, cut to whole percent, and none of nothing', () => {
    expect([shareOf(2, 3), shareOf(3, 3), shareOf(0, 9), shareOf(0, 0)]).toEqual([66, 100, 0, undefined]);
  });
});
