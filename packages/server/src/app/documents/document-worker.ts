import workerpool from 'workerpool';
import type { IssuedInvoice } from '@core/billing';
import type { UsageReport } from '@core/insight';
import { invoicePdf } from '../../billing/invoices/invoice-pdf';
import { usagePdf } from '../../insight/usage/usage-pdf';
import { ublOf, withCii } from './e-invoice';

/** What a worker thread makes of an issued invoice or a report; the process that answers people never waits for it. */
const makers = {
  pdf: async (invoice: IssuedInvoice): Promise<Buffer> => withCii(invoice, await invoicePdf(invoice)),
  ubl: (invoice: IssuedInvoice): Promise<Buffer> => ublOf(invoice),
  usage: (report: UsageReport): Promise<Buffer> => usagePdf(report),
};
export type InvoiceFormat = 'pdf' | 'ubl';

workerpool.worker(makers);
