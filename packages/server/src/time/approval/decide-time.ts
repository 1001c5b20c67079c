import { APPROVAL_AFTER, type DecisionForm, takesDecision } from '@core/time';
import { dateOf, type Id, type Instant, isRefusal, type LocalDate, type Outcome, plusDays, type Refusal, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { type HouseBook, tellPerson } from '../../house';
/** An entry or an expense: each has what both have, and may have what the other has. */
type JudgedRow = Row<'time_entry', 'id' | 'person_id' | 'approval' | 'reimbursed_on'> & {
  readonly starts_at?: Instant;
  readonly corrects?: string | null;
  readonly day?: LocalDate;
};

interface Judged {
  readonly table: 'time_entry' | 'expense';
  readonly subject: 'entry' | 'expense';
  readonly column: 'entry_id' | 'expense_id';
  readonly word: string;
  readonly dayOf: (row: JudgedRow, book: HouseBook) => LocalDate;
}
const ENTRY: Judged = {
  table: 'time_entry',
  subject: 'entry',
  column: 'entry_id',
  word: 'time entry',
  dayOf: (row, book) => dateOf(row.starts_at!, book.house.zone),
};
const EXPENSE: Judged = { table: 'expense', subject: 'expense', column: 'expense_id', word: 'expense', dayOf: (row) => row.day! };
type Named = DecisionForm['entries'][number];
type Said = Pick<DecisionForm, 'decision' | 'remark'>;

/** Decides on time and expenses, all that is named or nothing; who decided what and why is kept for ever. */
export async function decideTime(work: Work, book: HouseBook, form: DecisionForm): Promise<Outcome<{ decided: number }>> {
  const returned = new Map<string, LocalDate>();
  const whose = new Set<string>();
  for (const [kind, list, name] of [
    [ENTRY, form.entries, 'entries'],
    [EXPENSE, form.expenses, 'expenses'],
  ] as const)
    for (const [n, one] of list.entries()) {
      const row = await decideOne(work, { kind, one, form });
      if (isRefusal(row)) return { ...row, fields: { [`${name}[${n}]`]: row.detail } };
      whose.add(row.person_id);
      if (form.decision !== 'return') continue;
      const day = kind.dayOf(row, book);
      const known = returned.get(row.person_id);
      returned.set(row.person_id, known && known < day ? known : day);
      await work.tx('day_closed').where({ person_id: row.person_id, day }).delete();
    }
  for (const [personId, day] of returned) await openFor(work, { personId, day, remark: form.remark! });
  await work.emit(
    'entry',
    null,
    [...whose].map((personId) => ({ personId })),
  );
  return { decided: form.entries.length + form.expenses.length };
}

async function decideOne(
  work: Work,
  { kind, one: { id, version }, form: { decision, remark } }: { readonly kind: Judged; readonly one: Named; readonly form: Said },
): Promise<Outcome<JudgedRow>> {
  const row: JudgedRow | undefined = await work.tx<JudgedRow>(kind.table).where('id', id).whereNull('removed_at').forUpdate().first();
  if (!row) return refuse('not-found', `There is no such ${kind.word}.`);
  const barred = barredFrom(work, { row, kind, decision }) ?? (await builtUpon(work, { row, kind, decision }));
  if (barred) return barred;
  const changed = await changeRow(work, { table: kind.table, id, version, set: { approval: APPROVAL_AFTER[decision] } });
  if (isRefusal(changed)) return changed;
  await work.tx('time_decision').insert({ [kind.column]: id, at: at(work.now), ...whoColumns(work.actor), decision, remark });
  await work.tell(`${kind.subject}.${TOLD[decision]}`, id, { remark });
  return row;
}

const TOLD = { approve: 'approved', return: 'returned', 'take back': 'approval-taken-back' } as const;

function barredFrom(
  work: Work,
  { row, kind, decision }: { readonly row: JudgedRow; readonly kind: Judged; readonly decision: Said['decision'] },
): Refusal | undefined {
  if (row.person_id === work.actor.personId) return refuse('not-allowed', 'Your own time is approved by somebody else.');
  if (!takesDecision(row.approval, decision))
    return refuse('not-possible-now', `This ${kind.word} is ${row.approval} already, so it cannot take "${decision}".`);
  if (kind === ENTRY && row.corrects && decision === 'return')
    return refuse('not-possible-now', 'A correction is approved, or corrected again.');
  return undefined;
}

/** An approval stays once something was built on it. */
async function builtUpon(
  work: Work,
  { row, kind, decision }: { readonly row: JudgedRow; readonly kind: Judged; readonly decision: Said['decision'] },
): Promise<Refusal | undefined> {
  if (decision !== 'take back') return undefined;
  if (row.reimbursed_on) return refuse('not-possible-now', `It was paid back on ${row.reimbursed_on}.`);
  const corrected = kind === ENTRY && (row.corrects || (await work.tx('time_entry').where({ corrects: row.id }).first('id')));
  return corrected ? refuse('not-possible-now', 'A correction builds on it; correct it once more instead.') : undefined;
}

/** What is returned can be changed: time is complete only up to the day before. */
async function openFor(
  work: Work,
  { personId, day, remark }: { readonly personId: Id<'person'>; readonly day: LocalDate; readonly remark: string },
): Promise<void> {
  await work
    .tx('time_complete')
    .where({ person_id: personId })
    .where('up_to', '>=', day)
    .update({ up_to: plusDays(day, -1) });
  await tellPerson(work, { personId, text: `${work.actor.name} returned time of ${day}: ${remark}`, ticketId: null });
}
