import type { Status } from '@core/desk';

const WORDS: Readonly<Partial<Record<Status, string>>> = { underway: 'Underway', resolved: 'Resolve', closed: 'Close' };

/** What the button says that takes a ticket from one status to another. */
export function moveWords(to: Status, from: Status): string {
  if (to === 'queued') return from === 'resolved' || from === 'closed' ? 'Reopen' : 'Back to queue';
  return WORDS[to] ?? '';
}
