import ICAL from 'ical.js';
import { isRefusal, refuse, type Outcome } from '../outcome';
import { broughtNear, neverFallsDue } from './repeating';
import { clipText } from '../text';
import { formatInstant, instantAt, parseLocalDate, parseZone, plusSeconds, type Instant, type Interval, type Zone } from '../time';

/** A time that a calendar says somebody is busy. */
export interface Appointment extends Interval {
  readonly uid: string;
  readonly summary: string;
}

const DAY = 86_400;
/** A file with more is refused. */
export const MOST_APPOINTMENTS = 5000;
/** A rule that falls due more often within the years before and in the span is cut there, and that is said. */
const MOST_TURNS = 10_000;
const MOST_LETTERS = 200;

export interface ReadCalendar {
  readonly appointments: readonly Appointment[];
  /** What is not shown, or not all of it, a sentence each. */
  readonly cut: readonly string[];
}

export interface Reading {
  /** The time that matters; nothing else is unfolded, however long a series has gone on. */
  readonly span: Interval;
  /** For whole days, times without a zone, and zones that neither the file nor the platform knows. */
  readonly zone: Zone;
  /** Whether the words of a refusal may quote the file: not where it came from an address that somebody typed. */
  readonly quotes: boolean;
}

/**
 * What an iCalendar file (RFC 5545) says of a span: every occurrence of repeating events, less those taken out, with
 * those that were moved where they went. What is cancelled or leaves its time free is no appointment.
 */
export function readAppointments(text: string, reading: Reading): Outcome<ReadCalendar> {
  const events = readEvents(text, reading);
  if (isRefusal(events)) return events;
  const appointments: Appointment[] = [];
  const cut: string[] = [];
  for (const series of bySeries(events)) {
    const read = readSeries(series, reading, cut);
    if (isRefusal(read)) return read;
    appointments.push(...read);
    if (appointments.length > MOST_APPOINTMENTS)
      return refuse('invalid', `The calendar has more than ${MOST_APPOINTMENTS} appointments in the year to come; that is too many.`);
  }
  return { appointments: appointments.sort((a, b) => a.from - b.from || (a.uid < b.uid ? -1 : 1)), cut };
}

function readEvents(text: string, reading: Reading): Outcome<ICAL.Component[]> {
  if (!/^\uFEFF?\s*BEGIN:VCALENDAR/i.test(text))
    return refuse(
      'invalid',
      reading.quotes
        ? `This is no calendar: it begins with "${text.trim().slice(0, 30)}", and should with BEGIN:VCALENDAR.`
        : 'What the address gave is no calendar: it should begin with BEGIN:VCALENDAR.',
    );
  try {
    const parsed = ICAL.parse(text.replace(/^\uFEFF/, '')) as unknown[];
    // A file may hold several calendars, one after the other.
    const calendars = (typeof parsed[0] === 'string' ? [parsed] : parsed) as unknown[][];
    return calendars.flatMap((c) => new ICAL.Component(c).getAllSubcomponents('vevent'));
  } catch (fault) {
    return unreadable(fault, reading);
  }
}

function unreadable(fault: unknown, { quotes }: Reading, uid?: string): Outcome<never> {
  if (!quotes) return refuse('invalid', 'What the address gave is a calendar that cannot be read.') as Outcome<never>;
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

function readSeries({ uid, main, changed }: ReturnType<typeof bySeries>[number], reading: Reading, cut: string[]): Outcome<Appointment[]> {
  try {
    const moved = new Set(changed.map((c) => startOf(c, 'recurrence-id', reading.zone)));
    return [
      ...main.flatMap((event) => occurrences(event, reading, cut).filter((o) => !moved.has(o.begun))),
      ...changed.flatMap((event) => occurrences(event, reading, cut)),
    ].map(({ from, to, summary }) => ({ uid, from, to, summary }));
  } catch (fault) {
    return unreadable(fault, reading, uid);
  }
}

interface Occurrence extends Interval {
  readonly summary: string;
  /** When the rule put it, which is what a change of it alone refers to. */
  readonly begun: Instant;
}

function occurrences(component: ICAL.Component, { span, zone, quotes }: Reading, cut: string[]): Occurrence[] {
  if (!component.getFirstProperty('dtstart')) throw new Error('it has no DTSTART');
  if (value(component, 'status') === 'CANCELLED' || value(component, 'transp') === 'TRANSPARENT') return [];
  const own = new ICAL.Event(component, { exceptions: [] });
  const summary = clipText(own.summary || 'busy', MOST_LETTERS);
  const named = quotes ? `"${summary}"` : 'One of its appointments';
  const tzid = component.getFirstProperty('dtstart')!.getFirstParameter('tzid');
  const read = (start: ICAL.Time, end: ICAL.Time): Occurrence => {
    const from = instantOf(start, tzid, zone);
    return { from, to: instantOf(end, tzid, zone), summary, begun: from };
  };
  const within = (o: Occurrence) => o.from < span.to && span.from < o.to;
  if (!own.isRecurring()) return [read(own.startDate, own.endDate)].filter(within);
  if (neverFallsDue(component)) {
    cut.push(`${named} repeats by a rule that never falls due, and is not shown.`);
    return [];
  }
  const event = new ICAL.Event(broughtNear(component, span), { exceptions: [] });
  const length = read(own.startDate, own.endDate);
  const seconds = Math.max(0, length.to - length.from);
  const found: Occurrence[] = [];
  const turns = event.iterator();
  for (let n = 0; ; n++) {
    const start: ICAL.Time | undefined = turns.next();
    if (!start) break;
    const from = instantOf(start, tzid, zone);
    if (from >= span.to) break;
    if (n === MOST_TURNS || found.length > MOST_APPOINTMENTS) {
      cut.push(
        `${named} repeats more than ${MOST_TURNS.toLocaleString('en')} times; it is shown up to ${formatInstant(from).slice(0, 10)}.`,
      );
      break;
    }
    // Only what may touch the span is worked out whole.
    if (from + seconds + DAY <= span.from) continue;
    const { startDate, endDate } = event.getOccurrenceDetails(start);
    const occurrence = read(startDate, endDate);
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
