/** What sort of ticket. */
export const KINDS = ['unsorted', 'incident', 'service request', 'flat-fee job', 'alert', 'sales follow-up', 'internal'] as const;
export type Kind = (typeof KINDS)[number];
export const SORTED_KINDS = KINDS.filter((kind): kind is Exclude<Kind, 'unsorted'> => kind !== 'unsorted');

export const STATUSES = ['new', 'queued', 'booked', 'underway', 'on hold', 'resolved', 'closed'] as const;
export type Status = (typeof STATUSES)[number];

export const HOLD_REASONS = ['client', 'supplier', 'change window', 'umbrella'] as const;
export type HoldReason = (typeof HOLD_REASONS)[number];

export const DESK_LINES = ['first', 'second'] as const;
export type Line = (typeof DESK_LINES)[number];

export const OUTCOMES = ['solved', 'merged', 'not work', 'withdrawn'] as const;
export type TicketOutcome = (typeof OUTCOMES)[number];

/** What each status does to the clocks. */
export const CLOCK_EFFECT: Readonly<Record<Status, 'runs' | 'holds' | 'stops'>> = {
  new: 'runs',
  queued: 'runs',
  booked: 'runs',
  underway: 'runs',
  'on hold': 'holds',
  resolved: 'stops',
  closed: 'stops',
};

/** Where a person may move a ticket by hand, from each status. New and booked come about by themselves. */
export const STATUS_MOVES: Readonly<Record<Status, readonly Status[]>> = {
  new: ['closed'],
  queued: ['underway', 'on hold', 'resolved'],
  booked: ['queued', 'underway', 'on hold', 'resolved'],
  underway: ['queued', 'on hold', 'resolved'],
  'on hold': ['queued', 'underway', 'resolved'],
  resolved: ['queued', 'underway', 'closed'],
  closed: ['queued'],
};

export function isEnded(status: Status): boolean {
  return CLOCK_EFFECT[status] === 'stops';
}
