import { absenceAfter, type AbsenceDecision, type AbsenceForm, type AbsenceMove, sayDays, type TimeEvents, timeWords } from '@core/time';
import { holds, type Id, isRefusal, type LocalDate, type Outcome, parseLocalDate, type Refusal, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { type HouseBook, tellPerson } from '../../house';
import { countAbsence, type CountedAbsence } from './count-absence';

type Done = Outcome<{ id: Id<'absence'>; version: number }>;

/** Asks for time off; written down for somebody else by who approves, it stands at once. */
export async function askForAbsence(work: Work, book: HouseBook, form: AbsenceForm): Promise<Done> {
  const personId = form.personId ?? work.actor.personId!;
  const own = personId === work.actor.personId;
  if (!own && !mayApprove(work)) return refuse('not-allowed', 'Time off of somebody else is written down by who approves it.');
  const person = await work.tx('person').where({ id: personId, active: true }).first('name');
  if (!person) return refuse('invalid', 'There is no such person.', { personId: 'choose one of the list' });
  const kind = await work.tx('absence_kind').where({ id: form.kindId }).whereNull('archived_at').first('name');
  if (!kind) return refuse('invalid', 'There is no such kind of absence.', { kindId: 'choose one of the list' });
  const off = { ...form, from: parseLocalDate(form.from), to: parseLocalDate(form.to) };
  const counted = await countAbsence(work.tx, book, { personId, off });
  const barred = counted.halves === 0 ? noWork(off.from, off.to) : await overlapping(work, personId, counted);
  if (barred) return barred;
  const [absence] = await work
    .tx('absence')
    .insert({
      person_id: personId,
      kind_id: form.kindId,
      from_day: off.from,
      to_day: off.to,
      from_middle: form.fromMiddle,
      to_middle: form.toMiddle,
      ...columnsOf(counted),
      note: form.note,
      state: own ? 'requested' : 'approved',
      requested_at: at(work.now),
      ...(own ? {} : { decided_by: work.actor.personId, decided_at: at(work.now) }),
    })
    .returning(['id', 'version']);
  if (!own) await putOff(work, { id: absence!.id, person_id: personId, kind: kind.name }, counted);
  const told = { personId, kind: kind.name, from: off.from, to: off.to, length: sayDays(counted.halves) };
  return tell(work, absence!, { ...told, move: own ? 'asked for' : 'wrote down' });
}

function noWork(from: LocalDate, to: LocalDate): Refusal {
  return refuse('invalid', `Nothing is worked from ${from} to ${to} by the pattern, so there is nothing to take off.`, {
    to: 'dates with working time in them',
  });
}

async function overlapping(work: Work, personId: Id<'person'>, { from, to }: CountedAbsence): Promise<Refusal | undefined> {
  const other: Row<'absence'> | undefined = await work
    .tx('absence')
    .where({ person_id: personId })
    .whereIn('state', ['requested', 'approved'])
    .where('starts_at', '<', at(to))
    .where('ends_at', '>', at(from))
    .first();
  if (!other) return undefined;
  const span = `${other.from_day} to ${other.to_day}`;
  return refuse('invalid', `It lies over time off from ${span}, which is ${other.state}.`, { from: `${span} is taken already` });
}

function columnsOf({ from, to, days }: CountedAbsence) {
  return { starts_at: at(from), ends_at: at(to), days: JSON.stringify(Object.fromEntries(days)) };
}

function mayApprove(work: Work): boolean {
  return work.actor.role !== null && holds(work.actor.role, 'time.approve');
}

/** Decides on somebody's absence. Approved, nothing is expected then and lanes show it; taken back, they do no more. */
export async function decideAbsence(
  work: Work,
  book: HouseBook,
  {
    id,
    version,
    body: { decision, remark },
  }: {
    readonly id: Id<'absence'>;
    readonly version: number;
    readonly body: { readonly decision: AbsenceDecision; readonly remark: string | null };
  },
): Promise<Done> {
  const absence = await moving(work, id, decision);
  if (isRefusal(absence)) return absence;
  if (absence.person_id === work.actor.personId) return refuse('not-allowed', 'Your own time off is decided by somebody else.');
  const to = absenceAfter(absence.state, decision)!;
  // The pattern may have changed since it was asked for.
  const counted = await countAbsence(work.tx, book, { personId: absence.person_id, off: daysOffOf(absence) });
  const again = decision === 'take back' && absence.state === 'refused' ? await overlapping(work, absence.person_id, counted) : undefined;
  if (again) return again;
  const decided = { state: to, decided_by: work.actor.personId, decided_at: at(work.now), remark };
  const changed = await changeRow(work, { table: 'absence', id, version, set: { ...decided, ...columnsOf(counted) } });
  if (isRefusal(changed)) return changed;
  if (decision === 'approve') await putOff(work, { id, person_id: absence.person_id, kind: absence.kind }, counted);
  else await takeOff(work, id);
  const told = { ...toldOf(absence), move: SAYS[decision] };
  const words = `${work.actor.name} ${timeWords['absence.moved'](told, 'own') as string}${remark ? `: ${remark}` : ''}`;
  await tellPerson(work, { personId: absence.person_id, text: words, ticketId: null });
  return tell(work, changed, told);
}

const SAYS: Readonly<Record<AbsenceDecision, Told['move']>> = {
  approve: 'approved',
  refuse: 'refused',
  'take back': 'took back the decision on',
};

/** Withdraws one's own absence before it begins. */
export async function withdrawAbsence(
  work: Work,
  { id, version }: { readonly id: Id<'absence'>; readonly version: number },
): Promise<Done> {
  const absence = await moving(work, id, 'withdraw');
  if (isRefusal(absence)) return absence;
  if (absence.person_id !== work.actor.personId) return refuse('not-allowed', 'Time off is withdrawn by the one who asked for it.');
  if (absence.state === 'approved' && absence.starts_at <= work.now)
    return refuse('not-possible-now', 'It has begun already. Ask who approved it to take that back.');
  const changed = await changeRow(work, { table: 'absence', id, version, set: { state: 'withdrawn' } });
  if (isRefusal(changed)) return changed;
  await takeOff(work, id);
  return tell(work, changed, { ...toldOf(absence), move: 'withdrew' });
}

type AbsenceOfKind = Row<'absence'> & { readonly kind: string };
type Told = TimeEvents['absence.moved'];

function toldOf(absence: AbsenceOfKind): Omit<Told, 'move'> {
  const { person_id: personId, kind, from_day: from, to_day: to } = absence;
  return { personId, kind, from, to, length: null };
}

async function moving(work: Work, id: Id<'absence'>, move: AbsenceMove): Promise<Outcome<AbsenceOfKind>> {
  const absence: AbsenceOfKind | undefined = await work
    .tx('absence as a')
    .join('absence_kind as k', 'k.id', 'a.kind_id')
    .where('a.id', id)
    .forUpdate('a')
    .first('a.*', 'k.name as kind');
  if (!absence) return refuse('not-found', 'There is no such absence.');
  return absenceAfter(absence.state, move) ? absence : refuse('not-possible-now', `It is ${absence.state}, so it cannot take "${move}".`);
}

export function daysOffOf(absence: Row<'absence', 'from_day' | 'to_day' | 'from_middle' | 'to_middle'>) {
  return { from: absence.from_day, to: absence.to_day, fromMiddle: absence.from_middle, toMiddle: absence.to_middle };
}

async function putOff(
  work: Work,
  absence: { id: Id<'absence'>; person_id: string; kind: string },
  { from, to }: CountedAbsence,
): Promise<void> {
  await work
    .tx('time_off')
    .insert({ person_id: absence.person_id, starts_at: at(from), ends_at: at(to), reason: absence.kind, absence_id: absence.id });
}

async function takeOff(work: Work, absenceId: Id<'absence'>): Promise<void> {
  await work.tx('time_off').where({ absence_id: absenceId }).delete();
}

/** Lanes and what is expected follow at once. */
async function tell(work: Work, done: { id: Id<'absence'>; version: number }, told: Told): Promise<{ id: Id<'absence'>; version: number }> {
  await work.tell('absence.moved', done.id, told);
  await work.emit('person', told.personId);
  await work.emit('booking', null, { personId: told.personId });
  await work.emit('entry', null, { personId: told.personId });
  return done;
}
