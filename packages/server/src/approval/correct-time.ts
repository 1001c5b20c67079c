import { correctTo } from '@core/approval';
import { refuse, type Outcome } from '@core/outcome';
import { parseMinutes, plusSeconds } from '@core/time';
import { holds } from '@core/permissions';
import { at } from '../app/database';
import type { Work } from '../app/work';
import { chargeEntry } from '../charges/charge-entry';
import type { HouseBook } from '../house/house-book';

type Done = Outcome<{ id: string; version: number }>;

/**
 * Corrects approved time by a row of its own, which shows what it takes away or adds. Its person may, and it waits for
 * approval then; who approves time may, and it stands at once.
 */
export async function correctTime(work: Work, book: HouseBook, entryId: string, form: { duration: string; reason: string }): Promise<Done> {
  const named = await work.tx('time_entry').where({ id: entryId }).whereNull('removed_at').forUpdate().first();
  if (!named) return refuse('not-found', 'There is no such time entry.');
  const entry = named.corrects ? await work.tx('time_entry').where({ id: named.corrects }).forUpdate().first() : named;
  const approver = work.actor.role !== null && holds(work.actor.role, 'time.approve') && entry.person_id !== work.actor.personId;
  if (!approver && entry.person_id !== work.actor.personId) return refuse('not-allowed', 'Time is corrected by the one who recorded it.');
  if (entry.approval !== 'approved') return refuse('not-possible-now', 'It is not approved, so it can be changed itself.');
  const earlier = await work.tx('time_entry').where({ corrects: entry.id }).whereNull('removed_at').sum('minutes as n').first();
  const standing = entry.minutes + Number(earlier?.['n'] ?? 0);
  const correction = correctTo(standing, parseMinutes(form.duration)!);
  if (correction.is === 'nothing to correct')
    return refuse('invalid', `It stands at ${standing} min already.`, { duration: 'another time' });
  const { minutes } = correction;
  const from = minutes > 0 ? plusSeconds(entry.starts_at, standing * 60) : entry.starts_at;
  const [row] = await work
    .tx('time_entry')
    .insert({
      person_id: entry.person_id,
      ticket_id: entry.ticket_id,
      client_id: entry.client_id,
      internal_id: entry.internal_id,
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
  await chargeEntry(work, book, row.id);
  if (approver)
    await work.tx('time_decision').insert({ entry_id: row.id, at: at(work.now), person_id: work.actor.personId, decision: 'approve' });
  const what = `corrected ${standing} min to ${standing + minutes} min`;
  for (const id of [entry.id as string, row.id as string]) await work.tell({ subject: 'entry', id, what, detail: form.reason });
  if (entry.ticket_id) await work.tell({ subject: 'ticket', id: entry.ticket_id, what, detail: form.reason });
  return row;
}
