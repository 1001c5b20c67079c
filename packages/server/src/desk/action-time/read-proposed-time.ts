import { proposeMinutes, type Kind, type ProposedTimeWire, type TimeSource } from '@core/desk';
import { formatMinutes, type Id, type Instant, type Outcome, plusSeconds, refuse } from '@core/ground';
import { usualActivity } from '@core/time';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import { readUsualActivities } from './usual-activities';

const HISTORY_SECONDS = 60 * 86_400;
const HISTORY_MOST = 50;

/** How long what somebody does on a ticket took, as far as is known, and what may be chosen for it. */
export async function readProposedTime(
  db: Db,
  book: HouseBook,
  { personId, workId, now }: { readonly personId: Id<'person'>; readonly workId: Id<'work'>; readonly now: Instant },
): Promise<Outcome<ProposedTimeWire>> {
  const facts = await db('work_facts as w')
    .leftJoin('desk as d', 'd.id', 'w.desk_id')
    .where('w.id', workId)
    .first('w.ticket_kind', 'd.usual_activity_id');
  if (!facts) return refuse('not-found', 'There is no such work.');
  const kind = facts.ticket_kind as Kind | 'unsorted' | null;
  const mine = { person_id: personId, work_id: workId };
  const timer = await db('timer').where(mine).first();
  const booking = await db('booking')
    .where(mine)
    .whereIn('state', ['underway', 'planned'])
    .where('starts_at', '<', at(now))
    // Once some of it is recorded, the rest of a plan says nothing of how long it took.
    .whereRaw(
      'not exists (select 1 from time_entry e where e.work_id = booking.work_id and e.person_id = booking.person_id and e.removed_at is null and e.starts_at < booking.ends_at and e.ends_at > booking.starts_at)',
    )
    .orderBy('starts_at', 'desc')
    .first();
  const last = await db('time_entry')
    .where({ person_id: personId })
    .whereNull('removed_at')
    .where('ends_at', '<=', at(now))
    .orderBy('ends_at', 'desc')
    .first('ends_at');
  const history: number[] = await db('time_entry as e')
    .leftJoin('ticket as t', 't.id', 'e.ticket_id')
    .where({ 'e.person_id': personId, ...(kind ? { 't.kind': kind } : { 'e.work_id': workId }) })
    .whereNull('e.removed_at')
    .where('e.starts_at', '>', at(plusSeconds(now, -HISTORY_SECONDS)))
    .orderBy('e.starts_at', 'desc')
    .limit(HISTORY_MOST)
    .pluck('e.minutes');
  const proposed = proposeMinutes(
    {
      timerSeconds: timer ? timer.counted_seconds + (timer.running_since === null ? 0 : Math.max(0, now - timer.running_since)) : null,
      booking: booking ? { from: booking.starts_at, to: booking.ends_at } : null,
      recordedUntil: last?.ends_at ?? null,
      history,
    },
    now,
  );
  const allowed = kind ? book.activitiesOf(kind) : [];
  const activities = await readActivities(db, allowed);
  const own = await readUsualActivities(db, personId, now);
  return {
    ...proposed,
    says: SAYS[proposed.from](formatMinutes(proposed.minutes)),
    activityId: usualActivity({
      onSite: booking?.on_site ?? false,
      allowed,
      deskUsual: facts.usual_activity_id,
      own,
    }),
    activities,
    distanceUnit: book.house.time.distance.unit,
    asks: kind === null || kind === 'unsorted' ? [] : [...book.kindRule(kind).asksTime],
  };
}

const SAYS: Readonly<Record<TimeSource, (minutes: string) => string>> = {
  timer: (minutes) => `your timer counts ${minutes}`,
  booking: (minutes) => `${minutes} of your booking are not recorded yet`,
  history: (minutes) => `${minutes} is the middle of your work of this kind`,
  nothing: () => 'nothing tells how long it took',
};

async function readActivities(db: Db, ids: readonly string[]): Promise<ProposedTimeWire['activities']> {
  const rows: Row<'activity', 'id' | 'name' | 'visit'>[] = await db('activity')
    .modify((q) => ids.length && void q.whereIn('id', ids as string[]))
    .orderBy('position')
    .select('id', 'name', 'visit');
  return rows.map((a) => ({ id: a.id, name: a.name, visit: a.visit }));
}
