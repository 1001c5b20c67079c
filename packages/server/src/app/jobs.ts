import { Logger as WorkerLogger, run, runMigrations, type Runner, type TaskList } from 'graphile-worker';
import type { App } from './app';
import { retryingTasks } from './job-tasks';

/** What is asked for again and again, one job at a time however many processes there are, and how often. */
const POLLS = [
  { task: 'pull-payments', everyMs: 2000 },
  { task: 'sweep-tickets', everyMs: 2000 },
  { task: 'ring-again', everyMs: 2000 },
  { task: 'open-routines', everyMs: 5000 },
  { task: 'watch-bookings', everyMs: 5000 },
  { task: 'release-openings', everyMs: 5000 },
] as const;
const AGAIN_MS = 1000;
/** What happens by the machine's clock (UTC), once for all processes. */
const CRONTAB = '17 3 * * * prune\n37 * * * * learn\n*/10 * * * * read-calendars';

export interface Jobs {
  stop(): Promise<void>;
}

/** Makes the queue's own tables; part of migrating. */
export async function migrateJobs(url: string): Promise<void> {
  await runMigrations({ connectionString: url, logger: quietLogger() });
}

/**
 * Works the queue in PostgreSQL. A failed job is kept with its trouble, tried again with growing waits and
 * shown in Setup. Stopping waits for what is underway.
 */
export async function startJobs(app: App): Promise<Jobs> {
  const taskList: TaskList = retryingTasks(app);
  const { DATABASE_URL: connectionString } = app.config;
  let runner: Runner | undefined;
  let stopping = false;
  // A runner ends where the database is lost for good; then the next begins, so that no work waits for a restart.
  const working = (async () => {
    while (!stopping) {
      try {
        runner = await run({
          connectionString,
          concurrency: 4,
          pollInterval: 1000,
          noHandleSignals: true,
          taskList,
          crontab: CRONTAB,
          logger: quietLogger(app),
        });
        await runner.promise;
      } catch (fault) {
        app.log.warn({ fault: String(fault) }, 'the queue lost the database');
      }
      if (!stopping) await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  })();
  const polls = POLLS.map(({ task, everyMs }) => setInterval(() => void askFor(app, task), everyMs));
  return {
    stop: async () => {
      stopping = true;
      polls.forEach(clearInterval);
      await runner?.stop().catch(() => undefined);
      await working;
    },
  };
}

async function askFor(app: App, task: string): Promise<void> {
  await app.knex
    .raw(`select graphile_worker.add_job(?, '{}', job_key := ?, job_key_mode := 'preserve_run_at', max_attempts := 25)`, [task, task])
    .catch((fault: unknown) => app.log.debug({ fault: String(fault) }, 'jobs: the database is away'));
}

function quietLogger(app?: App): WorkerLogger {
  return new WorkerLogger(() => (level, message, meta) => {
    if (level === 'error') app?.log.warn({ meta: meta && 'error' in meta ? String(meta['error']) : undefined }, message);
  });
}
