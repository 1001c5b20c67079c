import type { ClockFact } from '../clocks';
import { type Instant, type Outcome, refuse } from '../../ground';
import { CLOCK_EFFECT, isEnded, STATUS_MOVES, type HoldReason, type Status } from './ticket';

export interface StatusMove {
  readonly status: Status;
  readonly holdReason: HoldReason | null;
  /** What the clocks are told. */
  readonly facts: readonly ClockFact[];
}

/**
 * Decides a move asked for by a person.
 * @param renamed it stays where it is, under another name of the house's own or for another reason
 * @returns the move with what it means for the clocks, or why it cannot be
 */
export function moveStatus({
  from,
  to,
  holdReason,
  at,
  renamed = false,
}: {
  readonly from: Status;
  readonly to: Status;
  readonly holdReason: HoldReason | null;
  readonly at: Instant;
  readonly renamed?: boolean;
}): Outcome<StatusMove> {
  if (from === to && !renamed) return refuse('not-possible-now', `The ticket is ${to} already.`);
  if (from !== to && !STATUS_MOVES[from].includes(to))
    return refuse('not-possible-now', `A ticket that is ${from} can become ${STATUS_MOVES[from].join(', ')}, not ${to}.`, {
      status: `not ${to} from ${from}`,
    });
  if (to === 'on hold' && !holdReason)
    return refuse('invalid', 'Say what it waits for.', { holdReason: 'choose client, supplier or change window' });
  return { status: to, holdReason: to === 'on hold' ? holdReason : null, facts: factsOfMove({ from, to, holdReason, at }) };
}

/** What a change of status tells the clocks. */
export function factsOfMove({
  from,
  to,
  holdReason,
  at,
}: {
  readonly from: Status;
  readonly to: Status;
  readonly holdReason: HoldReason | null;
  readonly at: Instant;
}): ClockFact[] {
  const facts: ClockFact[] = [];
  if (isEnded(from) && !isEnded(to)) facts.push({ at, is: 'reopened' });
  const effect = CLOCK_EFFECT[to];
  if (effect === 'holds') facts.push({ at, is: 'held', reason: holdReason ?? 'client' });
  else if (effect === 'stops' && !isEnded(from)) facts.push({ at, is: 'resolved' });
  else if (effect === 'runs' && CLOCK_EFFECT[from] === 'holds') facts.push({ at, is: 'runs' });
  return facts;
}
