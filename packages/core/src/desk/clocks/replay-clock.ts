import { addWorkingSeconds, type Instant, step, type Step, workingSeconds } from '../../ground';
import {
  UMBRELLA_HOLD,
  type ClockFact,
  type ClockName,
  type ClockReading,
  type ClockState,
  type PastRun,
  type PromiseVersion,
  type Segment,
  type Target,
} from './clock';

interface Running {
  readonly clock: ClockName;
  promise: PromiseVersion;
  priority: keyof PromiseVersion['response'];
  target: Target;
  mode: 'waiting' | 'ran' | 'held' | 'ended';
  reason: string;
  since: Instant;
  elapsed: number;
  missedAt: Instant | undefined;
  endedAt: Instant | undefined;
  segments: Segment[];
  steps: Step[];
  /** What it counts from: the receipt, or for an umbrella the earliest receipt of a member. */
  received: Instant;
  /** When this run began, and the runs before it. */
  began: Instant;
  past: PastRun[];
  /** Why the ticket as a whole is on hold, whatever this clock does. */
  ticketHeld: string | undefined;
  ticketResolved: boolean;
  /** Whether the client was ever told something by a person. */
  contacted: boolean;
}

/**
 * Replays what happened to a ticket and reads one clock at `now`. Facts may come in any order; they take
 * their place by the time they happened, and what happened after `now` is left out.
 * Source: docs/calculations.md, Clocks.
 * @param promise the one the ticket was opened with
 * @returns undefined where nothing was received by `now`, and for update before the first public contact
 */
export function replayClock({
  clock,
  promise,
  facts,
  now,
}: {
  readonly clock: ClockName;
  readonly promise: PromiseVersion;
  readonly facts: readonly ClockFact[];
  readonly now: Instant;
}): ClockReading | undefined {
  const inOrder = facts.filter((fact) => fact.at <= now).sort((a, b) => a.at - b.at);
  const received = inOrder.find((fact) => fact.is === 'received');
  if (!received) return undefined;
  const priority = promise.defaultPriority;
  const run: Running = {
    clock,
    promise,
    priority,
    target: targetOf(clock, promise, priority),
    mode: 'waiting',
    reason: '',
    since: received.at,
    elapsed: 0,
    missedAt: undefined,
    endedAt: undefined,
    segments: [],
    steps: [step(`promise ${promise.name}, version ${promise.version}`)],
    received: received.at,
    began: received.at,
    past: [],
    ticketHeld: undefined,
    ticketResolved: false,
    contacted: false,
  };
  for (const [n, fact] of inOrder.entries()) {
    apply(run, fact);
    if (inOrder[n + 1]?.at !== fact.at) judge(run, fact.at);
  }
  advance(run, now);
  return run.mode === 'waiting' ? undefined : read(run);
}

function targetOf(clock: ClockName, promise: PromiseVersion, priority: Running['priority']): Target {
  return clock === 'triage' ? promise.triage : promise[clock][priority];
}

/** Counts up to `to`, and notes the miss where the due instant has passed. */
function advance(run: Running, to: Instant): void {
  const from = run.since;
  run.since = to;
  if (run.mode === 'waiting' || to <= from) return;
  if (run.mode === 'ran' && run.missedAt === undefined) {
    const due = addWorkingSeconds(run.target.calendar, from, run.target.seconds - run.elapsed);
    if (due !== 'never' && due < to) run.missedAt = due;
  }
  const seconds = run.mode === 'ran' ? workingSeconds(run.target.calendar, from, to) : 0;
  run.elapsed += seconds;
  const did = run.mode === 'ended' ? 'stopped' : run.mode;
  const last = run.segments.at(-1);
  if (last?.did === did) run.segments[run.segments.length - 1] = { ...last, to, seconds: last.seconds + seconds };
  else run.segments.push({ from, to, did, seconds });
}

/** Several changes at one instant count as one: nothing is missed by a target or a state that held for no time. */
function judge(run: Running, at: Instant): void {
  if (run.mode === 'ran' && run.missedAt === undefined && run.elapsed > run.target.seconds) run.missedAt = at;
}

function apply(run: Running, fact: ClockFact): void {
  advance(run, fact.at);
  switch (fact.is) {
    case 'received':
      if (run.mode === 'waiting' && run.clock !== 'update') start(run, fact.at);
      return;
    case 'routed':
      if (run.clock === 'triage') end(run, fact.at, 'routed');
      return;
    case 'public-contact':
      if (run.clock === 'response') end(run, fact.at, 'first public contact');
      if (run.clock === 'update' && !run.ticketResolved) restart(run, fact.at, 'public contact');
      run.contacted = true;
      return;
    case 'resolved':
      end(run, fact.at, 'resolved');
      run.ticketResolved = true;
      run.ticketHeld = undefined;
      return;
    case 'reopened':
      run.ticketResolved = false;
      if (run.clock === 'resolution' && run.mode === 'ended') reopen(run, fact.at);
      if (run.clock === 'update' && run.contacted) restart(run, fact.at, 'reopened');
      return;
    case 'priority':
      run.priority = fact.priority;
      // A priority is decided with the triage, and leaves its own clock alone.
      if (run.clock !== 'triage') retarget(run, fact.at, `priority ${fact.priority}`);
      return;
    case 'promise':
      run.promise = fact.promise;
      retarget(run, fact.at, `promise ${fact.promise.name}, version ${fact.promise.version}`);
      return;
    case 'held':
      run.ticketHeld = fact.reason;
      if (holdsFor(run.clock, fact.reason) && (run.mode === 'ran' || run.mode === 'held')) hold(run, fact.at, fact.reason);
      return;
    case 'earlier-receipt':
      countFrom(run, fact.received);
      return;
    case 'runs':
      run.ticketHeld = undefined;
      if (run.mode === 'held') resume(run, fact.at);
  }
}

/** Response and triage never pause, save for a member of an umbrella. */
function holdsFor(clock: ClockName, reason: string): boolean {
  return reason === UMBRELLA_HOLD || clock === 'resolution' || clock === 'update';
}

/** An umbrella's clocks that have not ended count from the earlier receipt, and are missed at the joining at the earliest. */
function countFrom(run: Running, received: Instant): void {
  if (run.clock === 'update' || (run.mode !== 'ran' && run.mode !== 'held') || received >= run.received) return;
  const seconds = workingSeconds(run.target.calendar, received, run.received);
  run.segments.unshift({ from: received, to: run.received, did: 'ran', seconds });
  run.received = received;
  run.elapsed += seconds;
  run.steps.push(moment('a report that was received earlier joined: counts from', received), {
    rule: 'counted before it',
    figure: { unit: 'seconds', value: seconds },
  });
}

function start(run: Running, at: Instant): void {
  run.mode = 'ran';
  run.since = at;
  run.steps.push(moment('received', at), {
    rule: `target on ${run.target.calendar.name}`,
    figure: { unit: 'seconds', value: run.target.seconds },
  });
}

/** Ends the run there was, met or missed by itself, and begins the next with the target of now. */
function restart(run: Running, at: Instant, what: string): void {
  if (run.mode === 'ran' || run.mode === 'held') end(run, at, what);
  if (run.mode === 'ended') run.past.push({ from: run.began, endedAt: run.endedAt!, missedAt: run.missedAt });
  run.target = targetOf(run.clock, run.promise, run.priority);
  run.began = at;
  run.since = at;
  run.elapsed = 0;
  run.missedAt = undefined;
  run.endedAt = undefined;
  run.segments = [];
  run.steps = [
    step(`promise ${run.promise.name}, version ${run.promise.version}`),
    moment(what, at),
    { rule: `target on ${run.target.calendar.name}`, figure: { unit: 'seconds', value: run.target.seconds } },
  ];
  run.mode = 'ran';
  if (run.ticketHeld !== undefined) hold(run, at, run.ticketHeld);
}

function end(run: Running, at: Instant, what: string): void {
  if (run.mode === 'ended' || run.mode === 'waiting') return;
  run.mode = 'ended';
  run.endedAt = at;
  run.steps.push(moment(what, at), { rule: 'counted until then', figure: { unit: 'seconds', value: run.elapsed } });
}

function reopen(run: Running, at: Instant): void {
  run.mode = 'ran';
  run.endedAt = undefined;
  if (run.missedAt === undefined) run.target = targetOf(run.clock, run.promise, run.priority);
  run.steps.push(moment('reopened, goes on from what was counted', at));
}

function retarget(run: Running, at: Instant, why: string): void {
  // One that ended in this very act takes the target that holds after it.
  if ((run.mode === 'ended' && run.endedAt !== at) || run.missedAt !== undefined) return;
  run.target = targetOf(run.clock, run.promise, run.priority);
  run.steps.push(moment(`${why}: time counted stays, target changes`, at), {
    rule: `target on ${run.target.calendar.name}`,
    figure: { unit: 'seconds', value: run.target.seconds },
  });
}

function hold(run: Running, at: Instant, reason: string): void {
  run.mode = 'held';
  run.reason = reason;
  run.steps.push(moment(`on hold: ${reason}`, at));
}

function resume(run: Running, at: Instant): void {
  run.mode = 'ran';
  run.steps.push(moment('runs again', at));
}

function moment(rule: string, value: Instant): Step {
  return { rule, figure: { unit: 'instant', value } };
}

function read(run: Running): ClockReading {
  const remaining = run.target.seconds - run.elapsed;
  const state = stateOf(run, remaining);
  const explanation = [...run.steps, { rule: 'counted so far', figure: { unit: 'seconds', value: run.elapsed } } as const];
  if (state.is === 'running' && state.due !== 'never')
    explanation.push(moment('due: the earliest instant with the target worked', state.due));
  if (run.missedAt !== undefined) explanation.push(moment('missed', run.missedAt));
  return {
    clock: run.clock,
    state,
    holding: run.mode === 'held',
    elapsed: run.elapsed,
    remaining,
    target: run.target.seconds,
    percent: run.target.seconds === 0 ? 100 : Math.floor((run.elapsed * 100) / run.target.seconds),
    segments: run.segments,
    warns: state.is === 'running' ? warnsNext(run) : undefined,
    past: run.past,
    explanation,
  };
}

/** The next percentage that is not reached yet, and the earliest instant at which it will be. */
function warnsNext(run: Running): ClockReading['warns'] {
  for (const percent of run.promise.warnAt) {
    const left = Math.ceil((run.target.seconds * percent) / 100) - run.elapsed;
    if (left <= 0) continue;
    const at = addWorkingSeconds(run.target.calendar, run.since, left);
    return at === 'never' ? undefined : { percent, at };
  }
  return undefined;
}

function stateOf(run: Running, remaining: number): ClockState {
  if (run.missedAt !== undefined)
    return run.mode === 'ended'
      ? { is: 'missed and ended', missedAt: run.missedAt, endedAt: run.endedAt! }
      : { is: 'missed and running', missedAt: run.missedAt };
  if (run.mode === 'ended') return { is: 'met', at: run.endedAt! };
  if (run.mode === 'held') return { is: 'holding', reason: run.reason };
  return { is: 'running', due: addWorkingSeconds(run.target.calendar, run.since, Math.max(0, remaining)) };
}
