import { type LocalDate, plusDays } from '../../ground';

/** What was drawn on a day, in units of the allowance. */
export interface DrawnOn {
  readonly on: LocalDate;
  readonly units: number;
}

export interface DrawDown {
  /** What is left at the end of each day on which something was drawn, from the first day on. */
  readonly points: readonly { readonly on: LocalDate; readonly left: number }[];
  readonly used: number;
  /** Of what was granted, cut to a whole number; above 100 where more was drawn than one lot holds. */
  readonly usedPercent: number;
  /** The day on which nothing is left at the present pace; null where it lasts, or nothing was drawn. */
  readonly runsOut: LocalDate | null;
}

/** From how many percent on an allowance is said to be nearly used up. */
export const WARN_PERCENT = 80;

/**
 * The levels that what was used has reached and of which nobody was told yet, lowest first.
 * @param levels in percent
 * @param told the levels of the period of which somebody was told
 */
export function levelsReached(usedPercent: number, levels: readonly number[], told: readonly number[]): number[] {
  return levels.filter((level) => usedPercent >= level && !told.includes(level)).sort((a, b) => a - b);
}

/** How many days up to today say how fast something is drawn. */
export const PACE_DAYS = 28;

/**
 * How what was granted for a span is drawn down. The pace is what was drawn in the last four weeks, also before the span.
 * @param to the first day after the span
 * @param granted when the span begins
 * @param added what was granted since, by day
 * @param recent what was drawn in the last PACE_DAYS, today among them
 */
export function drawDown(
  { from, to, granted }: { readonly from: LocalDate; readonly to: LocalDate; readonly granted: number },
  {
    draws,
    added = [],
    recent,
    today,
  }: { readonly draws: readonly DrawnOn[]; readonly added?: readonly DrawnOn[]; readonly recent: number; readonly today: LocalDate },
): DrawDown {
  const byDay = new Map<LocalDate, number>();
  const change = (on: LocalDate, units: number) => byDay.set(on, (byDay.get(on) ?? 0) + units);
  for (const { on, units } of draws) change(on, -units);
  for (const { on, units } of added) change(on, units);
  let left = granted;
  const points = [{ on: from, left: granted }];
  for (const on of [...byDay.keys()].sort()) {
    left += byDay.get(on)!;
    if (on === from) points[0] = { on, left };
    else points.push({ on, left });
  }
  const all = granted + added.reduce((sum, a) => sum + a.units, 0);
  const used = all - left;
  const usedPercent = all === 0 ? 0 : Math.floor((used * 100) / all);
  if (recent <= 0 || left <= 0) return { points, used, usedPercent, runsOut: left <= 0 && used > 0 ? points.at(-1)!.on : null };
  const empty = plusDays(today, Math.ceil((left * PACE_DAYS) / recent));
  return { points, used, usedPercent, runsOut: empty < to ? empty : null };
}
