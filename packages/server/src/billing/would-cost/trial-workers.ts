import { resolve } from 'node:path';
import workerpool, { type Pool } from 'workerpool';
import type { TriedMonth } from '@core/billing';
import type { TrialAsked } from './would-cost-worker';

const MOST_WORKERS = 1;

/** The worker thread that tries contracts on past work. */
export class TrialWorkers {
  private readonly pool: Pool;

  /** @param file the built worker */
  constructor(file: string) {
    this.pool = workerpool.pool(resolve(file), { maxWorkers: MOST_WORKERS, workerType: 'thread' });
  }

  /** @throws Error where it cannot be worked out */
  async make(asked: TrialAsked, on: (progress: { readonly percent: number }) => void): Promise<TriedMonth[][]> {
    return (await this.pool.exec('trial', [asked], { on })) as TriedMonth[][];
  }

  async stop(): Promise<void> {
    await this.pool.terminate();
  }
}
