import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { Logger as WorkerLogger, run, runMigrations, type Runner, type WorkerEvents } from 'graphile-worker';
import type { App } from './app';
import { beat, BEAT_MS, freeJobsOf, heldBy, isOneWaiting } from './job-pools';
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
/** How long one that lost its database may take to end, before another begins. */
const LOST_MS = 5000;
/** What happens by the machine's clock (UTC), once for all processes. */
const CRONTAB = [
  { when: '17 3 * * *', task: 'prune' },
  { when: '7 2 * * *', task: 'renew-contracts' },
  { when: '3 * * * *', task: 'remind' },
  { when: '8 * * * *', task: 'review-charges' },
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
      for (const lane of lanes) {
        await lane.freeLeft();
        await lane.renewIfLost();
      }
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

/** One runner's: its pools, the jobs it was handed and has not given back, and those whose task runs. */
class Handed {
  readonly pools = new Set<string>();
  readonly jobs = new Set<string>();
  readonly running = new Set<string>();
  /** How many were handed to it, ever. */
  begun = 0;
  readonly events: WorkerEvents = new EventEmitter();

  constructor() {
    this.events.on('pool:create', ({ workerPool }) => this.pools.add(workerPool.id));
    this.events.on('job:start', ({ job }) => {
      this.begun++;
      this.jobs.add(String(job.id));
      this.running.add(String(job.id));
    });
    for (const over of ['job:success', 'job:error'] as const) this.events.on(over, ({ job }) => this.running.delete(String(job.id)));
    this.events.on('job:complete', ({ job }) => this.jobs.delete(String(job.id)));
  }
}

/** Works one lane for as long as the process lives: a runner ends where the database is lost, then the next begins. */
function workLane(app: App, { name, tasks, concurrency }: (typeof LANES)[number]) {
  let runner: Runner | undefined;
  let handed = new Handed();
  /** How many it had begun when it was looked at last. */
  let seen = 0;
  let stopping = false;
  /** Runners that ended, or that were left behind while they ended. */
  const left = new Set<Handed>();
  /** Frees what runners hold that take no more jobs, once no task of theirs runs; so none is done by two at once. */
  const freeLeft = async () => {
    for (const each of left) {
      if (each.running.size) continue;
      for (const pool of each.pools) await freeJobsOf(app.knex, pool);
      left.delete(each);
    }
  };
  const working = (async () => {
    while (!stopping) {
      const own = (handed = new Handed());
      seen = 0;
      try {
        await freeLeft();
        const leaving = new Promise<void>((gone) =>
          own.events.on('pool:gracefulShutdown', () => setTimeout(gone, stopping ? LEAVE_MS : LOST_MS).unref()),
        );
        runner = await run({
          connectionString: app.config.DATABASE_URL,
          concurrency,
          noHandleSignals: true,
          taskList: retryingTasks(app, tasks),
          crontab: CRONTAB.filter((line) => line.task in tasks)
            .map((line) => `${line.when} ${line.task}`)
            .join('\n'),
          events: own.events,
          logger: quietLogger(app),
          // Batches of one turn: only of these is a failure to finish a job told to the runner; else it ends the process.
          preset: { worker: { pollInterval: 1000, completeJobBatchDelay: 0, failJobBatchDelay: 0 } },
        });
        // Asked to stop while it began.
        if (stopping) void runner.stop().catch(() => undefined);
        // One that lost its database in the middle may never end.
        const ended = await Promise.race([runner.promise.then(() => true), leaving.then(() => false)]);
        if (!ended) app.log.warn({ lane: name }, 'the queue was left behind; another begins');
      } catch (fault) {
        app.log.warn({ fault, lane: name }, 'the queue lost the database');
      }
      left.add(own);
      // A task that never ends keeps nothing for longer: its runner is not said to live any more, and is found dead.
      setTimeout(() => left.delete(own), LEAVE_MS).unref();
      if (!stopping) await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  })();
  return {
    /** Those of runners left behind too, as long as a task of theirs runs. */
    pools: () => [handed, ...left].flatMap((each) => [...each.pools]),
    freeLeft,
    /**
     * A connection that breaks at the wrong moment leaves a runner that holds a job it never heard of, or that waits for an
     * answer for good and takes none of those that are due: then another begins.
     */
    renewIfLost: async () => {
      const { pools, jobs, running, begun } = handed;
      const held = await heldBy(app.knex, [...pools]);
      const holds = held.every((id) => jobs.has(id));
      const takes = running.size > 0 || begun !== seen || !(await isOneWaiting(app.knex, Object.keys(tasks)));
      seen = begun;
      if (holds && takes) return;
      app.log.warn({ lane: name, holds, takes }, 'the queue lost its database without a word; it begins anew');
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
