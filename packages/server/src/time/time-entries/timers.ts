import { type Id, type Instant, type Outcome, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { rulesOf } from '../../app/work-rules';
import { readWorkFacts } from '../../ground';

/** Starts or resumes the timer of work. One runs for a person; a running one pauses. */
export async function startTimer(work: Work, workId: Id<'work'>): Promise<Outcome<{ id: Id<'timer'> }>> {
  const personId = work.actor.personId;
  // One after the other: of two that start at once, the later pauses the earlier.
  await work.tx('person').where({ id: personId! }).forNoKeyUpdate().first('id');
  const facts = await readWorkFacts(work.tx, workId);
  if (!facts) return refuse('not-found', 'There is no such work.');
  await pauseRunning(work);
  const [timer] = await work
    .tx('timer')
    .insert({ person_id: personId, work_id: workId, started_at: at(work.now), running_since: at(work.now) })
    .onConflict(['person_id', 'work_id'])
    .merge({ running_since: at(work.now) })
    .returning('id');
  await rulesOf(facts.kind).begin?.(work, workId);
  await work.emit('timer', timer!.id);
  return timer!;
}

async function pauseRunning(work: Work): Promise<void> {
  await work
    .tx('timer')
    .where({ person_id: work.actor.personId! })
    .whereNotNull('running_since')
    .update({ counted_seconds: counted(work), running_since: null });
}

function counted(work: Work) {
  return work.tx.raw('counted_seconds + greatest(0, extract(epoch from ?::timestamptz - running_since))::int', [at(work.now)]);
}

export async function pauseTimer(work: Work, timerId: Id<'timer'>): Promise<Outcome<{ id: Id<'timer'> }>> {
  const [timer] = await work
    .tx('timer')
    .where({ id: timerId, person_id: work.actor.personId! })
    .update({
      counted_seconds: work.tx.raw('counted_seconds + coalesce(greatest(0, extract(epoch from ?::timestamptz - running_since)), 0)::int', [
        at(work.now),
      ]),
      running_since: null,
    })
    .returning('id');
  if (!timer) return refuse('not-found', 'You have no such timer.');
  await work.emit('timer', timerId);
  return timer;
}

export async function discardTimer(work: Work, timerId: Id<'timer'>): Promise<Outcome<Record<string, never>>> {
  const [gone] = await work.tx('timer').where({ id: timerId, person_id: work.actor.personId! }).delete().returning('ticket_id');
  if (!gone) return refuse('not-found', 'You have no such timer.');
  await work.emit('timer', timerId, { personId: work.actor.personId, ticketId: gone.ticket_id });
  return {};
}

/** Ends a timer of whoever acts, whose time is recorded by then; nothing happens where there is none. */
export async function endTimer(work: Work, which: { readonly id: Id<'timer'> } | { readonly work_id: string }): Promise<void> {
  const [gone] = await work
    .tx('timer')
    .where({ ...which, person_id: work.actor.personId! })
    .delete()
    .returning('ticket_id');
  if (gone) await work.emit('timer', 'id' in which ? which.id : null, { personId: work.actor.personId, ticketId: gone.ticket_id });
}

/** What a timer counted goes to other work, and to what stands there; it runs on if it ran. */
export async function moveTimer(work: Work, timerId: Id<'timer'>, workId: Id<'work'>): Promise<Outcome<{ id: Id<'timer'> }>> {
  const timer = await work.tx('timer').where({ id: timerId, person_id: work.actor.personId! }).forUpdate().first();
  if (!timer) return refuse('not-found', 'You have no such timer.');
  if (!(await readWorkFacts(work.tx, workId)))
    return refuse('invalid', 'There is no such work.', { workId: 'choose a ticket or internal work' });
  if (timer.work_id === workId) return { id: timerId };
  const there = await work.tx('timer').where({ person_id: work.actor.personId!, work_id: workId }).forUpdate().first();
  if (there) {
    const seconds =
      timer.counted_seconds + there.counted_seconds + (there.running_since === null ? 0 : Math.max(0, work.now - there.running_since));
    const since = timer.running_since ?? (there.running_since === null ? null : work.now);
    await work.tx('timer').where({ id: timerId }).delete();
    await work
      .tx('timer')
      .where({ id: there.id })
      .update({
        counted_seconds: seconds,
        running_since: since === null ? null : at(since),
        started_at: at(Math.min(timer.started_at, there.started_at) as Instant),
      });
  } else await work.tx('timer').where({ id: timerId }).update({ work_id: workId });
  // Where it was, and where it is.
  await work.emit('timer', timerId, [{ personId: timer.person_id, ticketId: timer.ticket_id }]);
  await work.emit('timer', there?.id ?? timerId);
  return { id: there?.id ?? timerId };
}
