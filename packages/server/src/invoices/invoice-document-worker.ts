import { InvoiceService, type Invoice } from '@e-invoice-eu/core';
import workerpool from 'workerpool';
import { invoiceUbl, type IssuedInvoice } from '@core/invoices';
import { invoicePdf } from './invoice-pdf';

const quiet = { log: () => undefined, warn: () => undefined, error: () => undefined };

/** What a worker thread makes of an issued invoice; the process that answers people never waits for it. */
const makers = {
  pdf: (invoice: IssuedInvoice): Promise<Buffer> => invoicePdf(invoice),
  ubl: async (invoice: IssuedInvoice): Promise<Buffer> => {
    const input = invoiceUbl(invoice) as unknown as Invoice;
    return Buffer.from(String(await new InvoiceService(quiet as never).generate(input, { format: 'UBL', lang: 'en' })));
  },
};
export type DocumentFormat = keyof typeof makers;

workerpool.worker(makers);
