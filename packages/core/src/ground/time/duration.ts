const DAY_MINUTES = 1440;

/**
 * Reads a duration as people type it: "90", "90m", "1:30", "1.5", "1.5h", "1h30", "1 h 40".
 * A plain whole number is minutes; a number with a point or comma is hours.
 * @param most the longest allowed, in minutes; a day, unless said otherwise
 * @returns whole minutes, or undefined where it is none of these or longer than allowed
 */
export function parseMinutes(typed: string, most = DAY_MINUTES): number | undefined {
  const text = typed.trim().toLowerCase().replace(',', '.');
  const minutes = readMinutes(text);
  return minutes !== undefined && Number.isInteger(minutes) && minutes >= 0 && minutes <= most ? minutes : undefined;
}

function readMinutes(text: string): number | undefined {
  let found: RegExpExecArray | null;
  if ((found = /^(\d{1,6})\s*(m|min)?$/.exec(text))) return Number(found[1]);
  if ((found = /^(\d{1,4}):([0-5]\d)$/.exec(text))) return Number(found[1]) * 60 + Number(found[2]);
  if ((found = /^(\d{0,4}\.\d{1,2})\s*h?$/.exec(text))) return Math.round(Number(found[1]) * 60);
  if ((found = /^(\d{1,4})\s*h\s*(?:([0-5]?\d)\s*m?)?$/.exec(text))) return Number(found[1]) * 60 + Number(found[2] ?? 0);
  return undefined;
}

/** Whole minutes as people say them: 100 gives "1 h 40", 25 gives "25 min". */
export function formatMinutes(minutes: number): string {
  const size = Math.abs(minutes);
  const sign = minutes < 0 ? '−' : '';
  if (size < 60) return `${sign}${size} min`;
  const rest = size % 60;
  return `${sign}${Math.floor(size / 60)} h${rest ? ` ${String(rest).padStart(2, '0')}` : ''}`;
}

/** Seconds as people say them, cut towards zero to the minute. */
export function formatSeconds(seconds: number): string {
  return formatMinutes(Math.trunc(seconds / 60));
}
