import fc from 'fast-check';
import { dateOf, hoursOn, type Instant, isHoliday, parseCalendar, parseInstant, plusSeconds, wallMinuteOf } from '../../ground';
import { splitByBand } from '.';

const calendars = ['Europe/Dublin', 'America/New_York', 'Asia/Kolkata', 'Pacific/Auckland'].map((zone) =>
  parseCalendar({
    name: zone,
    zone,
    week: [['08:30-12:30', '13:15-17:30'], ['08:30-17:30'], ['00:00-24:00'], ['08:30-17:30'], ['06:00-14:00'], [], ['22:00-24:00']],
    dates: { '2026-03-29': [], '2026-10-25': ['01:00-03:00'], '2026-11-03': [] },
  }),
);
/** Around changes of the clocks, and in plain weeks. */
const STARTS = ['2026-03-27T00:00:00Z', '2026-10-24T00:00:00Z', '2026-10-31T00:00:00Z', '2026-06-01T00:00:00Z'].map(parseInstant);

describe('time bands of an entry', () => {
  it('cover it whole, in order, and say of every minute what the wall clock says', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...calendars),
        fc.constantFrom(...STARTS),
        fc.integer({ min: 0, max: 4 * 1440 }),
        fc.integer({ min: 1, max: 2 * 1440 }),
        (calendar, start, offset, minutes) => {
          const from = plusSeconds(start, offset * 60);
          const to = plusSeconds(from, minutes * 60);
          const parts = splitByBand(calendar, from, to);
          expect([parts[0]!.from, parts.at(-1)!.to]).toEqual([from, to]);
          for (const [i, part] of parts.entries()) {
            expect(part.to).toBeGreaterThan(part.from);
            if (i) expect([part.from, part.band !== parts[i - 1]!.band]).toEqual([parts[i - 1]!.to, true]);
          }
          for (let at = from as number; at < to; at += 7 * 60) {
            const date = dateOf(at as Instant, calendar.zone);
            const minute = wallMinuteOf(at as Instant, calendar.zone);
            const working = hoursOn(calendar, date).some((h) => h.from <= minute && minute < h.to);
            const band = isHoliday(calendar, date) ? 'holiday' : working ? 'working hours' : 'out of hours';
            expect(parts.find((p) => p.from <= at && at < p.to)!.band).toBe(band);
          }
        },
      ),
    );
  });
});
