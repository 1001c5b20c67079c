import type { Instant } from '../time';
import type { WorkCalendar } from './calendar';
import { indexOf } from './working-time-index';

/**
 * Seconds of working time in [from, to); 0 where `to` is not after `from`. Source: docs/calculations.md, Work calendar.
 */
export function workingSeconds(calendar: WorkCalendar, from: Instant, to: Instant): number {
  if (to <= from) return 0;
  if (calendar.kind === 'round-the-clock') return to - from;
  const index = indexOf(calendar);
  index.reach(from, to);
  return index.secondsBefore(to) - index.secondsBefore(from);
}
