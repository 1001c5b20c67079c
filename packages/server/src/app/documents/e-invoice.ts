import { FormatFactoryService, invoiceSchema, type Invoice } from '@e-invoice-eu/core';
import { Ajv2019, ValidationError, type ValidateFunction } from 'ajv/dist/2019.js';
import { invoiceUbl, type IssuedInvoice } from '@core/billing';

/** How the writer knows them: UBL alone, and a PDF/A-3 that holds the CII of EN 16931. */
const FORMATS = { ubl: 'UBL', 'pdf with cii': 'Factur-X-EN16931' } as const;
type Format = keyof typeof FORMATS;

const quiet = { log: () => undefined, warn: () => undefined, error: () => undefined };
const factory = new FormatFactoryService();
const makeWriter = (format: Format) => factory.createFormatService(FORMATS[format], quiet as never);

/** The schema of a format, compiled once: that takes longer than to write a document. */
const validators = new Map<Format, ValidateFunction>();

function validatorOf(format: Format): ValidateFunction {
  const known = validators.get(format);
  if (known) return known;
  const schema = structuredClone(invoiceSchema);
  makeWriter(format).patchSchema(schema as never);
  const made = new Ajv2019({ strict: true, allErrors: true, useDefaults: true }).compile(schema);
  validators.set(format, made);
  return made;
}

async function write(format: Format, invoice: IssuedInvoice, pdf?: Buffer): Promise<Buffer> {
  const input = JSON.parse(JSON.stringify(invoiceUbl(invoice))) as Invoice;
  const validate = validatorOf(format);
  if (!validate(input)) throw new ValidationError(validate.errors ?? []);
  const writer = makeWriter(format);
  writer.fillInvoiceDefaults(input);
  const name = factory.normalizeFormat(FORMATS[format]);
  const file = pdf && { buffer: pdf, filename: `${invoice.number}.pdf`, mimetype: 'application/pdf' };
  const made = await writer.generate(input, { format: name, lang: 'en', ...(file ? { pdf: file } : {}) } as never);
  return typeof made === 'string' ? Buffer.from(made) : Buffer.from(made as Uint8Array);
}

/** An issued document as UBL 2.1. @throws ValidationError where it is none by the schema */
export function ublOf(invoice: IssuedInvoice): Promise<Buffer> {
  return write('ubl', invoice);
}

/** A document as people read it, as PDF/A-3 with the same as CII of EN 16931 inside. @throws ValidationError where it is none by the schema */
export function withCii(invoice: IssuedInvoice, pdf: Buffer): Promise<Buffer> {
  return write('pdf with cii', invoice, pdf);
}
