import { InvoiceService, type Invoice } from '@e-invoice-eu/core';
import workerpool from 'workerpool';
import { invoiceUbl, type IssuedInvoice } from '@core/billing';
import type { UsageReport } from '@core/insight';
import { invoicePdf } from '../../billing/invoices/invoice-pdf';
import { usagePdf } from '../../insight/usage/usage-pdf';

const quiet = { log: () => undefined, warn: () => undefined, error: () => undefined };

/** What a worker thread makes of an issued invoice or a report; the process that answers people never waits for it. */
const makers = {
  pdf: (invoice: IssuedInvoice): Promise<Buffer> => invoicePdf(invoice),
  ubl: async (invoice: IssuedInvoice): Promise<Buffer> => {
    const input = invoiceUbl(invoice) as unknown as Invoice;
    return Buffer.from(String(await new InvoiceService(quiet as never).generate(input, { format: 'UBL', lang: 'en' })));
  },
  usage: (report: UsageReport): Promise<Buffer> => usagePdf(report),
};
export type InvoiceFormat = 'pdf' | 'ubl';

workerpool.worker(makers);
