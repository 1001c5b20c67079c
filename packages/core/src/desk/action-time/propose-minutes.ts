import type { Instant, Interval } from '../../ground';

/** What is work on a ticket and may carry its time. A visit is a booking that is done. */
export const TIMED_ACTIONS = ['reply', 'note', 'call', 'visit', 'resolve'] as const;
export type TimedAction = (typeof TIMED_ACTIONS)[number];
export const TIME_SOURCES = ['timer', 'booking', 'history', 'nothing'] as const;
export type TimeSource = (typeof TIME_SOURCES)[number];

/** What there is to go by, of one person on one ticket. */
export interface TimeClues {
  /** Seconds of their timer on it; null without one. */
  readonly timerSeconds: number | null;
  /** Their booking on it that has begun, with no time of it recorded yet. */
  readonly booking: Interval | null;
  /** Until when their day is recorded. */
  readonly recordedUntil: Instant | null;
  /** Minutes of what they recorded on work of this kind before. */
  readonly history: readonly number[];
}
const MINUTE = 60;
const LEAST_HISTORY = 8;

/**
 * How long an action took, by the surest there is: a timer, else the booking as far as nothing is recorded of it, else the
 * middle of at least eight like ones before. Whole minutes, at least 1; 0 where there is nothing to go by.
 */
export function proposeMinutes(
  { timerSeconds, booking, recordedUntil, history }: TimeClues,
  now: Instant,
): { readonly minutes: number; readonly from: TimeSource } {
  if (timerSeconds !== null) return { minutes: Math.max(1, Math.round(timerSeconds / MINUTE)), from: 'timer' };
  if (booking) {
    const from = Math.max(booking.from, recordedUntil ?? booking.from);
    const minutes = Math.floor((Math.min(booking.to, now) - from) / MINUTE);
    if (minutes > 0) return { minutes, from: 'booking' };
  }
  if (history.length < LEAST_HISTORY) return { minutes: 0, from: 'nothing' };
  const sorted = [...history].sort((a, b) => a - b);
  return { minutes: sorted[Math.floor((sorted.length - 1) / 2)]!, from: 'history' };
}
