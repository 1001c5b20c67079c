import { type CoverTerms, periodAt, periodIndex } from '../../contracts';
import type { LocalDate } from '../../ground';

/**
 * The days from which a contract can be open once periods of it are closed: the ends of its periods by today that are later
 * than what is closed, and its own end. Source: docs/calculations.md, Cover.
 * @param closedTo the first open day; null where nothing is closed
 */
export function closable(
  { from, to, schedule }: Pick<CoverTerms, 'from' | 'to' | 'schedule'>,
  { closedTo, today }: { readonly closedTo: LocalDate | null; readonly today: LocalDate },
): LocalDate[] {
  const found: LocalDate[] = [];
  const start = closedTo ?? from;
  for (let n = periodIndex(schedule, start); ; n++) {
    const period = periodAt(schedule, n);
    const end = to !== null && to < period.to ? to : period.to;
    if (end > today) return found;
    if (end > start) found.push(end);
    if (to !== null && to <= period.to) return found;
  }
}
