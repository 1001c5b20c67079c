import { collectDefaultMetrics, Histogram, Registry } from 'prom-client';

/** Prometheus metrics of one process. */
export class Metrics {
  readonly registry = new Registry();
  readonly requestSeconds = new Histogram({
    name: 'drumline_http_request_seconds',
    help: 'Time to answer, by method, route and status',
    labelNames: ['method', 'status'],
    registers: [this.registry],
  });
  readonly jobSeconds = new Histogram({
    name: 'drumline_job_seconds',
    help: 'Time a job took, by task and result',
    labelNames: ['task', 'result'],
    registers: [this.registry],
  });
  readonly mailsTaken = new Histogram({
    name: 'drumline_mail_seconds',
    help: 'Time to take a mail durably, by what became of it',
    labelNames: ['did'],
    registers: [this.registry],
  });

  constructor() {
    collectDefaultMetrics({ register: this.registry });
  }
}
