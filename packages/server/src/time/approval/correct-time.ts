import { correctTo, type Effect } from '@core/time';
import { holds, type Id, isRefusal, type Outcome, parseMinutes, plusSeconds, refuse } from '@core/ground';
import { at, type Db, sumOf } from '../../app/database';
import type { Row } from '../../app/rows';
import { type Actor, whoColumns } from '../../app/actor';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { readCorrection } from '../time-entries/effects-of-rows';

type Done = Outcome<{ id: string; version: number }>;

type EntryOfWork = Row<'time_entry'> & Row<'work_facts', 'ticket_kind'>;

interface Standing {
  /** The entry that was approved first, with its work's ticket kind. */
  readonly entry: EntryOfWork;
  /** Its minutes with all corrections so far. */
  readonly standing: number;
  readonly approver: boolean;
}

/** What a correction starts from, and whether it may be made. @param entryId the entry, or a correction of it */
async function readStanding(
  db: Db,
  { actor, entryId, how }: { readonly actor: Actor; readonly entryId: Id<'time_entry'>; readonly how: 'locked' | 'read' },
): Promise<Outcome<Standing>> {
  const read = (id: string): Promise<EntryOfWork | undefined> =>
    db('time_entry as e')
      .join('work_facts as w', 'w.id', 'e.work_id')
      .where({ 'e.id': id })
      .whereNull('e.removed_at')
      .modify((q) => how === 'locked' && void q.forUpdate('e'))
      .first('e.*', 'w.ticket_kind');
  const named = await read(entryId);
  const entry = named?.corrects ? await read(named.corrects) : named;
  if (!entry) return refuse('not-found', 'There is no such time entry.');
  const approver = actor.role !== null && holds(actor.role, 'time.approve') && entry.person_id !== actor.personId;
  if (!approver && entry.person_id !== actor.personId) return refuse('not-allowed', 'Time is corrected by the one who recorded it.');
  if (entry.approval !== 'approved') return refuse('not-possible-now', 'It is not approved, so it can be changed itself.');
  const earlier = await sumOf(db('time_entry').where({ corrects: entry.id }).whereNull('removed_at'), 'minutes');
  return { entry, standing: entry.minutes + earlier, approver };
}

/** What a correction would do, before it is made. */
export async function previewCorrection(
  db: Db,
  book: HouseBook,
  { actor, entryId, duration }: { readonly actor: Actor; readonly entryId: Id<'time_entry'>; readonly duration: string },
): Promise<Outcome<Effect>> {
  const found = await readStanding(db, { actor, entryId, how: 'read' });
  if (isRefusal(found)) return found;
  const right = parseMinutes(duration)!;
  const { amount, sentence, billedMinutes, why } = await readCorrection(db, book, { first: found.entry, minutes: [found.standing, right] });
  return { amount, sentence, billedMinutes, why, minutes: Math.abs(right - found.standing) };
}

/**
 * Corrects approved time by a row of its own, which shows what it takes away or adds. Its person may, and it waits for
 * approval then; who approves time may, and it stands at once.
 */
export async function correctTime(
  work: Work,
  book: HouseBook,
  { entryId, form }: { readonly entryId: Id<'time_entry'>; readonly form: { duration: string; reason: string } },
): Promise<Done> {
  const found = await readStanding(work.tx, { actor: work.actor, entryId, how: 'locked' });
  if (isRefusal(found)) return found;
  const { entry, standing, approver } = found;
  const correction = correctTo(standing, parseMinutes(form.duration)!);
  if (correction.is === 'nothing to correct')
    return refuse('invalid', `It stands at ${standing} min already.`, { duration: 'another time' });
  const { minutes } = correction;
  const from = minutes > 0 ? plusSeconds(entry.starts_at, standing * 60) : entry.starts_at;
  const [row] = await work
    .tx('time_entry')
    .insert({
      person_id: entry.person_id,
      work_id: entry.work_id,
      client_id: entry.client_id,
      grade_id: entry.grade_id,
      activity_id: entry.activity_id,
      billable: entry.billable,
      reason: entry.reason,
      starts_at: at(from),
      ends_at: at(plusSeconds(from, Math.max(0, minutes) * 60)),
      minutes,
      note: form.reason,
      corrects: entry.id,
      corrected_at: at(work.now),
      // What stood before it, so that what it does never depends on others.
      corrected_from: standing,
      approval: approver ? 'approved' : 'open',
    })
    .returning(['id', 'version']);
  if (approver)
    await work.tx('time_decision').insert({ entry_id: row!.id, at: at(work.now), ...whoColumns(work.actor), decision: 'approve' });
  const told = { minutes: [standing, standing + minutes], reason: form.reason } as const;
  await work.tell('entry.corrected', entry.id, { ...told, byEntryId: row!.id });
  return row!;
}
