import type { HoldReason, Status } from '../tickets';

export interface PublicFacts {
  readonly status: Status;
  readonly holdReason: HoldReason | null;
}

const WORDS: Readonly<Record<Status, string>> = {
  new: 'It has arrived and is being looked at.',
  queued: 'It is in our queue.',
  booked: 'Somebody is booked to work on it.',
  underway: 'Somebody is working on it.',
  'on hold': 'It waits.',
  resolved: 'It is resolved. Answer our mail if it is not so for you.',
  closed: 'It is closed.',
};
const HELD: Readonly<Record<HoldReason, string>> = {
  client: 'It waits for an answer of yours.',
  supplier: 'It waits for a supplier.',
  'change window': 'It waits for the hour agreed for the change.',
  umbrella: 'It is worked on together with other reports of the same cause.',
};

/** What a client may know of where their report stands, in one sentence. */
export function publicStatus({ status, holdReason }: PublicFacts): string {
  return status === 'on hold' && holdReason ? HELD[holdReason] : WORDS[status];
}
