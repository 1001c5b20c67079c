import type { ActionTime, TimedAction } from '@core/desk';
import { type Id, isRefusal, type Outcome, type Refusal, refuse, ticketIdOf } from '@core/ground';
import { recordTimeOf } from '../../app/handled-action-time';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';

export interface Timed {
  readonly workId: Id<'work'>;
  readonly action: TimedAction;
  readonly time: ActionTime | null | undefined;
  /** What the entry says was done. */
  readonly note: string;
  /** Only inside: the note of time stands on the client's invoice. */
  readonly inside?: boolean;
}

/** Does what is work on a ticket and records its time with it, ending now: both or neither. The ticket's timer ends with that. */
export async function withTime<T>(
  work: Work,
  book: HouseBook,
  { timed, act }: { readonly timed: Timed; readonly act: () => Promise<Outcome<T>> },
): Promise<Outcome<T>> {
  const missing = timed.time ? undefined : await refuseUntimed(work, book, timed);
  if (missing) return missing;
  const { time, inside = false } = timed;
  // Before what is done, which may ask whether time is recorded and no timer runs.
  const recorded = time ? await recordTimeOf(work, { ...timed, time, inside }) : undefined;
  return isRefusal(recorded) ? recorded : act();
}

/** Some kinds ask for the time of what is done; of those who record none, nothing is asked. */
export async function refuseUntimed(
  work: Work,
  book: HouseBook,
  { workId, action }: Pick<Timed, 'workId' | 'action'>,
): Promise<Refusal | undefined> {
  const ticket = await work
    .tx('ticket')
    .where({ id: ticketIdOf(workId) })
    .first('kind');
  if (!ticket || ticket.kind === 'unsorted' || !book.kindRule(ticket.kind).asksTime.includes(action)) return undefined;
  const person = work.actor.personId && (await work.tx('person').where({ id: work.actor.personId }).first('grade_id'));
  if (!person || !person.grade_id) return undefined;
  return refuse('invalid', `A ${action} on a ticket of the kind ${ticket.kind} asks for its time.`, {
    'time.duration': 'write how long it took',
  });
}
