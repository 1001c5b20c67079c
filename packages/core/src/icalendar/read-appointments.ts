import ICAL from 'ical.js';
import { isRefusal, refuse, type Outcome } from '../outcome';
import { instantAt, parseLocalDate, parseZone, plusSeconds, type Instant, type Interval, type Zone } from '../time';

/** A time that a calendar says somebody is busy. */
export interface Appointment extends Interval {
  readonly uid: string;
  readonly summary: string;
}

/** A file with more is refused; a rule that repeats more often than this within its years is cut off. */
export const MOST_APPOINTMENTS = 5000;
const MOST_TURNS = 20_000;
const MOST_LETTERS = 200;

/**
 * What an iCalendar file (RFC 5545) says of a span: every occurrence of repeating events, less those taken out, with
 * those that were moved where they went. What is cancelled or leaves its time free is no appointment. Times without a
 * zone, whole days, and zones that neither the file nor the platform knows are read in the zone given.
 */
export function readAppointments(text: string, span: Interval, zone: Zone): Outcome<Appointment[]> {
  const events = readEvents(text);
  if (isRefusal(events)) return events;
  const found: Appointment[] = [];
  for (const series of bySeries(events)) {
    const read = readSeries(series, span, zone);
    if (isRefusal(read)) return read;
    found.push(...read);
    if (found.length > MOST_APPOINTMENTS)
      return refuse('invalid', `The calendar has more than ${MOST_APPOINTMENTS} appointments in the year to come; that is too many.`);
  }
  return found.sort((a, b) => a.from - b.from || (a.uid < b.uid ? -1 : 1));
}

function readEvents(text: string): Outcome<ICAL.Component[]> {
  if (!/^\uFEFF?\s*BEGIN:VCALENDAR/i.test(text))
    return refuse('invalid', `This is no calendar: it begins with "${text.trim().slice(0, 30)}", and should with BEGIN:VCALENDAR.`);
  try {
    const parsed = ICAL.parse(text.replace(/^\uFEFF/, '')) as unknown[];
    // A file may hold several calendars, one after the other.
    const calendars = (typeof parsed[0] === 'string' ? [parsed] : parsed) as unknown[][];
    return calendars.flatMap((c) => new ICAL.Component(c).getAllSubcomponents('vevent'));
  } catch (fault) {
    return unreadable(fault);
  }
}

function unreadable(fault: unknown, uid?: string): Outcome<never> {
  const where = uid ? ` in the appointment ${uid}` : '';
  return refuse('invalid', `The calendar cannot be read${where}: ${(fault as Error).message}.`) as Outcome<never>;
}

/** The events of each UID: what repeats, and the occurrences that were changed by themselves. */
function bySeries(events: readonly ICAL.Component[]): { uid: string; main: ICAL.Component[]; changed: ICAL.Component[] }[] {
  const series = new Map<string, { uid: string; main: ICAL.Component[]; changed: ICAL.Component[] }>();
  for (const [n, event] of events.entries()) {
    const uid = String(event.getFirstPropertyValue('uid') ?? `without a uid, ${n + 1}`);
    const own = series.get(uid) ?? { uid, main: [], changed: [] };
    (event.getFirstProperty('recurrence-id') ? own.changed : own.main).push(event);
    series.set(uid, own);
  }
  return [...series.values()];
}

function readSeries({ uid, main, changed }: ReturnType<typeof bySeries>[number], span: Interval, zone: Zone): Outcome<Appointment[]> {
  try {
    const moved = new Set(changed.map((c) => startOf(c, 'recurrence-id', zone)));
    return [
      ...main.flatMap((event) => occurrences(event, span, zone).filter((o) => !moved.has(o.begun))),
      ...changed.flatMap((event) => occurrences(event, span, zone)),
    ].map(({ from, to, summary }) => ({ uid, from, to, summary }));
  } catch (fault) {
    return unreadable(fault, uid);
  }
}

interface Occurrence extends Interval {
  readonly summary: string;
  /** When the rule put it, which is what a change of it alone refers to. */
  readonly begun: Instant;
}

function occurrences(component: ICAL.Component, span: Interval, zone: Zone): Occurrence[] {
  const event = new ICAL.Event(component, { exceptions: [] });
  if (!component.getFirstProperty('dtstart')) throw new Error('it has no DTSTART');
  if (value(component, 'status') === 'CANCELLED' || value(component, 'transp') === 'TRANSPARENT') return [];
  const tzid = component.getFirstProperty('dtstart')!.getFirstParameter('tzid');
  const summary = (event.summary || 'busy').slice(0, MOST_LETTERS);
  const read = (start: ICAL.Time, end: ICAL.Time): Occurrence => {
    const from = instantOf(start, tzid, zone);
    return { from, to: instantOf(end, tzid, zone), summary, begun: from };
  };
  const within = (o: Occurrence) => o.from < span.to && span.from < o.to;
  if (!event.isRecurring()) return [read(event.startDate, event.endDate)].filter(within);
  const found: Occurrence[] = [];
  const turns = event.iterator();
  for (let n = 0; n < MOST_TURNS; n++) {
    const start: ICAL.Time | undefined = turns.next();
    if (!start) break;
    const { startDate, endDate } = event.getOccurrenceDetails(start);
    const occurrence = read(startDate, endDate);
    if (occurrence.from >= span.to) break;
    if (within(occurrence)) found.push(occurrence);
  }
  return found;
}

function value(component: ICAL.Component, name: string): string {
  return String(component.getFirstPropertyValue(name) ?? '').toUpperCase();
}

function startOf(component: ICAL.Component, name: string, zone: Zone): Instant {
  const property = component.getFirstProperty(name)!;
  return instantOf(property.getFirstValue() as unknown as ICAL.Time, property.getFirstParameter('tzid'), zone);
}

function instantOf(time: ICAL.Time, tzid: string | undefined, house: Zone): Instant {
  const known = !time.isDate && time.zone && time.zone.tzid !== 'floating';
  if (known) return time.toUnixTime() as Instant;
  const date = parseLocalDate(`${pad(time.year, 4)}-${pad(time.month)}-${pad(time.day)}`);
  const zone = time.isDate ? house : zoneOr(tzid, house);
  if (time.isDate) return instantAt(date, 0, zone);
  return plusSeconds(instantAt(date, time.hour * 60 + time.minute, zone), time.second);
}

function zoneOr(tzid: string | undefined, house: Zone): Zone {
  if (!tzid) return house;
  try {
    return parseZone(tzid);
  } catch {
    return house;
  }
}

function pad(n: number, width = 2): string {
  return String(n).padStart(width, '0');
}
