import { EInvoice, ValidationLevel } from '@fin.cx/einvoice';
import { execFile } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { XMLParser } from 'fast-xml-parser';
import { Big } from 'big.js';
import { deliveryReport } from '../../../testing/delivery-report';
import { receiveMail } from '../../desk/messages/receive-mail';
import { type Script, startWorld, until, type World } from '../../../testing/test-server';

let world: World;
let billing: Script;
let technician: Script;
beforeAll(async () => {
  world = await startWorld();
  billing = await world.as('Ngozi');
  technician = await world.as('Deepa');
});
afterAll(() => world.stop());

const run = promisify(execFile);
const post = (port: number, path: string, body: object) =>
  fetch(`http://127.0.0.1:${port}${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const openTicket = async (client = 'Hollin Veterinary Group') => {
  const { id } = await world.knex('client').where({ name: client }).first('id');
  return world
    .knex('ticket')
    .where({ client_id: id })
    .whereNot({ kind: 'unsorted' })
    .orderBy('number', 'desc')
    .first('id', 'client_id', 'number');
};
const activity = async (name: string) => (await technician.do('getHouse')).activities.find((a) => a.name === name)!.id;
const entry = async ({
  ticketId,
  startsAt,
  duration,
  how = 'remote',
  more = {},
}: {
  readonly ticketId: string;
  readonly startsAt: string;
  readonly duration: string;
  readonly how?: string;
  readonly more?: object;
}) =>
  technician.do('addEntry', {
    body: { workId: ticketId, startsAt, duration, activityId: await activity(how), note: 'worked', billable: true, reason: null, ...more },
  });
const chargesOf = (entryId: string) =>
  world.knex('charge').where({ time_entry_id: entryId }).orderByRaw(`array_position(array['entry', 'distance', 'call-out'], cause), part`);
const clear = async (clientId: string) => {
  for (const c of (await billing.do('listCharges', { query: { state: 'proposed', clientId } })).rows)
    await billing.do('decideCharge', {
      params: { chargeId: c.id },
      version: c.version,
      body: { decision: 'approve', reason: null, quantity: null, unitPrice: null, description: null, until: null },
    });
  const [draft] = (await billing.do('listDrafts', { query: { clientId } })).rows;
  return { ...draft!, lines: (await billing.do('listDraftLines', { params: { clientId } })).rows };
};

describe('from time to money', () => {
  it('says before it is saved what it then charges, to the cent', async () => {
    const t = await openTicket();
    const startsAt = '2026-11-24T08:00:00Z';
    const preview = await technician.do('previewEntry', {
      query: { workId: t.id, startsAt, duration: '0:50', activityId: await activity('remote'), billable: 'true' },
    });
    expect(preview).toMatchObject({ sentence: '€86.67 to the client', billedMinutes: 50 });
    const { id, version } = await entry({ ticketId: t.id, startsAt, duration: '50' });
    const [charge] = await chargesOf(id);
    expect([charge.net_minor, charge.state, Number(charge.quantity), charge.unit]).toEqual([8667, 'proposed', 50, 'MIN']);
    const body = {
      workId: t.id,
      startsAt,
      duration: '20',
      activityId: await activity('remote'),
      note: 'less',
      billable: true,
      reason: null,
    };
    const changed = await technician.do('editEntry', { params: { entryId: id }, version, body });
    expect((await chargesOf(id)).map((c) => c.net_minor)).toEqual([3467]);
    await technician.do('editEntry', {
      params: { entryId: id },
      version: changed.version,
      body: { ...body, billable: false, reason: 'goodwill' },
    });
    expect(await chargesOf(id)).toEqual([]);
    expect(
      (await technician.ask('editEntry', { params: { entryId: id }, version: changed.version + 1, body: { ...body, billable: false } }))
        .status,
    ).toBe(422);
  });

  it('splits an evening at the border, rounds the whole entry, and adds one call-out a visit', async () => {
    const t = await openTicket('Mirebank Schools');
    const evening = await entry({ ticketId: t.id, startsAt: '2026-11-23T17:30:00Z', duration: '1:00', how: 'on site' });
    const rows = await chargesOf(evening.id);
    expect(rows.map((c) => [c.kind, Number(c.quantity), Number(c.unit_price), c.net_minor])).toEqual([
      ['labour', 30, 114.4, 5720],
      ['labour', 30, 171.6, 8580],
      ['fee', 1, 45, 4500],
    ]);
    const second = await entry({ ticketId: t.id, startsAt: '2026-11-23T19:00:00Z', duration: '15', how: 'on site' });
    expect((await chargesOf(second.id)).map((c) => c.kind)).toEqual(['labour']);
    const first = await entry({ ticketId: t.id, startsAt: '2026-11-23T09:00:00Z', duration: '15', how: 'on site' });
    expect((await chargesOf(first.id)).map((c) => c.kind)).toEqual(['labour', 'fee']);
    expect((await chargesOf(evening.id)).map((c) => c.kind)).toEqual(['labour', 'labour']);
  });

  it('uses the rate of the client where there is one, and taxes the exempt at nothing', async () => {
    const quill = await entry({
      ticketId: (await openTicket('Quillfeather Press')).id,
      startsAt: '2026-11-24T07:00:00Z',
      duration: '15',
      how: 'remote',
    });
    expect(Number((await chargesOf(quill.id))[0].unit_price)).toBe(156);
    const exempt = await entry({
      ticketId: (await openTicket('Fennimore Dental Rooms')).id,
      startsAt: '2026-11-24T08:30:00Z',
      duration: '15',
      how: 'remote',
    });
    expect((await chargesOf(exempt.id))[0]).toMatchObject({ tax_category: 'E', tax_percent: '0.000' });
  });

  it('lets nobody change time on which a decision stands, nor the time of others', async () => {
    const t = await openTicket();
    const { id, version } = await entry({ ticketId: t.id, startsAt: '2026-11-24T09:00:00Z', duration: '15' });
    await clear(t.client_id);
    const body = {
      workId: t.id,
      startsAt: '2026-11-24T09:00:00Z',
      duration: '30',
      activityId: await activity('remote'),
      note: null,
      billable: true,
      reason: null,
    };
    expect((await technician.ask('editEntry', { params: { entryId: id }, version, body })).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('charge review'),
    });
    const other = await world.as('Fionn');
    expect((await other.ask('removeEntry', { params: { entryId: id }, version })).status).toBe(403);
    expect((await technician.ask('addEntry', { body: { ...body, startsAt: '2026-11-24T23:00:00Z' } })).body).toMatchObject({
      fields: { startsAt: 'not in the future' },
    });
  });

  it('keeps who decided what and why, and asks for the why', async () => {
    const t = await openTicket();
    const { id } = await entry({ ticketId: t.id, startsAt: '2026-11-24T07:15:00Z', duration: '30' });
    const [charge] = await chargesOf(id);
    const decide = (decision: string, version: number, more: object = {}) =>
      billing.ask('decideCharge', {
        params: { chargeId: charge.id },
        version,
        body: { decision, reason: null, quantity: null, unitPrice: null, description: null, until: null, ...more },
      });
    expect((await decide('waive', charge.version)).body).toMatchObject({ fields: { reason: 'say why' } });
    expect((await decide('adjust', charge.version, { reason: 'agreed', unitPrice: '60' })).status).toBe(200);
    expect((await chargesOf(id))[0].net_minor).toBe(3000);
    expect((await decide('waive', charge.version + 1, { reason: 'first month' })).status).toBe(200);
    expect((await decide('approve', charge.version + 2)).status).toBe(409);
    expect((await decide('reopen', charge.version + 2)).status).toBe(200);
    expect(await world.knex('charge_decision').where({ charge_id: charge.id }).orderBy('id').pluck('decision')).toEqual([
      'adjust',
      'waive',
      'reopen',
    ]);
  });

  it('issues with the next number, in one piece, and the documents say the same', async () => {
    const t = await openTicket();
    const [item] = (await billing.do('listItems')).rows.filter((i) => i.number === 'CBL-USB1');
    await technician.do('addCharge', { body: { ticketId: t.id, itemId: item!.id, quantity: '3' } });
    const draft = await clear(t.client_id);
    const last = await world.knex('invoice_series').where({ prefix: 'PH-' }).first('last_number');
    const issued = await billing.do('issueInvoice', {
      body: { clientId: t.client_id, chargeIds: draft.lines.map((l) => l.chargeId), grossMinor: null },
    });
    expect(issued.number).toBe(`PH-${String(last.last_number + 1).padStart(5, '0')}`);
    const invoice = await billing.do('getInvoice', { params: { invoiceId: issued.id } });
    expect([invoice.gross, invoice.net, invoice.tax]).toEqual([draft.gross, draft.net, draft.tax]);
    expect(invoice.lines.every((l) => l.trail.length === 1 && l.trail[0]!.why.length > 0)).toBe(true);

    const pdf = await billing.ask('getInvoicePdf', { params: { invoiceId: issued.id } });
    const pdfFile = join(world.folder, 'invoice.pdf');
    await writeFile(pdfFile, pdf.bytes);
    const { stdout: text } = await run('pdftotext', ['-layout', pdfFile, '-']);
    expect(text).toContain(issued.number);
    expect(text).toContain(`€${new Intl.NumberFormat('en', { minimumFractionDigits: 2 }).format(invoice.gross.minor / 100)}`);

    const ubl = await billing.ask('getInvoiceUbl', { params: { invoiceId: issued.id } });
    const parsed = new XMLParser({
      removeNSPrefix: true,
      parseTagValue: false,
      isArray: (name: string) => ['InvoiceLine', 'TaxSubtotal'].includes(name),
      ignoreAttributes: false,
    }).parse(ubl.bytes) as { Invoice: Record<string, never> };
    const doc = parsed.Invoice as unknown as {
      ID: string;
      LegalMonetaryTotal: Record<string, { '#text': string }>;
      InvoiceLine: {
        InvoicedQuantity: { '#text': string; '@_unitCode': string };
        LineExtensionAmount: { '#text': string };
        Price: { PriceAmount: { '#text': string }; BaseQuantity?: { '#text': string } };
      }[];
    };
    expect(doc.ID).toBe(issued.number);
    expect(doc.LegalMonetaryTotal['PayableAmount']!['#text']).toBe((invoice.gross.minor / 100).toFixed(2));
    // BR-CO-10 and Peppol R120, as a reader of the standard would check them.
    let sum = new Big(0);
    for (const line of doc.InvoiceLine) {
      const exact = new Big(line.InvoicedQuantity['#text'])
        .times(line.Price.PriceAmount['#text'])
        .div(line.Price.BaseQuantity?.['#text'] ?? 1);
      expect(exact.minus(line.LineExtensionAmount['#text']).abs().lte('0.0051')).toBe(true);
      sum = sum.plus(line.LineExtensionAmount['#text']);
    }
    expect(sum.toFixed(2)).toBe(doc.LegalMonetaryTotal['TaxExclusiveAmount']!['#text']);
    await readByAnother(ubl.bytes.toString(), invoice.gross.minor);
    const again = await billing.ask('getInvoiceUbl', { params: { invoiceId: issued.id } });
    expect(again.bytes.equals(ubl.bytes)).toBe(true);
  });

  it('carries a distance, an expense and a correction that gives back, and another reader finds nothing wrong', async () => {
    const aoife = await world.as('Aoife');
    const t = await openTicket('Larkspur Seed Co-op');
    const done = await entry({
      ticketId: t.id,
      startsAt: '2026-11-24T08:00:00Z',
      duration: '90',
      how: 'on site',
      more: { distance: '18.5' },
    });
    const approved = { entries: [done], expenses: [], decision: 'approve', remark: null };
    await aoife.do('decideTime', { body: approved });
    const less = await technician.do('correctTime', { params: { entryId: done.id }, body: { duration: '60', reason: 'they rang off' } });
    const { categories } = await technician.do('listExpenses', { query: { from: '2026-11-24', to: '2026-11-24' } });
    const spent = {
      day: '2026-11-24',
      workId: t.id,
      categoryId: categories[0]!.id,
      paid: '12.30',
      currency: 'EUR',
      exchange: null,
      taxPercent: '23',
      note: 'quay',
      billable: true,
      markupPercent: '10',
      ownMoney: true,
    };
    await technician.do('addExpense', { body: spent });
    const draft = await clear(t.client_id);
    const { id } = await billing.do('issueInvoice', {
      body: { clientId: t.client_id, chargeIds: draft.lines.map((l) => l.chargeId), grossMinor: null },
    });
    const invoice = await billing.do('getInvoice', { params: { invoiceId: id } });
    const back = (await chargesOf(less.id))[0];
    expect(back.net_minor).toBeLessThan(0);
    expect(invoice.lines.map((l) => l.net.minor)).toEqual(expect.arrayContaining([back.net_minor, 1147, 1100]));
    expect(invoice.lines.map((l) => l.unit)).toEqual(expect.arrayContaining(['KMT', 'MIN', 'C62']));
    expect(invoice.lines.reduce((sum, l) => sum + l.net.minor, 0)).toBe(invoice.net.minor);
    const ubl = await billing.ask('getInvoiceUbl', { params: { invoiceId: id } });
    await readByAnother(ubl.bytes.toString(), invoice.gross.minor);
    const pdfFile = join(world.folder, 'corrected.pdf');
    await writeFile(pdfFile, (await billing.ask('getInvoicePdf', { params: { invoiceId: id } })).bytes);
    expect((await run('pdftotext', ['-layout', pdfFile, '-'])).stdout).toContain('18.5 km');
  });

  it('never changes what is issued, whoever tries', async () => {
    await world.knex('mail_source').insert({
      sha256: Buffer.from('x'),
      received_at: new Date(),
      envelope_from: '',
      envelope_to: [],
      raw: Buffer.from('x'),
      decision: '{}',
    });
    for (const table of [
      'invoice',
      'invoice_line',
      'invoice_tax',
      'billing_link',
      'charge_decision',
      'event',
      'ticket_fact',
      'mail_source',
    ]) {
      await expect(world.knex(table).delete()).rejects.toThrow('append-only');
    }
    await expect(world.knex('charge').where({ standing: 'billed' }).update({ net_minor: 1 })).rejects.toThrow('never changes');
    const charge = await world.knex('charge').where({ standing: 'billed' }).first();
    expect(
      (
        await billing.ask('decideCharge', {
          params: { chargeId: charge.id },
          version: charge.version,
          body: { decision: 'reopen', reason: null, quantity: null, unitPrice: null, description: null, until: null },
        })
      ).body,
    ).toMatchObject({ detail: expect.stringContaining('credit note') });
  });

  it('has no gap and no double when many issue at once, and bills no charge twice', async () => {
    const t = await openTicket('Brackwater Ferries');
    for (let hour = 8; hour < 10; hour++)
      for (let quarter = 0; quarter < 4; quarter++)
        await entry({
          ticketId: t.id,
          startsAt: `2026-11-20T${String(hour).padStart(2, '0')}:${String(quarter * 15).padStart(2, '0')}:00Z`,
          duration: '15',
        });
    const draft = await clear(t.client_id);
    const before = (await world.knex('invoice_series').where({ prefix: 'PH-' }).first('last_number')).last_number;
    const half = Math.floor(draft.lines.length / 2);
    const parts = [draft.lines.slice(0, half), draft.lines.slice(half), draft.lines.slice(0, half), draft.lines];
    const answers = await Promise.all(
      parts.map((lines) =>
        billing.ask('issueInvoice', {
          body: { clientId: t.client_id, chargeIds: lines.map((l) => l.chargeId), grossMinor: draft.gross.minor },
        }),
      ),
    );
    const issued = answers.filter((a) => a.status === 200).length;
    expect(answers.every((a) => a.status === 200 || a.status === 412)).toBe(true);
    const numbers = await world.knex('invoice').whereRaw(`number like 'PH-%'`).orderBy('sequence').pluck('sequence');
    expect(numbers).toEqual(Array.from({ length: numbers.length }, (_, i) => numbers[0] + i));
    expect(numbers.at(-1)).toBe(before + issued);
    const linked = await world.knex.raw(`select count(*) as n, count(distinct charge_id) as distinct_n from billing_link`);
    expect(linked.rows[0].n).toBe(linked.rows[0].distinct_n);
  });

  it('books once in the ledger though its answer is lost, mails once, and hears once of the money', async () => {
    const t = await openTicket('Larkspur Seed Co-op');
    await entry({ ticketId: t.id, startsAt: '2026-11-19T09:00:00Z', duration: '2h' });
    const draft = await clear(t.client_id);
    await post(world.ledger.port, '/switch', { mode: 'lost answer' });
    const { id, number } = await billing.do('issueInvoice', {
      body: { clientId: t.client_id, chargeIds: draft.lines.map((l) => l.chargeId), grossMinor: null },
    });
    const manager = await world.as('Aoife');
    const job = await until('the failed push in Setup', async () =>
      (await manager.do('listJobs')).jobs.find((j) => j.task === 'push-invoice' && j.trouble),
    );
    await post(world.ledger.port, '/switch', { mode: 'receipts twice' });
    await manager.ask('retryJob', { params: { jobId: job.id } });
    await until('booked', async () => (await billing.do('getInvoice', { params: { invoiceId: id } })).ledgerAt);
    const state = (await (await fetch(`http://127.0.0.1:${world.ledger.port}/state.json`)).json()) as {
      sales: { id: string; reference: string; grossMinor: number }[];
    };
    const sale = state.sales.filter((s) => s.reference === number);
    expect(sale).toHaveLength(1);
    await until('mailed', async () => (await billing.do('getInvoice', { params: { invoiceId: id } })).mailedAt);
    const mails = await world.mailbox();
    expect(mails.filter((m) => m.subject === `Invoice ${number}`).map((m) => m.attachments)).toEqual([[`${number}.pdf`, `${number}.xml`]]);
    await post(world.ledger.port, `/sales/${sale[0]!.id}/receipts`, { amount: (sale[0]!.grossMinor / 200).toFixed(2) });
    await until('part paid', async () => (await billing.do('getInvoice', { params: { invoiceId: id } })).state === 'part paid');
    const left = (await billing.do('getInvoice', { params: { invoiceId: id } })).left.minor;
    await post(world.ledger.port, `/sales/${sale[0]!.id}/receipts`, { amount: (left / 100).toFixed(2) });
    const paid = await until('paid', async () => {
      const i = await billing.do('getInvoice', { params: { invoiceId: id } });
      return i.state === 'paid' && i;
    });
    expect(paid.settled).toEqual(paid.gross);
    expect(paid.settlements.map((s) => [s.from, s.takenBack])).toEqual([
      ['payment', false],
      ['payment', false],
    ]);
  });

  it('says of a mail that did not arrive, on the invoice and to who issued it', async () => {
    const invoice = await world.knex('invoice').whereNotNull('issued_by').first('id', 'number', 'issued_by');
    const take = (id: string, original: string) =>
      receiveMail(
        world.running.app,
        Buffer.from(deliveryReport({ id, address: 'books@hollin.example', action: 'failed', status: '5.1.1', original })),
        { from: '', to: ['desk@pellworth.example'] },
      );
    expect(await take('<dsn-i1@mx.example>', `<invoice-${invoice.id}@pellworth.example>`)).toEqual({ did: 'joined' });
    const seen = await billing.do('getInvoice', { params: { invoiceId: invoice.id } });
    expect(seen.undeliveredAt).not.toBeNull();
    expect(seen.story.at(-1)!.what).toBe('not delivered: books@hollin.example: there is no such mailbox');
    const notices = await world.knex('notice').where({ person_id: invoice.issued_by }).pluck('text');
    expect(notices).toContain(`Invoice ${invoice.number} was not delivered to books@hollin.example: there is no such mailbox`);
    // An id that only looks like one of ours is none.
    expect(await take('<dsn-i2@mx.example>', `<invoice-${invoice.id}@elsewhere.example>`)).toEqual({ did: 'kept aside' });
  });
});

/** A reader of EN 16931 that nobody here wrote finds nothing wrong in it; and finds what is wrong where something is. */
async function readByAnother(xml: string, grossMinor: number): Promise<void> {
  const errors = async (text: string) =>
    (await (await EInvoice.fromXml(text)).validate(ValidationLevel.BUSINESS)).errors.map((e) => e.code);
  expect(await errors(xml)).toEqual([]);
  const gross = (grossMinor / 100).toFixed(2);
  expect(await errors(xml.replace(`EUR">${gross}</cbc:TaxInclusiveAmount>`, 'EUR">1.00</cbc:TaxInclusiveAmount>'))).toContain('BR-CO-15');
}
