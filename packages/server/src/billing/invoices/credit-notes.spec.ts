import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { EInvoice, ValidationLevel } from '@fin.cx/einvoice';
import { XMLParser } from 'fast-xml-parser';
import { bookedSales, startBilling } from '../../../testing/billing';
import { startWorld, until, type World } from '../../../testing/test-server';

const run = promisify(execFile);
let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
});
afterAll(() => world.stop());

const CLIENT = 'Larkspur Seed Co-op';
const get = (invoiceId: string) => stage.billing.do('getInvoice', { params: { invoiceId } });
/** An invoice of some hours, one an entry. */
async function issued(client: string, hours: readonly string[]) {
  const t = await stage.ticketOf(client);
  const entries = [];
  for (const [n, duration] of hours.entries())
    entries.push(await stage.record(t.id, `2026-11-${String(19 - n).padStart(2, '0')}T09:00:00Z`, { duration }));
  const { lines, gross } = await stage.clear(t.client_id);
  const { id, number } = await stage.billing.do('issueInvoice', {
    body: { clientId: t.client_id, chargeIds: null, grossMinor: gross.minor },
  });
  return { id, number, lines, entries, clientId: t.client_id as string };
}
const credit = (invoiceId: string, body: { lines: { position: number; net: string }[] | null; undoes: boolean; reason?: string }) =>
  stage.billing.ask('creditInvoice', { params: { invoiceId }, body: { reason: 'billed twice', ...body } });
const creditDone = (invoiceId: string, body: Parameters<typeof credit>[1]) =>
  stage.billing.do('creditInvoice', { params: { invoiceId }, body: { reason: 'billed twice', ...body } });

describe('credit notes', () => {
  it('undo the billing of a whole invoice: its charges wait for a decision again, at what they are worth now', async () => {
    const { id, number, entries, clientId } = await issued(CLIENT, ['2h', '1h']);
    const before = await world.knex('invoice_series').where({ prefix: 'PHC-' }).first('last_number');
    const note = await creditDone(id, { lines: null, undoes: true });
    expect(note.number).toBe(`PHC-${String(before.last_number + 1).padStart(5, '0')}`);
    const [invoice, credited] = [await get(id), await get(note.id)];
    expect(invoice).toMatchObject({ state: 'paid', left: { minor: 0 }, credits: [{ number: note.number, undoes: true }] });
    expect(invoice.lines.every((l) => l.left === null)).toBe(true);
    expect(credited).toMatchObject({
      kind: 'credit note',
      state: 'credit used',
      corrects: { id, number },
      reason: 'billed twice',
      undoes: true,
    });
    expect([credited.net, credited.tax, credited.gross, credited.groups]).toEqual([
      invoice.net,
      invoice.tax,
      invoice.gross,
      invoice.groups,
    ]);
    expect(invoice.settlements).toMatchObject([{ from: 'credit note', amount: invoice.gross, otherDocument: { id: note.id } }]);
    expect(credited.settlements).toMatchObject([{ from: 'credit note', otherDocument: { id, number } }]);
    for (const entry of entries) {
      const [charge] = await stage.chargesOf(entry.id);
      expect([charge.standing, charge.billed_minor]).toEqual(['proposed', null]);
      const seen = await stage.billing.do('getCharge', { params: { chargeId: charge.id } });
      expect(seen.documents.map((d) => [d.number, d.does])).toEqual([
        [number, 'bill'],
        [note.number, 'undo'],
      ]);
      expect(seen.reason).toBe(`its billing was undone by ${note.number}`);
    }
    // The time is free again: it takes another length, and the charge follows it.
    const first = entries[0]!;
    const row = await world.knex('time_entry').where({ id: first.id }).first();
    await stage.technician.do('editEntry', {
      params: { entryId: first.id },
      version: row.version,
      body: {
        workId: row.ticket_id,
        startsAt: '2026-11-19T09:00:00Z',
        duration: '30',
        activityId: row.activity_id,
        note: 'half of it',
        billable: true,
        reason: null,
      },
    });
    const [charge] = await stage.chargesOf(first.id);
    expect([charge.standing, Number(charge.quantity)]).toEqual(['proposed', 30]);
    // Removed, it charges nothing; the charge stays, since documents name it.
    const { version } = await world.knex('time_entry').where({ id: first.id }).first('version');
    await stage.technician.do('removeEntry', { params: { entryId: first.id }, version });
    expect((await stage.chargesOf(first.id))[0].standing).toBe('withdrawn');
    const proposed = (await stage.billing.do('listCharges', { query: { clientId, state: 'proposed' } })).rows;
    expect(proposed.map((c) => c.id)).not.toContain(charge.id);
    // What is billed anew is billed once.
    const { gross, charges } = await stage.clear(clientId);
    const again = await stage.billing.do('issueInvoice', { body: { clientId, chargeIds: null, grossMinor: gross.minor } });
    expect([(await get(again.id)).lines.length, charges]).toEqual([1, 1]);
  });

  it('give part of a line back for good, and only what is left of it', async () => {
    const { id, clientId } = await issued(CLIENT, ['2h']);
    const { lines, gross } = await get(id);
    const note = await creditDone(id, { lines: [{ position: 1, net: '10' }], undoes: false });
    const credited = await get(note.id);
    expect(credited).toMatchObject({ net: { minor: 1000 }, tax: { minor: 230 }, gross: { minor: 1230 } });
    expect(credited.lines).toMatchObject([{ quantity: '1', unitPrice: '10', trail: [{ does: 'give back' }] }]);
    const invoice = await get(id);
    expect(invoice.left.minor).toBe(gross.minor - 1230);
    expect(invoice.lines[0]!.left!.minor).toBe(lines[0]!.net.minor - 1000);
    const [charge] = (await stage.billing.do('listCharges', { query: { clientId, state: 'billed' } })).rows.filter((c) =>
      c.documents.some((d) => d.id === id),
    );
    expect([charge!.state, charge!.open.minor]).toEqual(['billed', 0]);
    const most = lines[0]!.net.minor - 1000;
    const over = await credit(id, { lines: [{ position: 1, net: String((most + 1) / 100) }], undoes: false });
    expect(over.body).toMatchObject({
      status: 422,
      detail: expect.stringContaining('left to credit'),
      fields: { lines: expect.stringContaining('line 1') },
    });
    for (const [wrong, field] of [
      ['10.005', 'lines[0].net'],
      ['0', 'lines'],
      ['-1', 'lines'],
    ] as const)
      expect((await credit(id, { lines: [{ position: 1, net: wrong }], undoes: false })).body).toMatchObject({
        fields: { [field]: expect.any(String) },
      });
    expect((await credit(id, { lines: [{ position: 9, net: '1' }], undoes: true })).status).toBe(422);
    expect((await credit(id, { lines: null, undoes: true, reason: '' })).body).toMatchObject({ fields: { reason: 'write something' } });
    await creditDone(id, { lines: null, undoes: false });
    expect((await credit(id, { lines: null, undoes: false })).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('credited already'),
    });
    expect((await credit(note.id, { lines: null, undoes: false })).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('only an invoice'),
    });
  });

  it('undo a part of a line: the rest of the charge is open, in one piece, and nothing else can happen to it', async () => {
    const { id, clientId, entries } = await issued(CLIENT, ['2h']);
    const { lines, gross } = await get(id);
    await creditDone(id, { lines: [{ position: 1, net: '30' }], undoes: true });
    const [charge] = await stage.chargesOf(entries[0]!.id);
    expect([charge.standing, charge.billed_minor]).toEqual(['part billed', lines[0]!.net.minor - 3000]);
    const decide = await stage.billing.ask('decideCharge', {
      params: { chargeId: charge.id },
      version: charge.version,
      body: { decision: 'reopen', reason: null, quantity: null, unitPrice: null, description: null, until: null },
    });
    expect(decide.body).toMatchObject({ status: 409, detail: expect.stringContaining('part billed') });
    const [draft] = (await stage.billing.do('listDrafts', { query: { clientId } })).rows;
    expect(draft).toMatchObject({ charges: 1, net: { minor: 3000 }, gross: { minor: 3690 } });
    const rest = await stage.billing.do('issueInvoice', { body: { clientId, chargeIds: [charge.id], grossMinor: null } });
    expect((await get(rest.id)).lines).toMatchObject([{ quantity: '1', unitPrice: '30', net: { minor: 3000 } }]);
    expect((await stage.chargesOf(entries[0]!.id))[0].standing).toBe('billed');
    expect((await get(id)).left.minor).toBe(gross.minor - 3690);
  });

  it('are documents like invoices: PDF, UBL that another reader finds nothing wrong in, mail and ledger', async () => {
    const { id, number } = await issued(CLIENT, ['2h', '50']);
    const note = await creditDone(id, { lines: [{ position: 2, net: '20.05' }], undoes: false, reason: 'agreed by phone' });
    const credited = await get(note.id);
    const params = { invoiceId: note.id };
    const pdfFile = join(world.folder, 'credit.pdf');
    await writeFile(pdfFile, (await stage.billing.ask('getInvoicePdf', { params })).bytes);
    const { stdout } = await run('pdftotext', ['-layout', pdfFile, '-']);
    for (const words of [`Credit note ${note.number}`, `corrects invoice ${number}`, 'agreed by phone', 'To your credit', '€20.05'])
      expect(stdout).toContain(words);
    const xml = (await stage.billing.ask('getInvoiceUbl', { params })).bytes.toString();
    const { CreditNote } = new XMLParser({ removeNSPrefix: true, parseTagValue: false }).parse(xml);
    expect([CreditNote.ID, CreditNote.CreditNoteTypeCode, CreditNote.BillingReference.InvoiceDocumentReference.ID]).toEqual([
      note.number,
      '381',
      number,
    ]);
    expect(CreditNote.LegalMonetaryTotal.PayableAmount).toBe((credited.gross.minor / 100).toFixed(2));
    const faults = (await (await EInvoice.fromXml(xml)).validate(ValidationLevel.BUSINESS)).errors.map((e) => e.code);
    expect(faults).toEqual([]);
    await until('mailed and booked', async () => {
      const seen = await get(note.id);
      return seen.mailedAt && seen.ledgerAt;
    });
    const mail = (await world.mailbox()).find((m) => m.subject === `Credit note ${note.number}`);
    expect(mail!.attachments).toEqual([`${note.number}.pdf`, `${note.number}.xml`]);
    expect((await bookedSales(world)).find((s) => s.reference === note.number)).toMatchObject({
      kind: 'credit note',
      corrects: number,
      grossMinor: credited.gross.minor,
    });
    expect((await get(id)).story.map((s) => s.what)).toEqual(
      expect.arrayContaining([
        `credit note ${note.number} over €24.66, given back for good`,
        `€24.66 settled by credit note ${note.number}`,
      ]),
    );
  });

  it('of one invoice at once never give back more than there is', async () => {
    const { id } = await issued(CLIENT, ['2h']);
    const { net } = (await get(id)).lines[0]!;
    const half = (Math.ceil(net.minor / 2) / 100).toFixed(2);
    const answers = await Promise.all(Array.from({ length: 5 }, () => credit(id, { lines: [{ position: 1, net: half }], undoes: false })));
    expect(answers.filter((a) => a.status === 200)).toHaveLength(net.minor % 2 === 0 ? 2 : 1);
    const given = (await get(id)).credits.length;
    expect(given).toBe(net.minor % 2 === 0 ? 2 : 1);
    const numbers = await world
      .knex('invoice')
      .where({ kind: 'credit note' })
      .whereLike('number', 'PHC-%')
      .orderBy('sequence')
      .pluck('sequence');
    expect(numbers).toEqual(numbers.map((_: number, n: number) => numbers[0] + n));
  });

  it('are what charges below nothing make together', async () => {
    const t = await stage.ticketOf('Brackwater Ferries');
    const entry = await stage.record(t.id, '2026-11-18T09:00:00Z', { duration: '90' });
    const draft = await stage.clear(t.client_id);
    await stage.billing.do('issueInvoice', { body: { clientId: t.client_id, chargeIds: null, grossMinor: draft.gross.minor } });
    const aoife = await world.as('Aoife');
    await aoife.do('decideTime', { body: { entries: [entry], expenses: [], decision: 'approve', remark: null } });
    await stage.technician.do('correctTime', { params: { entryId: entry.id }, body: { duration: '60', reason: 'they rang off' } });
    const below = await stage.clear(t.client_id);
    expect(below).toMatchObject({ kind: 'credit note', charges: 1 });
    const { id, number } = await stage.billing.do('issueInvoice', {
      body: { clientId: t.client_id, chargeIds: null, grossMinor: -below.gross.minor },
    });
    expect(number).toMatch(/^PHC-/);
    const note = await get(id);
    expect([note.kind, note.state, note.corrects, note.gross]).toEqual(['credit note', 'credit left', null, below.gross]);
    const [charge] = await world
      .knex('billing_link as l')
      .join('charge as ch', 'ch.id', 'l.charge_id')
      .where({ 'l.invoice_id': id })
      .select('ch.standing', 'ch.net_minor', 'l.net_minor as linked');
    expect([charge.standing, charge.linked]).toEqual(['billed', charge.net_minor]);
    expect(charge.net_minor).toBeLessThan(0);
  });

  it('are of those who may issue', async () => {
    const { id } = await issued(CLIENT, ['15']);
    const body = { lines: null, undoes: true, reason: 'no' };
    for (const name of ['Aoife', 'Sora'])
      expect((await (await world.as(name)).ask('creditInvoice', { params: { invoiceId: id }, body })).status).toBe(403);
  });
});

describe('a charge', () => {
  it('stands in lists as core says, and its billed sum is that of its links', async () => {
    const rows = await world.knex('charge').select('*');
    const sums = await world
      .knex('billing_link')
      .whereNot({ does: 'give back' })
      .groupBy('charge_id')
      .select('charge_id', world.knex.raw('sum(net_minor)::bigint as net'));
    for (const row of rows) {
      const sum = Number(sums.find((s) => s.charge_id === row.id)?.net ?? 0);
      expect(Number(row.billed_minor ?? 0)).toBe(sum);
    }
    const { standingOf } = await import('@core/billing');
    const amount = (minor: number) => ({ minor, currency: 'EUR' as const });
    for (const r of rows)
      expect(r.standing).toBe(
        standingOf({ state: r.state, net: amount(r.net_minor), billed: r.billed_minor === null ? null : amount(r.billed_minor) }),
      );
    expect(new Set(rows.map((r) => r.standing)).size).toBeGreaterThan(2);
  });

  it('exists once for a cause and part', async () => {
    const charge = await world.knex('charge').where({ cause: 'entry' }).first('time_entry_id', 'division_id', 'client_id');
    const again = {
      ...charge,
      cause: 'entry',
      part: 0,
      kind: 'labour',
      on_date: '2026-11-20',
      description: 'again',
      quantity: 1,
      unit: 'C62',
      unit_price: '1',
      net_minor: 100,
      currency: 'EUR',
      tax_category: 'S',
      tax_percent: '23',
      explanation: '[]',
    };
    await expect(world.knex('charge').insert(again)).rejects.toThrow('charge_cause');
  });
});
