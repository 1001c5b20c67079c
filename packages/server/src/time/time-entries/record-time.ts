import { dateOf, type Id, isRefusal, type Outcome, parseInstant, parseMinutes, plusSeconds, refuse } from '@core/ground';
import type { EntryForm } from '@core/time';
import { at } from '../../app/database';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { rulesOf } from '../../app/work-rules';
import { readMeantWork } from '../../ground';
import type { HouseBook } from '../../house';
import { fitBookings } from '../../scheduling';
import { isFrozen } from './is-frozen';
import { refuseClosed } from './close-days';
import { endTimer } from './timers';
import { wayColumns, wayOf, wayTyped, type Way } from './distance-terms';

type Done = Outcome<{ id: Id<'time_entry'>; version: number }>;
const FROZEN = 'Its charge was decided on already. Take that decision back in charge review first.';

const LOCKED = 'It is approved and locked. Correct it by a row of its own.';

/** Who changes time: its own person, on days that are open, or somebody who approves time. */
export type ChangedBy = 'own' | 'approver';

interface EntryRow extends ReturnType<typeof wayColumns> {
  readonly work_id: string;
  readonly inside_note: string | null;
  readonly client_id: string | null;
  readonly starts_at: string;
  readonly ends_at: string;
  readonly minutes: number;
  readonly activity_id: string;
  readonly note: string | null;
  readonly billable: boolean;
  readonly reason: string | null;
}

async function readForm(
  work: Work,
  book: HouseBook,
  { form, by, stands = null }: { readonly form: EntryForm; readonly by: ChangedBy; readonly stands?: Way | null },
): Promise<Outcome<EntryRow>> {
  const minutes = parseMinutes(form.duration)!;
  const from = parseInstant(form.startsAt);
  if (from > work.now) return refuse('invalid', 'Time is recorded once it is worked.', { startsAt: 'not in the future' });
  if (!book.activity(form.activityId))
    return refuse('invalid', 'There is no such activity.', { activityId: 'choose one of the activities' });
  const closed = by === 'own' ? await refuseClosed(work, [dateOf(from, book.house.zone)]) : undefined;
  if (closed) return closed;
  const facts = await readMeantWork(work.tx, form.workId);
  if (isRefusal(facts)) return facts;
  const barred = rulesOf(facts.kind).barActivity?.(book, facts, form.activityId);
  if (barred) return barred;
  return {
    work_id: facts.id,
    inside_note: form.insideNote || null,
    ...wayColumns(wayTyped(book, form.distance ?? null, stands)),
    client_id: facts.client_id,
    starts_at: at(from),
    ends_at: at(plusSeconds(from, minutes * 60)),
    minutes,
    activity_id: form.activityId,
    note: form.note,
    billable: form.billable,
    reason: form.billable ? null : form.reason,
  };
}

/** Records time worked; what it charges is proposed in the same transaction. */
export async function addEntry(work: Work, book: HouseBook, form: EntryForm): Promise<Done> {
  const row = await readForm(work, book, { form, by: 'own' });
  if (isRefusal(row)) return row;
  const person = await work.tx('person').where({ id: work.actor.personId! }).first('grade_id');
  if (!person?.grade_id) return refuse('not-possible-now', 'You have no grade, so your time has no rate. Ask an administrator for one.');
  const [entry] = await work
    .tx('time_entry')
    .insert({ ...row, person_id: work.actor.personId, grade_id: person.grade_id })
    .returning(['id', 'version']);
  if (form.timerId) await endTimer(work, { id: form.timerId });
  await fitBookings(work, book.house.zone, { workId: row.work_id, personId: work.actor.personId });
  await work.tell('entry.recorded', entry!.id, { minutes: row.minutes, note: row.note });
  return entry!;
}

/** Which entry, as the one who changes it saw it. */
export interface SeenEntry {
  readonly id: Id<'time_entry'>;
  readonly version: number;
  readonly by?: ChangedBy;
}

/** Changes an entry; one that was returned waits for approval again. What is left out of inside note and distance stays. */
export async function editEntry(
  work: Work,
  book: HouseBook,
  { entry: { id: entryId, version, by = 'own' }, form }: { readonly entry: SeenEntry; readonly form: EntryForm },
): Promise<Done> {
  const entry = await changeableEntry(work, book, { entryId, by });
  if (isRefusal(entry)) return entry;
  const way = wayOf(entry);
  const stays = { insideNote: entry.inside_note, distance: way?.distance ?? null };
  const row = await readForm(work, book, { form: { ...stays, ...given(form) }, by, stands: way });
  if (isRefusal(row)) return row;
  const set = { ...row, approval: 'open' };
  const changed = await changeRow(work, { table: 'time_entry', id: entryId, version, set });
  if (isRefusal(changed)) return changed;
  for (const workId of new Set([entry.work_id, row.work_id]))
    await fitBookings(work, book.house.zone, { workId, personId: entry.person_id });
  await work.tell('entry.changed', entryId, {
    minutes: [entry.minutes, row.minutes],
    personId: entry.person_id,
    workId: [entry.work_id, row.work_id],
  });
  return changed;
}

export async function removeEntry(
  work: Work,
  book: HouseBook,
  { entryId, version }: { readonly entryId: Id<'time_entry'>; readonly version: number },
): Promise<Outcome<Record<string, never>>> {
  const entry = await changeableEntry(work, book, { entryId, by: 'own' });
  if (isRefusal(entry)) return entry;
  const changed = await changeRow(work, { table: 'time_entry', id: entryId, version, set: { removed_at: at(work.now) } });
  if (isRefusal(changed)) return changed;
  await fitBookings(work, book.house.zone, { workId: entry.work_id, personId: work.actor.personId });
  await work.tell('entry.removed', entryId, { minutes: entry.minutes });
  return {};
}

interface Changeable extends ReturnType<typeof wayColumns> {
  readonly person_id: string;
  readonly minutes: number;
  readonly work_id: string;
  readonly inside_note: string | null;
}

async function changeableEntry(
  work: Work,
  book: HouseBook,
  { entryId, by }: { readonly entryId: Id<'time_entry'>; readonly by: ChangedBy },
): Promise<Outcome<Changeable>> {
  const entry = await work.tx('time_entry').where({ id: entryId }).whereNull('removed_at').first();
  if (!entry) return refuse('not-found', 'There is no such time entry.');
  if (by === 'own' && entry.person_id !== work.actor.personId) return refuse('not-allowed', 'Time is changed by the one who recorded it.');
  if (entry.approval === 'approved' || entry.corrects) return refuse('not-possible-now', LOCKED);
  const closed = by === 'own' ? await refuseClosed(work, [dateOf(entry.starts_at, book.house.zone)]) : undefined;
  if (closed) return closed;
  return (await isFrozen(work, entryId)) ? refuse('not-possible-now', FROZEN) : entry;
}

/** What a form says, without what it leaves out. */
function given(form: EntryForm): EntryForm {
  return Object.fromEntries(Object.entries(form).filter(([, value]) => value !== undefined)) as EntryForm;
}
