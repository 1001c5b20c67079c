import { jobRoutes } from '@core/house';
import { formatInstant, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';

const MOST = 200;

export function bindJobs(app: App) {
  return bindRoutes(app, jobRoutes, {
    listJobs: async ({ db }) => {
      const rows = await db('graphile_worker.jobs')
        .orderByRaw('last_error is null, run_at')
        .limit(MOST)
        .select('id', 'task_identifier', 'attempts', 'max_attempts', 'run_at', 'created_at', 'last_error', 'locked_at');
      return {
        jobs: rows.map((j) => ({
          id: String(j.id),
          task: j.task_identifier,
          attempts: j.attempts,
          mostAttempts: j.max_attempts,
          runAt: formatInstant(j.run_at),
          createdAt: formatInstant(j.created_at),
          trouble: j.last_error,
          running: j.locked_at !== null,
        })),
      };
    },
    retryJob: async ({ work, params }) => {
      if (!/^\d+$/.test(params.jobId)) return refuse('invalid', 'A job is named by its number.', { jobId: 'a number' });
      const { rows } = await work.tx.raw(
        'select id from graphile_worker.reschedule_jobs(array[?]::bigint[], run_at := now(), attempts := 0)',
        [params.jobId],
      );
      return rows.length ? {} : refuse('not-found', 'There is no such job that waits; it may be done.');
    },
  });
}
