import { type EvidenceKind, type ProposedEntry, type ProposedEntryWire, proposeEntries, type Recorded, usualActivity } from '@core/time';
import { formatInstant, type Id, type Instant, type Interval, type LocalDate, plusDays } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Joined, Row, Rows } from '../../app/rows';
import { readUsualActivities } from '../../desk';
import { type HouseBook, spanOfDates } from '../../house';
import { readEvidence } from './read-evidence';

/** A person's day as it would be written, less what is recorded and what they said was no work. */
export async function readProposedEntries(
  db: Db,
  book: HouseBook,
  { personId, day, now }: { readonly personId: Id<'person'>; readonly day: LocalDate; readonly now: Instant },
): Promise<ProposedEntryWire[]> {
  const span = spanOfDates(book, day, plusDays(day, 1));
  const [evidence, recorded, dismissed, own] = [
    await readEvidence(db, { personId, span, now }),
    await readRecorded(db, personId, span),
    await db('proposed_dismissed').where({ person_id: personId }).pluck('key'),
    await readUsualActivities(db, personId, now),
  ];
  const proposed = proposeEntries(evidence, recorded, now).filter(
    (p) => !dismissed.includes(p.key) && p.from >= span.from && p.from < span.to,
  );
  const works: WorkSaid[] = await db('work_facts as w')
    .leftJoin('client as c', 'c.id', 'w.client_id')
    .leftJoin('desk as d', 'd.id', 'w.desk_id')
    .whereIn(
      'w.id',
      proposed.flatMap((p) => p.workId ?? []),
    )
    .select('w.id', 'w.number', 'w.subject', 'w.ticket_kind', 'c.name as client', 'd.usual_activity_id');
  return proposed.map((p) => {
    const work = works.find((w) => w.id === p.workId);
    const activityId = usualActivity({
      onSite: p.evidence.some((e) => e.visit),
      allowed: work?.ticket_kind ? book.activitiesOf(work.ticket_kind) : [],
      deskUsual: work?.usual_activity_id ?? null,
      own,
    });
    return proposedWire(p, work, activityId);
  });
}

/** Work with its client and the activity that its desk usually does. */
type WorkSaid = Row<'work_facts', 'id' | 'number' | 'subject' | 'ticket_kind'> &
  Joined<'desk', 'usual_activity_id'> & { readonly client: Rows['client']['name'] | null };

export async function readRecorded(db: Db, personId: Id<'person'>, span: Interval): Promise<Recorded[]> {
  const rows: Row<'time_entry', 'work_id' | 'starts_at' | 'ends_at'>[] = await db('time_entry')
    .where({ person_id: personId })
    .whereNull('removed_at')
    .where('starts_at', '<', at(span.to))
    .where('ends_at', '>', at(span.from))
    .select('work_id', 'starts_at', 'ends_at');
  return rows.map((e) => ({ workId: e.work_id, from: e.starts_at, to: e.ends_at }));
}

const SAYS_WHAT: readonly EvidenceKind[] = ['message', 'call', 'appointment'];

function proposedWire(p: ProposedEntry, work: WorkSaid | undefined, activityId: Id<'activity'>): ProposedEntryWire {
  // A time entry's note stands on the client's invoice; what is inside stays inside.
  const said = p.evidence.find((e) => SAYS_WHAT.includes(e.is) && !e.inside)?.says;
  return {
    key: p.key,
    workId: p.workId,
    number: work?.number ?? null,
    subject: work?.subject ?? null,
    client: work?.client ?? null,
    startsAt: formatInstant(p.from),
    endsAt: formatInstant(p.to),
    minutes: p.minutes,
    activityId,
    note: said ?? work?.subject ?? 'work',
    evidence: p.evidence.map((e) => ({ is: e.is, says: e.says, at: formatInstant(e.from) })),
    sure: p.sure,
    why: [...p.why],
  };
}
