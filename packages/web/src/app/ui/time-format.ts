import { formatInstant, instantAt, parseLocalDate, parseZone } from '@core/ground';
/** Instants in the viewer's zone of choice. Texts come as RFC 3339. */
const cache = new Map<string, Intl.DateTimeFormat>();

function format(zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = zone + JSON.stringify(options);
  let found = cache.get(key);
  if (!found) cache.set(key, (found = new Intl.DateTimeFormat('en-IE', { timeZone: zone, hourCycle: 'h23', ...options })));
  return found;
}

export function clockTime(at: number | Date, zone: string): string {
  return format(zone, { hour: '2-digit', minute: '2-digit' }).format(at);
}

export function isoDay(at: number | Date, zone: string): string {
  return (
    format(zone, { year: 'numeric', month: '2-digit', day: '2-digit' })
      .formatToParts(at)
      .reduce((out, p) => ({ ...out, [p.type]: p.value }), {} as Record<string, string>)['year'] +
    '-' +
    part(at, zone, 'month') +
    '-' +
    part(at, zone, 'day')
  );
}

function part(at: number | Date, zone: string, type: 'month' | 'day'): string {
  return format(zone, { month: '2-digit', day: '2-digit' })
    .formatToParts(at)
    .find((p) => p.type === type)!.value;
}

export function longDay(at: number | Date, zone: string): string {
  return format(zone, { weekday: 'long', day: 'numeric', month: 'long' }).format(at);
}

/** "14:40" today, "Wed 10:40" within six days, else "12 Oct 10:40". */
export function nearTime(at: number, now: number, zone: string): string {
  const time = clockTime(at, zone);
  if (isoDay(at, zone) === isoDay(now, zone)) return time;
  if (Math.abs(at - now) < 6 * 86_400_000) return `${format(zone, { weekday: 'short' }).format(at)} ${time}`;
  return `${format(zone, { day: 'numeric', month: 'short' }).format(at)} ${time}`;
}

/** A time away: its dates where it is of whole days, such as "from 30 Nov 2026 to 1 Dec 2026", else with the times of day. */
export function sayAway(from: number, to: number, zone: string): string {
  const [begins, ends] = [clockTime(from, zone), clockTime(to, zone)];
  const day = (at: number) => plainDate(isoDay(at, zone));
  if (begins !== '00:00' || ends !== '00:00') return `from ${day(from)}, ${begins} to ${day(to)}, ${ends}`;
  const [first, last] = [day(from), day(to - 1)];
  return first === last ? `on ${first}` : `from ${first} to ${last}`;
}

/** A date without a zone, such as 2026-11-24, as "24 Nov 2026". */
export function plainDate(date: string): string {
  return format('UTC', { day: 'numeric', month: 'short', year: 'numeric' }).format(noon(date));
}

/** A moment on the wall clock of a zone, as `datetime-local` takes it: "2026-11-24T10:40". */
export function wallText(at: number, zone: string): string {
  return `${isoDay(at, zone)}T${clockTime(at, zone)}`;
}

/** The instant, in RFC 3339, that such a text names in a zone. */
export function momentOf(wall: string, zone: string): string {
  const [day = '', time = ''] = wall.split('T');
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  return formatInstant(instantAt(parseLocalDate(day), hour * 60 + minute, parseZone(zone)));
}

const noon = (day: string): number => Date.parse(`${day}T12:00:00Z`);

/** A date as the head of a column: "Tue 24". @param day YYYY-MM-DD */
export function shortDay(day: string): string {
  return format('UTC', { weekday: 'short', day: 'numeric' }).format(noon(day));
}

/** A span of dates, both included: "23 to 29 November", "30 November to 6 December", "24 November". */
export function saySpan(first: string, last: string): string {
  const month: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'long' };
  if (first === last) return format('UTC', month).format(noon(first));
  const begins: Intl.DateTimeFormatOptions = first.slice(0, 7) === last.slice(0, 7) ? { day: 'numeric' } : month;
  return `${format('UTC', begins).format(noon(first))} to ${format('UTC', month).format(noon(last))}`;
}
