import { parseLocalDate, parseZone, type Instant, type LocalDate, type Zone } from '../time';

/** Hours of one date on the wall clock: minutes after 00:00, from 0 to 1440, from before to. */
export interface Hours {
  readonly from: number;
  readonly to: number;
}

/** When work is done. Source: docs/calculations.md, Work calendar. */
export type WorkCalendar = RoundTheClock | WeeklyCalendar;

/** Every second counts, and no holiday is known. */
export interface RoundTheClock {
  readonly kind: 'round-the-clock';
  readonly name: string;
}

export interface WeeklyCalendar {
  readonly kind: 'weekly';
  readonly name: string;
  readonly zone: Zone;
  /** Seven entries, Monday first. */
  readonly week: readonly (readonly Hours[])[];
  /** Dates with hours of their own; an empty list is a holiday. */
  readonly dates: Readonly<Record<LocalDate, readonly Hours[]>>;
  /** What held before this did, which may have had another before it. Time counted then stays counted. */
  readonly earlier?: { readonly until: Instant; readonly calendar: WeeklyCalendar };
}

/** A calendar as written down: hours as "08:30-17:30" on the wall clock of `zone`. */
export interface WrittenCalendar {
  readonly name: string;
  readonly zone: string;
  readonly week: readonly (readonly string[])[];
  readonly dates?: Readonly<Record<string, readonly string[]>>;
}

export const ROUND_THE_CLOCK: RoundTheClock = { kind: 'round-the-clock', name: 'round the clock' };

/**
 * Reads a calendar as it is written down.
 * @throws RangeError naming the day and what was given, where a zone, date or interval is none
 */
export function parseCalendar(written: WrittenCalendar): WeeklyCalendar {
  if (written.week.length !== 7) throw new RangeError(`a week has 7 days, given ${written.week.length}`);
  const dates: Record<LocalDate, Hours[]> = {};
  for (const [date, hours] of Object.entries(written.dates ?? {})) dates[parseLocalDate(date)] = hours.map((h) => parseHours(h, date));
  return {
    kind: 'weekly',
    name: written.name,
    zone: parseZone(written.zone),
    week: written.week.map((hours, day) => hours.map((h) => parseHours(h, `day ${day + 1}`))),
    dates,
  };
}

/** A calendar that takes the place of another at an instant. */
export function replaceCalendar(earlier: WeeklyCalendar, until: Instant, next: WeeklyCalendar): WeeklyCalendar {
  return { ...next, earlier: { until, calendar: earlier } };
}

function parseHours(text: string, place: string): Hours {
  const found = /^(\d{2}):([0-5]\d)-(\d{2}):([0-5]\d)$/.exec(text);
  const from = found ? Number(found[1]) * 60 + Number(found[2]) : NaN;
  const to = found ? Number(found[3]) * 60 + Number(found[4]) : NaN;
  if (!(from < to && to <= 1440))
    throw new RangeError(`${place}: not hours within one date: "${text}"; write them as 08:30-17:30, up to 24:00`);
  return { from, to };
}
