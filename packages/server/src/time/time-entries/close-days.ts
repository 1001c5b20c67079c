import { dateOf, type Id, type Instant, type LocalDate, type Outcome, parseLocalDate, type Refusal, refuse } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';

/** What a person said of a day of theirs. */
export interface DayState {
  readonly closedAt: Instant | null;
  readonly completeUpTo: LocalDate | null;
}

export async function readDayState(db: Db, personId: Id<'person'>, day: LocalDate): Promise<DayState> {
  const [closed, complete] = [
    await db('day_closed').where({ person_id: personId, day }).first('closed_at'),
    await db('time_complete').where({ person_id: personId }).first('up_to', 'declared_at'),
  ];
  const upTo = (complete?.up_to ?? null) as LocalDate | null;
  return { closedAt: closed?.closed_at ?? (upTo !== null && day <= upTo ? complete!.declared_at : null), completeUpTo: upTo };
}

/** Which of some days are closed, by themselves or because time is complete up to them. */
export async function readClosedDays(db: Db, personId: Id<'person'>, days: readonly LocalDate[]): Promise<Set<LocalDate>> {
  const closed: LocalDate[] = await db('day_closed').where({ person_id: personId }).whereIn('day', days).pluck('day');
  const complete = await db('time_complete').where({ person_id: personId }).first('up_to');
  return new Set([...closed, ...days.filter((d) => complete && d <= complete.up_to)]);
}

/** Time is recorded and changed on open days only. @param days dates that an entry leaves, goes to or lies on */
export async function refuseClosed(work: Work, days: readonly LocalDate[]): Promise<Refusal | undefined> {
  for (const day of new Set(days)) {
    const { closedAt } = await readDayState(work.tx, work.actor.personId!, day);
    if (closedAt !== null)
      return refuse('not-possible-now', `Your ${day} is closed. Open it again in My time first.`, { startsAt: `${day} is closed` });
  }
  return undefined;
}

export async function closeDay(work: Work, book: HouseBook, day: string): Promise<Outcome<{ day: string }>> {
  const date = parseLocalDate(day);
  if (date > dateOf(work.now, book.house.zone)) return refuse('invalid', 'A day is closed once it has come.', { day: 'not in the future' });
  await work
    .tx('day_closed')
    .insert({ person_id: work.actor.personId, day: date, closed_at: at(work.now) })
    .onConflict(['person_id', 'day'])
    .ignore();
  await work.tell('person.day-closed', work.actor.personId!, { day: date });
  await work.emit('entry', null, { personId: work.actor.personId });
  return { day };
}

/** Opens a day again; time that was declared complete is so only up to the day before from then on. */
export async function openDay(work: Work, day: string): Promise<Outcome<{ day: string }>> {
  const date = parseLocalDate(day);
  const { completeUpTo } = await readDayState(work.tx, work.actor.personId!, date);
  if (completeUpTo !== null && date <= completeUpTo)
    return refuse('not-possible-now', `Your time is declared complete up to ${completeUpTo}. Take that back first.`, {
      day: `complete up to ${completeUpTo}`,
    });
  await work.tx('day_closed').where({ person_id: work.actor.personId!, day: date }).delete();
  await work.tell('person.day-opened', work.actor.personId!, { day: date });
  await work.emit('entry', null, { personId: work.actor.personId });
  return { day };
}

export async function declareComplete(work: Work, book: HouseBook, upTo: string | null): Promise<Outcome<{ upTo: string | null }>> {
  const personId = work.actor.personId!;
  if (upTo !== null && parseLocalDate(upTo) > dateOf(work.now, book.house.zone))
    return refuse('invalid', 'Time is complete up to today at the latest.', { upTo: 'not in the future' });
  if (upTo === null) await work.tx('time_complete').where({ person_id: personId }).delete();
  else
    await work
      .tx('time_complete')
      .insert({ person_id: personId, up_to: upTo, declared_at: at(work.now) })
      .onConflict('person_id')
      .merge();
  await work.tell('person.time-declared', personId, { upTo });
  await work.emit('entry', null, { personId: work.actor.personId });
  return { upTo };
}

/** Counts a minute of a date once, however often it is told. @returns the minutes of the date */
export async function beHere(work: Work, book: HouseBook): Promise<{ minutes: number }> {
  const [row]: Row<'minutes_here', 'minutes'>[] = await work
    .tx('minutes_here')
    .insert({
      person_id: work.actor.personId,
      day: dateOf(work.now, book.house.zone),
      minutes: 1,
      last_minute: work.tx.raw(`date_trunc('minute', ?::timestamptz)`, [at(work.now)]),
    })
    .onConflict(['person_id', 'day'])
    .merge({
      minutes: work.tx.raw('minutes_here.minutes + (excluded.last_minute > minutes_here.last_minute)::int'),
      last_minute: work.tx.raw('greatest(excluded.last_minute, minutes_here.last_minute)'),
    })
    .returning('minutes');
  return { minutes: row!.minutes };
}
