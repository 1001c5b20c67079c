import type { LocalDate } from '../../ground';

/**
 * Whether somebody's time of some days is complete: what is declared reaches the last of those that have come and had
 * anything expected. Somebody of whom nothing was expected yet is complete.
 * @param today a day is asked for once it is over, so today itself is not
 */
export function isComplete(
  days: readonly { readonly day: LocalDate; readonly expectedMinutes: number }[],
  upTo: LocalDate | null,
  today: LocalDate,
): boolean {
  const asked = days.filter((d) => d.day < today && d.expectedMinutes > 0).map((d) => d.day);
  const last = asked.sort().at(-1);
  return last === undefined || (upTo !== null && upTo >= last);
}
