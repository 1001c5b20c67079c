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

const SEED = 1;
const TELL_MS = 150;

/**
 * Makes a plan, away from the process that answers people.
 * @param stop a shared cell: once it is not 0, the best plan so far is answered
 * @param most milliseconds after which it is good enough
 */
function plan({ minutes, ...problem }: SentProblem, rounds: number, stop: SharedArrayBuffer, most: number): SentPlan {
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
