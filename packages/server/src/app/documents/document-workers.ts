import { resolve } from 'node:path';
import workerpool, { type Pool } from 'workerpool';
import type { IssuedInvoice } from '@core/billing';
import type { UsageReport } from '@core/insight';
import type { InvoiceFormat } from './document-worker';

const MOST_WORKERS = 2;

/** The worker threads that make documents. */
export class DocumentWorkers {
  private readonly pool: Pool;

  /** @param file the built worker */
  constructor(file: string) {
    this.pool = workerpool.pool(resolve(file), { maxWorkers: MOST_WORKERS, workerType: 'thread' });
  }

  /** @throws Error where the document cannot be made; the job that asked is tried again */
  async make(format: InvoiceFormat, invoice: IssuedInvoice): Promise<Buffer> {
    return Buffer.from((await this.pool.exec(format, [invoice])) as Uint8Array);
  }

  /** @throws Error where the document cannot be made */
  async makeUsage(report: UsageReport): Promise<Buffer> {
    return Buffer.from((await this.pool.exec('usage', [report])) as Uint8Array);
  }

  async stop(): Promise<void> {
    await this.pool.terminate();
  }
}
