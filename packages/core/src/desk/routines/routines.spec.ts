import fc from 'fast-check';
import {
  dateOf,
  formatInstant,
  type Instant,
  isRefusal,
  type LocalDate,
  parseInstant,
  parseLocalDate,
  parseZone,
  plusDays,
  wallMinuteOf,
  weekdayOf,
} from '../../ground';
import { nextTurn, readRule, sayRoutine, type Routine } from '.';

const DUBLIN = parseZone('Europe/Dublin');
const day = (text: string) => parseLocalDate(text);
const at = (text: string) => parseInstant(`${text}:00Z`);
const turns = (routine: Routine, from: Instant, count: number): string[] => {
  const found: string[] = [];
  for (let t: Instant | undefined = from; found.length < count;) {
    t = nextTurn(routine, DUBLIN, t);
    if (t === undefined) break;
    found.push(formatInstant(t));
  }
  return found;
};

describe('routine work', () => {
  it('turns up at its local hour, before and after the clocks change', () => {
    const mondays: Routine = { rule: 'FREQ=WEEKLY;BYDAY=MO', startsOn: day('2026-10-01'), minute: 8 * 60 + 30 };
    expect(turns(mondays, at('2026-10-15T00:00'), 3)).toEqual(['2026-10-19T07:30:00Z', '2026-10-26T08:30:00Z', '2026-11-02T08:30:00Z']);
    const nights: Routine = { rule: 'FREQ=DAILY', startsOn: day('2027-03-01'), minute: 90 };
    // 01:30 does not exist on the last Sunday of March; it comes an hour later.
    expect(turns(nights, at('2027-03-27T02:00'), 2)).toEqual(['2027-03-28T01:30:00Z', '2027-03-29T00:30:00Z']);
  });

  it('ends where its rule ends, and never comes before its start', () => {
    const twice: Routine = { rule: 'FREQ=MONTHLY;BYDAY=1TU;COUNT=2', startsOn: day('2026-11-24'), minute: 600 };
    expect(turns(twice, at('2026-01-01T00:00'), 5)).toEqual(['2026-12-01T10:00:00Z', '2027-01-05T10:00:00Z']);
    expect(nextTurn({ ...twice, rule: 'FREQ=DAILY;UNTIL=20261130T000000Z' }, DUBLIN, at('2026-12-05T00:00'))).toBeUndefined();
  });

  it('is always later, at its minute, on a date of its rule, and no such date lies between', () => {
    const start = day('2026-01-01');
    const names = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 7 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 0, max: 600 * 86_400 }),
        (weekdays, minute, seconds) => {
          const after = (at('2026-01-05T00:00') + seconds) as Instant;
          const routine: Routine = { rule: `FREQ=WEEKLY;BYDAY=${weekdays.map((w) => names[w - 1]).join(',')}`, startsOn: start, minute };
          const turn = nextTurn(routine, DUBLIN, after)!;
          expect(turn).toBeGreaterThan(after);
          expect(weekdays).toContain(weekdayOf(dateOf(turn, DUBLIN)));
          expect([minute, (minute + 60) % 1440]).toContain(wallMinuteOf(turn, DUBLIN));
          for (let d: LocalDate = plusDays(dateOf(after, DUBLIN), 1); d < dateOf(turn, DUBLIN); d = plusDays(d, 1))
            expect(weekdays).not.toContain(weekdayOf(d));
        },
      ),
    );
  });

  it.each([
    '',
    'every Monday',
    'FREQ=HOURLY',
    'FREQ=DAILY;BYHOUR=3',
    'FREQ=WEEKLY;DTSTART=20260101T000000Z',
    'FREQ=FORTNIGHTLY',
    'FREQ=DAILY;INTERVAL=0',
  ])('refuses the rule "%s" and says what is allowed', (given) => {
    const read = readRule(given);
    expect(isRefusal(read) && read.fields?.['rule']).toContain('FREQ=WEEKLY;BYDAY=MO');
  });

  it('reads rules as people paste them, and says them', () => {
    expect(readRule(' rrule:freq=weekly;byday=mo ')).toBe('FREQ=WEEKLY;BYDAY=MO');
    expect(sayRoutine('FREQ=WEEKLY;BYDAY=MO')).toBe('every week on Monday');
    expect(sayRoutine('FREQ=MONTHLY;BYDAY=1TU')).toBe('every month on the 1st Tuesday');
  });
});
