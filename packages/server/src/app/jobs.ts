import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { Logger as WorkerLogger, run, runMigrations, type Runner, type WorkerEvents } from 'graphile-worker';
import type { App } from './app';
import { beat, BEAT_MS, freeJobsOf, heldBy } from './job-pools';
import { LANES, retryingTasks } from './job-tasks';

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
/** How long a runner that ends has for what is underway; sending a mail may take 15 s. */
const LEAVE_MS = 20_000;
/** How long one that lost its database may take to end, before another begins: its jobs are free when it is found dead. */
const LOST_MS = 5000;
/** What happens by the machine's clock (UTC), once for all processes. */
const CRONTAB = [
  { when: '17 3 * * *', task: 'prune' },
  { when: '37 * * * *', task: 'learn' },
  { when: '*/10 * * * *', task: 'read-calendars' },
] as const;

export interface Jobs {
  stop(): Promise<void>;
}

/** Makes the queue's own tables; part of migrating. */
export async function migrateJobs(url: string): Promise<void> {
  await runMigrations({ connectionString: url, logger: quietLogger() });
}

/**
 * Works the queue in PostgreSQL, each lane by a runner of its own. A failed job is kept with its trouble, tried
 * again with growing waits and shown in Setup; what a process that died had begun is free again within half a
 * minute. Stopping waits for what is underway.
 */
export async function startJobs(app: App): Promise<Jobs> {
  const process = randomUUID();
  const lanes = LANES.map((lane) => workLane(app, lane));
  const tell = async () => {
    try {
      await beat(
        app.knex,
        process,
        lanes.flatMap((lane) => lane.pools()),
      );
      for (const lane of lanes) await lane.renewIfLost();
    } catch (fault) {
      app.log.debug({ fault }, 'jobs: the database is away');
    }
  };
  const beats = setInterval(() => void tell(), BEAT_MS);
  const polls = POLLS.map(({ task, everyMs }) => setInterval(() => void askFor(app, task), everyMs));
  return {
    stop: async () => {
      polls.forEach(clearInterval);
      await Promise.all(lanes.map((lane) => lane.stop()));
      clearInterval(beats);
    },
  };
}

/** Works one lane for as long as the process lives: a runner ends where the database is lost, then the next begins. */
function workLane(app: App, { name, tasks, concurrency }: (typeof LANES)[number]) {
  let runner: Runner | undefined;
  let stopping = false;
  const pools = new Set<string>();
  const underway = new Set<string>();
  const over = new Set<string>();
  const free = async () => {
    for (const pool of over) {
      await freeJobsOf(app.knex, pool);
      over.delete(pool);
    }
  };
  const working = (async () => {
    while (!stopping) {
      try {
        await free();
        const events: WorkerEvents = new EventEmitter();
        events.on('pool:create', ({ workerPool }) => pools.add(workerPool.id));
        events.on('job:start', ({ job }) => underway.add(String(job.id)));
        events.on('job:complete', ({ job }) => underway.delete(String(job.id)));
        const leaving = new Promise<void>((left) =>
          events.on('pool:gracefulShutdown', () => setTimeout(left, stopping ? LEAVE_MS : LOST_MS).unref()),
        );
        runner = await run({
          connectionString: app.config.DATABASE_URL,
          concurrency,
          noHandleSignals: true,
          taskList: retryingTasks(app, tasks),
          crontab: CRONTAB.filter((line) => line.task in tasks)
            .map((line) => `${line.when} ${line.task}`)
            .join('\n'),
          events,
          logger: quietLogger(app),
          // Batches of one turn: only of these is a failure to finish a job told to the runner; else it ends the process.
          preset: { worker: { pollInterval: 1000, completeJobBatchDelay: 0, failJobBatchDelay: 0 } },
        });
        // Asked to stop while it began.
        if (stopping) void runner.stop().catch(() => undefined);
        // One that lost its database in the middle may never end. What it held is found dead, as a process's would be.
        const ended = await Promise.race([runner.promise.then(() => true), leaving.then(() => false)]);
        if (ended) for (const pool of pools) over.add(pool);
        else app.log.warn({ lane: name }, 'the queue was left behind; another begins');
      } catch (fault) {
        for (const pool of pools) over.add(pool);
        app.log.warn({ fault, lane: name }, 'the queue lost the database');
      }
      pools.clear();
      if (!stopping) await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  })();
  return {
    pools: () => [...pools],
    /** A job that was handed out just as the connection broke is held by a runner that never heard of it: then another begins. */
    renewIfLost: async () => {
      const held = await heldBy(app.knex, [...pools]);
      if (held.every((id) => underway.has(id))) return;
      app.log.warn({ lane: name }, 'the queue holds jobs it was never given; it begins anew');
      void runner?.stop().catch(() => undefined);
    },
    stop: async () => {
      stopping = true;
      void runner?.stop().catch(() => undefined);
      await working;
    },
  };
}

async function askFor(app: App, task: string): Promise<void> {
  await app.knex
    .raw(`select graphile_worker.add_job(?, '{}', job_key := ?, job_key_mode := 'preserve_run_at', max_attempts := 25)`, [task, task])
    .catch((fault: unknown) => app.log.debug({ fault }, 'jobs: the database is away'));
}

function quietLogger(app?: App): WorkerLogger {
  return new WorkerLogger(() => (level, message, meta) => {
    if (level === 'error') app?.log.warn({ fault: meta?.['error'] }, message);
  });
}
