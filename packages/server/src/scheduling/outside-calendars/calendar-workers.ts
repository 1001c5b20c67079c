import { resolve } from 'node:path';
import workerpool, { type Pool } from 'workerpool';
import { type Outcome, type ReadCalendar, type Reading, refuse } from '@core/ground';

const MOST_WORKERS = 2;
const MOST_MS = 3000;
const MOST_WAITING = 50;

/** The worker threads that read calendars from outside. */
export class CalendarWorkers {
  private readonly pool: Pool;

  /** @param file the built worker */
  constructor(file: string) {
    this.pool = workerpool.pool(resolve(file), { maxWorkers: MOST_WORKERS, workerType: 'thread', maxQueueSize: MOST_WAITING });
  }

  /** @returns a refusal where it cannot be read, or not in time; its thread is ended then */
  async read(text: string, reading: Reading): Promise<Outcome<ReadCalendar>> {
    try {
      return (await this.pool.exec('read', [text, reading]).timeout(MOST_MS)) as Outcome<ReadCalendar>;
    } catch (fault) {
      if (!(fault instanceof workerpool.Promise.TimeoutError)) throw fault;
      return refuse(
        'invalid',
        `The calendar takes longer than ${MOST_MS / 1000} seconds to read: one of its rules may never fall due, or it repeats for too long.`,
      );
    }
  }

  async stop(): Promise<void> {
    await this.pool.terminate(true);
  }
}
