import { resolve } from 'node:path';
import workerpool, { type Pool } from 'workerpool';
import type { BankStatement } from '@core/billing';
import { type Outcome, refuse } from '@core/ground';
import type { BankFileHow } from './parse-bank-file';

const MOST_WORKERS = 1;
const MOST_MS = 10_000;
const MOST_WAITING = 10;

/** The worker thread that reads files of banks. */
export class BankWorkers {
  private readonly pool: Pool;

  /** @param file the built worker */
  constructor(file: string) {
    this.pool = workerpool.pool(resolve(file), { maxWorkers: MOST_WORKERS, workerType: 'thread', maxQueueSize: MOST_WAITING });
  }

  /** @returns a refusal where it cannot be read, or not in time; its thread is ended then */
  async read(bytes: Uint8Array, how: BankFileHow): Promise<Outcome<readonly BankStatement[]>> {
    try {
      return (await this.pool.exec('read', [bytes, how]).timeout(MOST_MS)) as Outcome<readonly BankStatement[]>;
    } catch (fault) {
      if (!(fault instanceof workerpool.Promise.TimeoutError)) throw fault;
      return refuse('invalid', `The file takes longer than ${MOST_MS / 1000} seconds to read.`, { file: 'statements of fewer days' });
    }
  }

  async stop(): Promise<void> {
    await this.pool.terminate(true);
  }
}
