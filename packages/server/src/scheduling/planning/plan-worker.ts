import workerpool from 'workerpool';
import { solvePlan, type LaidStop, type PlanProblem } from '@core/scheduling';

/** A problem as it goes to a worker thread: travel as minutes by pair of places. */
export type SentProblem = Omit<PlanProblem, 'travel'> & { readonly minutes: Readonly<Record<string, number>> };
export interface SentPlan {
  readonly cost: number;
  readonly costNow: number;
  readonly lanes: readonly (readonly [string, readonly LaidStop[]])[];
  readonly leftOut: readonly string[];
}
export interface PlanProgress {
  readonly done: number;
  readonly cost: number;
}

/** How long a plan is bettered. */
export interface PlanBounds {
  readonly rounds: number;
  /** A shared cell: once it is not 0, the best plan so far is answered. */
  readonly stop: SharedArrayBuffer;
  /** Milliseconds after which it is good enough. */
  readonly most: number;
}

const SEED = 1;
const TELL_MS = 150;

/** Makes a plan, away from the process that answers people. */
function plan({ minutes, ...problem }: SentProblem, { rounds, stop, most }: PlanBounds): SentPlan {
  const cell = new Int32Array(stop);
  const began = performance.now();
  let told = began;
  const made = solvePlan(
    { ...problem, travel: (a, b) => minutes[`${a} ${b}`] ?? 0 },
    {
      rounds,
      seed: SEED,
      goOn: (done, cost) => {
        const at = performance.now();
        if (at - told > TELL_MS) {
          told = at;
          workerpool.workerEmit({ done, cost } satisfies PlanProgress);
        }
        return Atomics.load(cell, 0) === 0 && at - began < most;
      },
    },
  );
  return { ...made, lanes: [...made.lanes] };
}

workerpool.worker({ plan });
