import type { ActionTime, TimedAction } from '@core/desk';
import { formatInstant, isRefusal, type Outcome, parseMinutes, plusSeconds, type Refusal, refuse } from '@core/ground';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';
import { addEntry } from '../../time/time-entries/record-time';
import { endTimer } from '../../time/time-entries/timers';

export interface Timed {
  readonly workId: string;
  readonly action: TimedAction;
  readonly time: ActionTime | null | undefined;
  /** What the entry says was done. */
  readonly note: string;
  /** Only inside: the note of time stands on the client's invoice. */
  readonly inside?: boolean;
}
const NOTE_MOST = 200;

/** Does what is work on a ticket and records its time with it, ending now: both or neither. The ticket's timer ends with that. */
export async function withTime<T>(
  work: Work,
  book: HouseBook,
  { timed, act }: { readonly timed: Timed; readonly act: () => Promise<Outcome<T>> },
): Promise<Outcome<T>> {
  const missing = timed.time ? undefined : await refuseUntimed(work, book, timed);
  if (missing) return missing;
  const recorded = timed.time ? await record(work, book, { timed, time: timed.time }) : undefined;
  return isRefusal(recorded) ? recorded : act();
}

/** Before what is done, which may ask whether time is recorded and no timer runs. */
async function record(
  work: Work,
  book: HouseBook,
  { timed, time: { duration, activityId, billable, reason, distance = null } }: { readonly timed: Timed; readonly time: ActionTime },
): Promise<Outcome<unknown>> {
  const said = timed.note.replace(/\s+/g, ' ').trim().slice(0, NOTE_MOST) || timed.action;
  const entry = await addEntry(work, book, {
    workId: timed.workId,
    startsAt: formatInstant(plusSeconds(work.now, -parseMinutes(duration)! * 60)),
    duration,
    activityId,
    note: timed.inside ? null : said,
    insideNote: timed.inside ? said : null,
    billable,
    reason,
    distance,
  });
  if (isRefusal(entry))
    return { ...entry, fields: Object.fromEntries(Object.entries(entry.fields ?? {}).map(([f, m]) => [`time.${f}`, m])) };
  await endTimer(work, { work_id: timed.workId });
  return entry;
}

/** Some kinds ask for the time of what is done; of those who record none, nothing is asked. */
export async function refuseUntimed(
  work: Work,
  book: HouseBook,
  { workId, action }: Pick<Timed, 'workId' | 'action'>,
): Promise<Refusal | undefined> {
  const ticket = await work.tx('ticket').where({ id: workId }).first('kind');
  if (!ticket || ticket.kind === 'unsorted' || !book.kindRule(ticket.kind).asksTime.includes(action)) return undefined;
  const person = work.actor.personId && (await work.tx('person').where({ id: work.actor.personId }).first('grade_id'));
  if (!person || !person.grade_id) return undefined;
  return refuse('invalid', `A ${action} on a ticket of the kind ${ticket.kind} asks for its time.`, {
    'time.duration': 'write how long it took',
  });
}
