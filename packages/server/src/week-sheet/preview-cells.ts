import { step } from '@core/explanation';
import { isRefusal, type Outcome } from '@core/outcome';
import { plusSeconds, type Instant } from '@core/time';
import { together, type Effect, type NamedEffect } from '@core/time-entries';
import type { CellEffectWire, CellPlan, TypedCell } from '@core/week-sheet';
import type { Db } from '../app/database';
import type { HouseBook } from '../house/house-book';
import { barredActivity } from '../time-entries/barred-activity';
import { effectOfRow } from '../time-entries/effect-of-row';
import { sentEffect, type Graded } from '../time-entries/preview-entry';
import { effectOfEntry } from '../time-entries/recorded-entry';
import { saidOf } from './cell-said';
import { afterPlan, entriesOf, planTyped, readOpenDay, type OpenDay } from './plan-typed';

/** What typing into cells would do, cell by cell in their order, worked out by the plan that storing carries out. */
export async function previewCells(
  db: Db,
  book: HouseBook,
  who: Graded,
  cells: readonly TypedCell[],
  now: Instant,
): Promise<CellEffectWire[]> {
  const days = new Map<string, OpenDay>();
  const effects: CellEffectWire[] = [];
  for (const cell of cells) {
    const day = days.get(cell.day) ?? (await readOpenDay(db, book, who.personId, cell.day, now));
    const plan = planTyped(cell, day);
    const effect = isRefusal(plan) ? plan : await effectOfCell(db, book, who, cell, { day, plan });
    effects.push(isRefusal(effect) ? { effect: null, refused: effect.detail } : { effect: sentEffect(effect), refused: null });
    days.set(cell.day, isRefusal(plan) || isRefusal(effect) ? day : afterPlan(day, plan));
  }
  return effects;
}

async function effectOfCell(
  db: Db,
  book: HouseBook,
  { gradeId }: Graded,
  cell: TypedCell,
  { day, plan }: { readonly day: OpenDay; readonly plan: CellPlan },
): Promise<Outcome<Effect>> {
  const ticket = cell.ticketId ? await db('ticket').where({ id: cell.ticketId }).first('client_id', 'kind') : undefined;
  const barred = ticket && (plan.add || plan.change.length) ? barredActivity(book, ticket.kind, cell.activityId) : undefined;
  if (barred) return barred;
  const own = entriesOf(cell, day);
  const lastOpen = own.filter((e) => !e.frozen).at(-1);
  const says = plan.change[0]?.id ?? (plan.add ? undefined : lastOpen?.id);
  const named: NamedEffect[] = [];
  for (const entry of own.filter((e) => !plan.remove.includes(e.id))) {
    const { startsAt, minutes } = plan.change.find((c) => c.id === entry.id) ?? entry;
    const { billable } = entry.id === says ? saidOf(cell, entry) : entry;
    const effect = await effectOfRow(db, book, { ...entry.row, starts_at: startsAt, minutes, billable });
    named.push({ name: `entry ${named.length + 1}`, effect: { ...effect, minutes } });
  }
  if (plan.add) {
    const { startsAt, minutes } = plan.add;
    const effect = await effectOfEntry(db, book, {
      from: startsAt,
      to: plusSeconds(startsAt, minutes * 60),
      minutes,
      gradeId,
      activityId: cell.activityId,
      billable: saidOf(cell).billable,
      clientId: ticket?.client_id ?? null,
      ticketKind: ticket?.kind ?? null,
    });
    named.push({ name: `entry ${named.length + 1}`, effect: { ...effect, minutes } });
  }
  return whole(named);
}

/** Of a cell with several entries: the steps of each, then what they come to. */
function whole(named: readonly NamedEffect[]): Effect {
  const sum = together(named, 'the client');
  return named.length < 2 ? sum : { ...sum, why: [...named.flatMap((n) => [step(n.name), ...n.effect.why]), ...sum.why] };
}
