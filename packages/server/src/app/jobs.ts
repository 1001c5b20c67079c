import { Logger as WorkerLogger, makeWorkerUtils, run, runMigrations, type Runner, type TaskList } from 'graphile-worker';
import type { App } from './app';
import { retryingTasks } from './job-tasks';

const LEDGER_POLL_MS = 2000;

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
  const runner: Runner = await run({
    connectionString: app.config.DATABASE_URL,
    concurrency: 4,
    pollInterval: 1000,
    noHandleSignals: true,
    taskList,
    logger: quietLogger(app),
  });
  const utils = await makeWorkerUtils({ connectionString: app.config.DATABASE_URL, logger: quietLogger() });
  const poll = setInterval(() => {
    utils
      .addJob('pull-payments', {}, { jobKey: 'pull-payments', jobKeyMode: 'preserve_run_at', maxAttempts: 25 })
      .catch((fault) => app.log.debug({ fault: String(fault) }, 'jobs: the database is away'));
  }, LEDGER_POLL_MS);
  return {
    stop: async () => {
      clearInterval(poll);
      await runner.stop().catch(() => undefined);
      await Promise.resolve(utils.release()).catch(() => undefined);
    },
  };
}

function quietLogger(app?: App): WorkerLogger {
  return new WorkerLogger(() => (level, message, meta) => {
    if (level === 'error') app?.log.warn({ meta: meta && 'error' in meta ? String(meta['error']) : undefined }, message);
  });
}
