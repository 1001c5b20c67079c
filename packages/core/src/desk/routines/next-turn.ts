import * as rruleModule from 'rrule';
import { dateOf, type Instant, instantAt, type LocalDate, type Outcome, parseLocalDate, plusDays, refuse, type Zone } from '../../ground';

// Where the package comes as CommonJS its names lie under `default`.
const lib = (): typeof rruleModule => ('RRule' in rruleModule ? rruleModule : (rruleModule as { default: typeof rruleModule }).default);

/** When routine work turns up: a rule of RFC 5545 for the dates, and a minute of the local day. */
export interface Routine {
  readonly rule: string;
  readonly startsOn: LocalDate;
  /** Minutes after local midnight. */
  readonly minute: number;
}

const DAILY_AND_UP = /(^|;)FREQ=(DAILY|WEEKLY|MONTHLY|YEARLY)(;|$)/;
const ALLOWED = 'a rule of RFC 5545 by day or longer, such as FREQ=WEEKLY;BYDAY=MO or FREQ=MONTHLY;BYDAY=1TU';
const utc = (date: LocalDate): Date => new Date(`${date}T00:00:00Z`);

/** Reads a rule before it is kept. The hour is given apart, so rules by the hour, and rules with a start of their own, are refused. */
export function readRule(given: string): Outcome<string> {
  const rule = given
    .trim()
    .toUpperCase()
    .replace(/^RRULE:/, '');
  const no = () => refuse('invalid', `"${given}" was given; allowed is ${ALLOWED}.`, { rule: ALLOWED });
  if (!DAILY_AND_UP.test(rule) || /DTSTART|TZID|BYHOUR|BYMINUTE|BYSECOND/.test(rule)) return no();
  try {
    const options = lib().RRule.parseString(rule);
    if (options.freq === undefined || (options.interval ?? 1) < 1) return no();
    return rule;
  } catch {
    return no();
  }
}

/**
 * The first turn after an instant, or nothing where the rule has ended. The dates are those of the zone's
 * calendar, so a turn keeps its local hour over changes of the clocks; in a skipped hour it comes an hour later.
 */
export function nextTurn(routine: Routine, zone: Zone, after: Instant): Instant | undefined {
  const { RRule } = lib();
  const rule = new RRule({ ...RRule.parseString(routine.rule), dtstart: utc(routine.startsOn) });
  let from = utc(plusDays(dateOf(after, zone), -1));
  for (;;) {
    const day = rule.after(from, true);
    if (!day) return undefined;
    const turn = instantAt(parseLocalDate(day.toISOString().slice(0, 10)), routine.minute, zone);
    if (turn > after) return turn;
    from = new Date(day.getTime() + 86_400_000);
  }
}

/** A rule in words: "every week on Monday". */
export function sayRoutine(rule: string): string {
  const { RRule } = lib();
  return new RRule(RRule.parseString(rule)).toText();
}
