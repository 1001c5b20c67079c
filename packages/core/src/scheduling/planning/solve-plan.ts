import { layRoute, type LaidStop, type Stop } from './lay-route';
import { lastShiftEnd, leftOutCost, type PlanProblem, type PlanWork } from './plan-problem';

/** A plan: what each technician does when, what found no place, and what all of it costs. Source: docs/calculations.md, A plan. */
export interface Plan {
  readonly cost: number;
  /** The cost of what is there, by the same measure. */
  readonly costNow: number;
  readonly lanes: ReadonlyMap<string, readonly LaidStop[]>;
  readonly leftOut: readonly string[];
}

export interface SolveOptions {
  /** How many times the plan is broken up and mended. */
  readonly rounds: number;
  /** The same seed gives the same plan. */
  readonly seed: number;
  /** Asked before each round, told how many are done and the cost so far; the best plan so far is answered once it says no. */
  readonly goOn?: (done: number, cost: number) => boolean;
}

/** A plan being made: an order of stops by technician, with its cost, and what is left out. */
interface Draft {
  readonly stops: Stop[][];
  readonly costs: number[];
  out: PlanWork[];
}

/** At most so many pieces are taken out in a round. */
const MOST_RUINED = 24;
/** How often a place that would do is passed over, so that rounds differ. */
const BLINK = 0.08;

/**
 * Makes a plan of the work: keeps what is fixed, moves what is booked where that is worth it, finds a place for what
 * is not. Begins with what is there, so that it never ends dearer; then breaks parts up and mends them, keeping
 * what is no worse. Skills, available time, fixed bookings and travel are kept without exception.
 */
export function solvePlan(problem: PlanProblem, options: SolveOptions): Plan {
  const random = randomFrom(options.seed);
  const lastEnd = lastShiftEnd(problem);
  const total = (draft: Draft) => draft.costs.reduce((a, c) => a + c, 0) + draft.out.reduce((a, w) => a + leftOutCost(w, lastEnd), 0);
  const solver = new Mender(problem, random, (w) => leftOutCost(w, lastEnd));
  let best = standing(problem);
  const costNow = total(best);
  let current = copied(best);
  current.out.sort((a, b) => leftOutCost(b, lastEnd) - leftOutCost(a, lastEnd) || (a.id < b.id ? -1 : 1));
  solver.mend(current, current.out.splice(0), 0);
  let [currentCost, bestCost] = [total(current), costNow];
  if (currentCost <= bestCost) [best, bestCost] = [copied(current), currentCost];
  for (let round = 0; round < options.rounds && bestCost > 0; round++) {
    if (options.goOn && !options.goOn(round, bestCost)) break;
    const next = copied(current);
    const loose = solver.ruin(next);
    solver.mend(next, loose, BLINK);
    const cost = total(next);
    const heat = 0.02 * bestCost * (1 - round / options.rounds) ** 2;
    if (cost <= currentCost + heat * random()) [current, currentCost] = [next, cost];
    if (cost < bestCost - 1e-9) [best, bestCost] = [copied(next), cost];
    else if (round % 200 === 199) [current, currentCost] = [copied(best), bestCost];
  }
  return asPlan({ problem, draft: best, cost: bestCost, costNow });
}

/** What is there: every booking that fits stays; what collides, lies outside or has nobody is left out of it. */
function standing(problem: PlanProblem): Draft {
  const draft: Draft = { stops: problem.technicians.map(() => []), costs: problem.technicians.map(() => 0), out: [] };
  const index = new Map(problem.technicians.map((t, i) => [t.id, i]));
  const booked = problem.work
    .filter((w) => w.booking)
    .sort((a, b) => Number(b.booking!.fixed) - Number(a.booking!.fixed) || a.booking!.from - b.booking!.from);
  for (const work of booked) {
    const i = index.get(work.booking!.technicianId);
    const lane = i === undefined ? undefined : withKept(draft.stops[i]!, work);
    const fits = i !== undefined && lane && (work.booking!.fixed || stands(problem, i, work));
    const route = fits ? layRoute({ problem, technician: problem.technicians[i]!, stops: lane }) : undefined;
    if (route) [draft.stops[i!], draft.costs[i!]] = [lane!, route.cost];
    else if (!work.booking!.fixed) draft.out.push(work);
  }
  draft.out.push(...problem.work.filter((w) => !w.booking));
  return draft;
}

/** Whether a booking lies in the technician's available time and is of what they know. */
function stands(problem: PlanProblem, i: number, { booking, skillId }: PlanWork): boolean {
  const technician = problem.technicians[i]!;
  return (
    (skillId === null || Boolean(technician.skills[skillId])) &&
    technician.available.some((a) => a.from <= booking!.from && booking!.to <= a.to)
  );
}

function withKept(lane: readonly Stop[], work: PlanWork): Stop[] {
  return [...lane, { work, kept: true }].sort((a, b) => a.work.booking!.from - b.work.booking!.from);
}

function copied(draft: Draft): Draft {
  return { stops: draft.stops.map((s) => [...s]), costs: [...draft.costs], out: [...draft.out] };
}

/** Takes stops out of a draft and finds places for what is loose. */
class Mender {
  constructor(
    private readonly problem: PlanProblem,
    private readonly random: () => number,
    private readonly outCost: (work: PlanWork) => number,
  ) {}

  private pick(below: number): number {
    return Math.floor(this.random() * below);
  }

  /** Takes out some stops, here and there or of two technicians' days, and some of what has no place. */
  ruin(draft: Draft): PlanWork[] {
    const movable = draft.stops.flatMap((lane, i) => lane.flatMap((s) => (s.kept && s.work.booking!.fixed ? [] : [{ i, s }])));
    const loose: PlanWork[] = [];
    if (movable.length) {
      const most = Math.min(MOST_RUINED, movable.length);
      const whole = movable.length <= MOST_RUINED / 2 && this.random() < 0.3;
      const size = whole ? movable.length : 1 + this.pick(most);
      const near = this.random() < 0.5 ? movable[this.pick(movable.length)]! : undefined;
      const other = this.pick(draft.stops.length);
      const pool = near ? movable.filter((m) => m.i === near.i || m.i === other) : [...movable];
      for (let n = 0; n < size && pool.length; n++) {
        const [{ i, s }] = pool.splice(this.pick(pool.length), 1) as [{ i: number; s: Stop }];
        draft.stops[i] = draft.stops[i]!.filter((x) => x !== s);
        loose.push(s.work);
      }
      draft.stops.forEach((lane, i) => {
        const route = layRoute({ problem: this.problem, technician: this.problem.technicians[i]!, stops: lane });
        // Without a stop the rest can be laid, but what stands kept may now need a longer way from where it was.
        if (route) draft.costs[i] = route.cost;
        else this.emptyOut(draft, i, loose);
      });
    }
    for (let n = this.pick(6); n >= 0 && draft.out.length; n--) loose.push(...draft.out.splice(this.pick(draft.out.length), 1));
    return loose;
  }

  /** A day that cannot be laid any more keeps what is fixed; all else of it is loose. */
  private emptyOut(draft: Draft, i: number, loose: PlanWork[]): void {
    const [stay, go] = [[] as Stop[], [] as Stop[]];
    for (const s of draft.stops[i]!) (s.kept && s.work.booking!.fixed ? stay : go).push(s);
    loose.push(...go.map((s) => s.work));
    draft.stops[i] = stay;
    draft.costs[i] = layRoute({ problem: this.problem, technician: this.problem.technicians[i]!, stops: stay })?.cost ?? 0;
  }

  /** Puts each piece where it costs least, or leaves it out where that costs less. */
  mend(draft: Draft, loose: PlanWork[], blink: number): void {
    const way = blink ? this.pick(3) : 0;
    if (way === 1) loose.sort((a, b) => this.outCost(b) - this.outCost(a));
    else if (way === 2) loose.sort((a, b) => (a.dueAt ?? Infinity) - (b.dueAt ?? Infinity));
    else if (blink) for (let n = loose.length - 1; n > 0; n--) swap(loose, n, this.pick(n + 1));
    for (const work of loose) {
      let best = { more: this.outCost(work), i: -1, lane: [] as Stop[], cost: 0 };
      this.problem.technicians.forEach((technician, i) => {
        const [lane, was] = [draft.stops[i]!, draft.costs[i]!];
        for (const kept of work.booking?.technicianId === technician.id ? [true, false] : [false])
          for (let position = lane.length; position >= 0; position--) {
            if (blink && this.random() < blink) continue;
            if (kept && !fitsInOrder(lane, position, work)) continue;
            const tried = [...lane.slice(0, position), { work, kept }, ...lane.slice(position)];
            if (kept && !stands(this.problem, i, work)) continue;
            const route = layRoute({ problem: this.problem, technician, stops: tried, upTo: was + best.more });
            if (route && route.cost - was < best.more) best = { more: route.cost - was, i, lane: tried, cost: route.cost };
          }
      });
      if (best.i < 0) draft.out.push(work);
      else [draft.stops[best.i], draft.costs[best.i]] = [best.lane, best.cost];
    }
  }
}

/** What is kept stays in the order of its times. */
function fitsInOrder(lane: readonly Stop[], position: number, { booking }: PlanWork): boolean {
  return (
    lane.slice(0, position).every((s) => !s.kept || s.work.booking!.from <= booking!.from) &&
    lane.slice(position).every((s) => !s.kept || s.work.booking!.from >= booking!.from)
  );
}

function swap<T>(list: T[], a: number, b: number): void {
  [list[a], list[b]] = [list[b]!, list[a]!];
}

function asPlan({
  problem,
  draft,
  cost,
  costNow,
}: {
  readonly problem: PlanProblem;
  readonly draft: Draft;
  readonly cost: number;
  readonly costNow: number;
}): Plan {
  const lanes = new Map(problem.technicians.map((t, i) => [t.id, layRoute({ problem, technician: t, stops: draft.stops[i]! })!.stops]));
  return { cost, costNow, lanes, leftOut: draft.out.map((w) => w.id).sort() };
}

/** Numbers from 0 to 1 that are the same for the same seed (mulberry32). */
function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
