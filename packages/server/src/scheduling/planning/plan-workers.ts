import { resolve } from 'node:path';
import workerpool, { type Pool } from 'workerpool';
import type { PlanProgress, SentPlan, SentProblem } from './plan-worker';

const MOST_WORKERS = 1;

/** The worker thread that makes plans. */
export class PlanWorkers {
  private readonly pool: Pool;

  /** @param file the built worker */
  constructor(file: string) {
    this.pool = workerpool.pool(resolve(file), { maxWorkers: MOST_WORKERS, workerType: 'thread' });
  }

  /** @throws Error where the plan cannot be made */
  async make(
    problem: SentProblem,
    { rounds, most, stop, on }: { rounds: number; most: number; stop: SharedArrayBuffer; on: (progress: PlanProgress) => void },
  ): Promise<SentPlan> {
    return (await this.pool.exec('plan', [problem, { rounds, stop, most }], { on })) as SentPlan;
  }

  async stop(): Promise<void> {
    await this.pool.terminate();
  }
}
