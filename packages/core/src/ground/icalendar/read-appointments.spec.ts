import fc from 'fast-check';
import { instantAt, parseInstant, parseLocalDate, parseZone, plusDays, type Interval } from '../time';
import { isRefusal } from '../outcome';
import { readAppointments, type Appointment, type ReadCalendar } from '.';

const dublin = parseZone('Europe/Dublin');
const year: Interval = { from: parseInstant('2026-01-01T00:00:00Z'), to: parseInstant('2027-12-31T00:00:00Z') };
const file = (...events: string[][]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//made up//EN',
    ...events.flatMap((e) => ['BEGIN:VEVENT', ...e, 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n');
const read = (text: string, span = year): Appointment[] => {
  const found = readAppointments(text, { span, zone: dublin, quotes: true });
  if (isRefusal(found)) throw new Error(found.detail);
  expect(found.cut).toEqual([]);
  return [...found.appointments];
};
const times = (all: readonly Appointment[]) => all.map((a) => new Date(a.from * 1000).toISOString().slice(0, 16));
const twice = (n: number) => String(n).padStart(2, '0');
const stamp = (date: string, minute: number) => `${date.replaceAll('-', '')}T${twice(Math.floor(minute / 60))}${twice(minute % 60)}00`;

describe('calendars read in', () => {
  it('keep the wall clock of their zone over changes of the clocks, less what was taken out', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 6 * 60, max: 20 * 60 }),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 30 }),
        fc.integer({ min: 0, max: 29 }),
        fc.constantFrom('Europe/Dublin', 'America/New_York', 'Asia/Kolkata'),
        (day, minute, weeks, count, out, tzid) => {
          const first = plusDays(parseLocalDate('2026-01-05'), day);
          const at = (n: number) => plusDays(first, n * weeks * 7);
          const text = file([
            'UID:a',
            `DTSTART;TZID=${tzid}:${stamp(first, minute)}`,
            'DURATION:PT45M',
            `RRULE:FREQ=WEEKLY;INTERVAL=${weeks};COUNT=${count}`,
            `EXDATE;TZID=${tzid}:${stamp(at(out), minute)}`,
          ]);
          const all = read(text, { from: year.from, to: parseInstant('2035-01-01T00:00:00Z') });
          const expected = Array.from({ length: count }, (_, n) => n)
            .filter((n) => n !== out)
            .map((n) => instantAt(at(n), minute, parseZone(tzid)));
          expect(all.map((a) => a.from)).toEqual(expected);
          expect(all.every((a) => a.to - a.from === 2700)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('follow the zone that the file itself describes, whatever its name', () => {
    const zone = `BEGIN:VTIMEZONE\r\nTZID:Two hours ahead\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nTZOFFSETFROM:+0200\r\nTZOFFSETTO:+0200\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\nBEGIN:VEVENT`;
    const text = file(['UID:a', 'DTSTART;TZID=Two hours ahead:20260710T090000', 'DTEND;TZID=Two hours ahead:20260710T100000']).replace(
      'BEGIN:VEVENT',
      zone,
    );
    expect(times(read(text))).toEqual(['2026-07-10T07:00']);
  });

  it('take whole days, times without a zone and unknown zones as the house has them', () => {
    const text = file(
      ['UID:day', 'DTSTART;VALUE=DATE:20260710', 'DTEND;VALUE=DATE:20260712'],
      ['UID:none', 'DTSTART:20260713T090000', 'DTEND:20260713T093000'],
      ['UID:odd', 'DTSTART;TZID=Nowhere/At All:20260714T090000', 'DTEND;TZID=Nowhere/At All:20260714T093000'],
      ['UID:utc', 'DTSTART:20260715T090000Z', 'DTEND:20260715T093000Z'],
    );
    const all = read(text);
    expect(times(all)).toEqual(['2026-07-09T23:00', '2026-07-13T08:00', '2026-07-14T08:00', '2026-07-15T09:00']);
    expect(all[0]!.to - all[0]!.from).toBe(2 * 86_400);
  });

  it('show an occurrence that was moved where it went, and not where it was', () => {
    const text = file(
      ['UID:a', 'DTSTART:20260706T090000Z', 'DTEND:20260706T100000Z', 'RRULE:FREQ=DAILY;COUNT=3', 'SUMMARY:course'],
      ['UID:a', 'RECURRENCE-ID:20260707T090000Z', 'DTSTART:20260709T140000Z', 'DTEND:20260709T150000Z', 'SUMMARY:course, late'],
    );
    expect(read(text).map((a) => a.summary)).toEqual(['course', 'course', 'course, late']);
    expect(times(read(text))).toEqual(['2026-07-06T09:00', '2026-07-08T09:00', '2026-07-09T14:00']);
  });

  it('leave out what is cancelled, free or outside the span', () => {
    const event = (more: string) => ['UID:a', 'DTSTART:20260706T090000Z', 'DTEND:20260706T100000Z', more];
    expect(read(file(event('STATUS:CANCELLED')))).toEqual([]);
    expect(read(file(event('TRANSP:TRANSPARENT')))).toEqual([]);
    expect(read(file(event('STATUS:CONFIRMED')))).toHaveLength(1);
    const at = (from: string, to: string) => read(file(event('CLASS:PUBLIC')), { from: parseInstant(from), to: parseInstant(to) });
    expect(at('2026-07-06T10:00:00Z', '2026-07-07T00:00:00Z')).toEqual([]);
    expect(at('2026-07-06T09:59:59Z', '2026-07-07T00:00:00Z')).toHaveLength(1);
    const never = file(['UID:a', 'DTSTART:20260706T090000Z', 'DTEND:20260706T100000Z', 'RRULE:FREQ=SECONDLY']);
    expect(isRefusal(readAppointments(never, { span: year, zone: dublin, quotes: true }))).toBe(true);
  });

  it('say what cannot be read and where, and nothing breaks on what is no calendar', () => {
    const says = (text: string) => (readAppointments(text, { span: year, zone: dublin, quotes: true }) as { detail: string }).detail;
    expect(says('<html>sign in</html>')).toContain('begins with "<html>sign in</html>"');
    expect(says(file(['UID:a', 'DTSTART:2026']))).toContain('in the appointment a');
    expect(says(file(['UID:b', 'SUMMARY:x']))).toContain('it has no DTSTART');
    expect(read(file())).toEqual([]);
    const whole = file(['UID:a', 'DTSTART:20260706T090000Z', 'DTEND:20260706T100000Z', 'RRULE:FREQ=DAILY;COUNT=3']);
    fc.assert(
      fc.property(fc.nat(whole.length), fc.string({ maxLength: 12 }), (at, junk) => {
        const found = readAppointments(whole.slice(0, at) + junk + whole.slice(at), { span: year, zone: dublin, quotes: true });
        expect(isRefusal(found) || Array.isArray(found.appointments)).toBe(true);
      }),
    );
  });

  it('unfold a series that began long ago as one that began from the start', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('DAILY', 'WEEKLY', 'WEEKLY;BYDAY=MO,WE,SU', 'WEEKLY;WKST=SU;BYDAY=TU'),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 900 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.constantFrom('Europe/Dublin', 'America/New_York'),
        (rule, interval, ago, minute, tzid) => {
          const start = plusDays(parseLocalDate('2025-11-03'), -ago);
          const event = (more: string) => [
            'UID:a',
            `DTSTART;TZID=${tzid}:${stamp(start, minute)}`,
            'DURATION:PT90M',
            `RRULE:FREQ=${rule};INTERVAL=${interval}${more}`,
          ];
          // One that counts its turns is unfolded from its very start.
          expect(read(file(event('')))).toEqual(read(file(event(';COUNT=2500'))));
        },
      ),
      { numRuns: 12 },
    );
  });

  it('say what is not shown: a rule that never falls due, one that repeats for too long, and quote nothing where they may not', () => {
    const of = (rule: string, quotes = true) => {
      const text = file(['UID:a', 'DTSTART:20260101T000000Z', 'DURATION:PT1M', 'SUMMARY:Stand-up', `RRULE:${rule}`]);
      return readAppointments(text, { span: year, zone: dublin, quotes });
    };
    const cut = (rule: string, quotes = true) => (of(rule, quotes) as ReadCalendar).cut.join(' ');
    expect(cut('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30')).toBe('"Stand-up" repeats by a rule that never falls due, and is not shown.');
    expect(cut('FREQ=YEARLY;BYMONTH=4;BYMONTHDAY=31', false)).toBe(
      'One of its appointments repeats by a rule that never falls due, and is not shown.',
    );
    expect(cut('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29')).toBe('');
    const late = readAppointments(file(['UID:a', 'DTSTART:20200101T000000Z', 'DURATION:PT1M', 'RRULE:FREQ=MINUTELY']), {
      span: year,
      zone: dublin,
      quotes: true,
    });
    expect((late as ReadCalendar).cut[0]).toContain('repeats more than 10,000 times; it is shown up to 2020-01-07');
    const detail = (text: string) => (readAppointments(text, { span: year, zone: dublin, quotes: false }) as { detail: string }).detail;
    expect(detail('root:x:0:0 secret')).not.toContain('secret');
    expect(detail(file(['UID:secret', 'DTSTART:secret']))).not.toContain('secret');
  });
});
