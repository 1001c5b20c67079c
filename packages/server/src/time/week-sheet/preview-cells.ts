import { type Instant, isRefusal, type Outcome, step } from '@core/ground';
import {
  type AddedAmount,
  type CellEffectWire,
  type CellPlan,
  type Effect,
  type NamedEffect,
  sumEffects,
  type TypedCell,
  withAddedAmounts,
} from '@core/time';
import type { Db } from '../../app/database';
import { rulesOf } from '../../app/work-rules';
import { readMeantWork } from '../../ground';
import type { HouseBook } from '../../house';
import { wayColumns, wayOf, wayTyped } from '../time-entries/distance-terms';
import { type PreviewedRow, previewEffects } from '../time-entries/preview-effects';
import { sentEffect, type Graded } from '../time-entries/preview-entry';
import { previewAddedAmounts, readAddedAmounts, visitOf, type VisitRow } from '../time-entries/added-amounts';
import { saidOf } from './cell-said';
import type { WeekRow } from './read-week-sheet';
import { afterPlan, entriesOf, planTyped, readOpenDay, type OpenDay } from './plan-typed';

/** What typing into cells would do, cell by cell in their order, worked out by the plan that storing carries out. */
export async function previewCells(
  db: Db,
  book: HouseBook,
  { who, cells, now }: { readonly who: Graded; readonly cells: readonly TypedCell[]; readonly now: Instant },
): Promise<CellEffectWire[]> {
  const days = new Map<string, OpenDay>();
  const effects: CellEffectWire[] = [];
  for (const cell of cells) {
    const day = days.get(cell.day) ?? (await readOpenDay(db, book, { personId: who.personId, date: cell.day, now }));
    const plan = planTyped(cell, day);
    const effect = isRefusal(plan) ? plan : await effectOfCell(db, book, { who, cell, day, plan });
    effects.push(isRefusal(effect) ? { effect: null, refused: effect.detail } : { effect: sentEffect(effect), refused: null });
    days.set(cell.day, isRefusal(plan) || isRefusal(effect) ? day : afterPlan(day, plan));
  }
  return effects;
}

/** An entry of a cell: one that stays, or one that is to be stored, which has no id. */
type CellRow = PreviewedRow & VisitRow & { readonly frozen: boolean };

async function effectOfCell(
  db: Db,
  book: HouseBook,
  {
    who: { personId, gradeId },
    cell,
    day,
    plan,
  }: { readonly who: Graded; readonly cell: TypedCell; readonly day: OpenDay; readonly plan: CellPlan },
): Promise<Outcome<Effect>> {
  const facts = await readMeantWork(db, cell.workId);
  if (isRefusal(facts)) return facts;
  const barred = plan.add || plan.change.length ? rulesOf(facts.kind).barActivity?.(book, facts, cell.activityId) : undefined;
  if (barred) return barred;
  const stay = stayingEntries(book, { cell, day, plan });
  const { workId, activityId } = cell;
  const fresh = plan.add && {
    id: undefined,
    person_id: personId,
    work_id: workId,
    work_kind: facts.kind,
    client_id: facts.client_id,
    ticket_kind: facts.ticket_kind,
    grade_id: gradeId,
    activity_id: activityId,
    corrects: null,
    corrected_from: null,
    frozen: false,
    starts_at: plan.add.startsAt,
    minutes: plan.add.minutes,
    ...saidOf(cell, facts.kind),
    ...wayColumns(wayTyped(book, saidOf(cell, facts.kind).distance)),
  };
  const rows: CellRow[] = [...stay, ...(fresh ? [fresh] : [])];
  // All of a cell is one visit, so its fee is due once, and with the first of it that is charged.
  const visits = rows.filter((r) => !r['corrects']).map(visitOf);
  const stored = await readAddedAmounts(
    db,
    rows.filter(isDecided).map((r) => r['id']),
  );
  const addedAmountsOf = async (row: CellRow): Promise<readonly AddedAmount[]> => {
    if (row['corrects']) return [];
    // What money was decided on stays as it was decided.
    if (isDecided(row)) return stored.get(row.id) ?? [];
    return previewAddedAmounts(db, book, { entry: visitOf(row), others: visits.filter((v) => v.id !== row['id']) });
  };
  const named: NamedEffect[] = [];
  const effects = await previewEffects(db, book, { rows, without: plan.remove });
  for (const [i, row] of rows.entries()) {
    const effect = withAddedAmounts({ ...effects[i]!, minutes: row['minutes'] }, await addedAmountsOf(row));
    named.push({ name: `entry ${named.length + 1}`, effect });
  }
  return whole(named);
}

const isDecided = (row: CellRow): row is WeekRow => row.frozen;

/** The entries of a cell that stay, as they stand once the plan is carried out. */
function stayingEntries(
  book: HouseBook,
  { cell, day, plan }: { readonly cell: TypedCell; readonly day: OpenDay; readonly plan: CellPlan },
): WeekRow[] {
  const own = entriesOf(cell, day);
  const lastOpen = own.filter((e) => !e.frozen).at(-1);
  const says = plan.change[0]?.id ?? (plan.add ? undefined : lastOpen?.id);
  return own
    .filter((e) => !plan.remove.includes(e.id))
    .map((entry) => {
      const { startsAt, minutes } = plan.change.find((c) => c.id === entry.id) ?? entry;
      const { billable, distance } = entry.id === says ? saidOf(cell, entry.row['work_kind'], entry) : entry;
      const way = wayColumns(wayTyped(book, distance, wayOf(entry.row)));
      return { ...entry.row, starts_at: startsAt, minutes, billable, ...way };
    });
}

/** Of a cell with several entries: the steps of each, then what they come to. */
function whole(named: readonly NamedEffect[]): Effect {
  const sum = sumEffects(named, 'the client');
  return named.length < 2 ? sum : { ...sum, why: [...named.flatMap((n) => [step(n.name), ...n.effect.why]), ...sum.why] };
}
