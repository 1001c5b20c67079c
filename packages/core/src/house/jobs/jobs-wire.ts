import { count, defineRoutes, instant, list, nothing, optionalText, record, text, yes, type Wire } from '../../ground';

export const jobSchema = record({
  id: text(),
  task: text(),
  attempts: count(),
  mostAttempts: count(),
  runAt: instant(),
  createdAt: instant(),
  trouble: optionalText(4000),
  running: yes(),
});
export type JobWire = Wire<typeof jobSchema>;

export const jobRoutes = defineRoutes({
  listJobs: {
    method: 'GET',
    path: '/jobs',
    summary: 'Work that waits or failed',
    permission: 'setup.read',
    answer: record({ jobs: list(jobSchema) }),
  },
  retryJob: { method: 'POST', path: '/jobs/:jobId/retry', summary: 'Try a job again now', permission: 'setup.edit', answer: nothing() },
});
