import { type Explanation, formatMinutes, type Id, type Instant, type Interval } from '../../ground';
import { PLAN_WEIGHTS, minutesLate, type PlanProblem, type PlanWork } from './plan-problem';
import type { Plan } from './solve-plan';

/** What a plan would change: work that gets a booking, a booking at another time or with another technician. */
export interface PlanChange {
  readonly pieceId: string;
  readonly how: 'book' | 'move' | 'hand over';
  readonly technicianId: Id<'person'>;
  readonly span: Interval;
  readonly travelMinutes: number;
  /** Changes that must be made with this one, since their bookings stand where it goes. */
  readonly needs: readonly string[];
  readonly why: Explanation;
}

/** The difference between a plan and what is there, in order of time. */
export function planChanges(problem: PlanProblem, plan: Plan): PlanChange[] {
  const work = new Map(problem.work.map((w) => [w.id, w]));
  const changes: PlanChange[] = [];
  for (const [technicianId, stops] of plan.lanes)
    for (const stop of stops) {
      if (stop.kept) continue;
      const piece = work.get(stop.pieceId)!;
      const span = { from: stop.from, to: stop.to };
      const block = { from: (stop.from - stop.travelMinutes * 60) as Instant, to: stop.to };
      changes.push({
        pieceId: piece.id,
        how: !piece.booking ? 'book' : piece.booking.technicianId === technicianId ? 'move' : 'hand over',
        technicianId,
        span,
        travelMinutes: stop.travelMinutes,
        needs: problem.work.filter((w) => w.id !== piece.id && standsIn(w, technicianId, block) && goesAway(plan, w)).map((w) => w.id),
        why: whyHere(piece, span, stop.travelMinutes),
      });
    }
  return changes.sort((a, b) => a.span.from - b.span.from || (a.pieceId < b.pieceId ? -1 : 1));
}

function standsIn({ booking }: PlanWork, technicianId: Id<'person'>, block: Interval): boolean {
  return booking !== null && booking.technicianId === technicianId && booking.from < block.to && block.from < booking.to;
}

/** Whether the plan moves a booking; one that found no place stays where it is. */
function goesAway(plan: Plan, work: PlanWork): boolean {
  return [...plan.lanes.values()].some((stops) => stops.some((s) => s.pieceId === work.id && !s.kept));
}

function whyHere(work: PlanWork, span: Interval, travelMinutes: number): Explanation {
  const late = Math.round(minutesLate(span.to, work.dueAt));
  const spare = work.dueAt === null ? undefined : Math.floor((work.dueAt - span.to) / 60);
  const due =
    spare === undefined
      ? 'due at no set time'
      : late > 0
        ? `ends ${formatMinutes(late)} after it is due`
        : `ends ${formatMinutes(spare)} before it is due`;
  return [
    { rule: `${work.priority}: each minute late costs ${PLAN_WEIGHTS[work.priority]}` },
    { rule: due },
    ...(travelMinutes ? [{ rule: `${formatMinutes(travelMinutes)} on the way, at 0.2 a minute` }] : []),
    ...(work.booking ? [{ rule: 'its booking moves, which costs 5' }] : []),
  ];
}

/** What is chosen and all that must go with it. */
export function withNeeds(changes: readonly PlanChange[], chosen: ReadonlySet<string>): Set<string> {
  const all = new Set(chosen);
  for (let grown = true; grown;) {
    grown = false;
    for (const change of changes)
      if (all.has(change.pieceId)) for (const need of change.needs) if (!all.has(need)) grown = Boolean(all.add(need));
  }
  return all;
}
