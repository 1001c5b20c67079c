import type { LocalDate } from '../../ground';
import { CALENDAR_ANCHOR } from '../recurring';

export const ANCHORED = ['the calendar', 'its start'] as const;

/** A day on which periods begin: the contract's own start, or the calendar's. */
export function anchorOf(anchored: (typeof ANCHORED)[number], start: LocalDate): LocalDate {
  return anchored === 'its start' ? start : CALENDAR_ANCHOR;
}
