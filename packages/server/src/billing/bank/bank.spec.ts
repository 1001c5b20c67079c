import { startBilling } from '../../../testing/billing';
import { startWorld, type World } from '../../../testing/test-server';
import { checkBooks } from '../books/check-books';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
});
afterAll(() => world.stop());

let hour = 8;
/** An invoice that was issued and mailed, of an hour's work. */
async function issued(client = 'Larkspur Seed Co-op', duration = '1h') {
  const t = await stage.ticketOf(client);
  await stage.record(t.id, `2026-11-19T${String(hour++).padStart(2, '0')}:00:00Z`, { duration });
  const { gross } = await stage.clear(t.client_id);
  const body = { clientId: t.client_id, chargeIds: null, grossMinor: gross.minor };
  const { id, number } = await stage.billing.do('issueInvoice', { body });
  return { id, number, minor: gross.minor, clientId: t.client_id as string, client };
}
const major = (minor: number) => (minor / 100).toFixed(2);
const asked = (bytes: string | Buffer, name = 'nov.csv', more: object = {}) =>
  stage.billing.ask('readBankFile', { query: { name, ...more } as never, body: Buffer.from(bytes) as never });
const lines = async (state = 'open') => stage.billing.do('listBankLines', { query: { state } as never });
const csv = (...rows: (string | number)[][]) =>
  [['Date', 'Amount', 'Payer', 'Account', 'Text'], ...rows].map((r) => r.join(';')).join('\n');
const read = async (...rows: (string | number)[][]) => {
  const answer = await asked(csv(...rows));
  if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
  return (answer.body as { statements: { lines: number; known: number }[] }).statements[0]!;
};
const invoice = (invoiceId: string) => stage.billing.do('getInvoice', { params: { invoiceId } });
const agree = async () => expect((await checkBooks(world.knex)).findings).toEqual([]);
const withText = async (text: string, state = 'open') => (await lines(state)).rows.find((l) => l.text?.includes(text))!;

describe('bank statements', () => {
  it('match what they name in one press, are undone in one, and can be matched again', async () => {
    const [one, two] = [await issued(), await issued('Hollin Veterinary Group')];
    await read(
      ['24/11/2026', major(one.minor), 'LARKSPUR SEED', 'XX11', `inv ${one.number}`],
      ['24/11/2026', major(two.minor), '', '', two.number.replace('-', '')],
      ['23/11/2026', '17.00', 'who knows', '', 'gift'],
      ['23/11/2026', '-4.00', '', '', 'account fee'],
    );
    const { rows, sure } = await lines();
    expect([rows.length, sure.lines, sure.amount.minor]).toEqual([3, 2, one.minor + two.minor]);
    const stale = await stage.billing.ask('matchSure', { body: { lines: 2, minor: 1 } });
    expect(stale.body).toMatchObject({ detail: expect.stringContaining('has changed meanwhile') });
    const { ids } = await stage.billing.do('matchSure', { body: { lines: 2, minor: sure.amount.minor } });
    expect([(await invoice(one.id)).state, (await invoice(two.id)).state]).toEqual(['paid', 'paid']);
    expect((await lines('matched')).rows.map((l) => l.payment!.settled[0]!.number).sort()).toEqual([one.number, two.number].sort());
    expect((await lines('went out')).rows).toMatchObject([{ text: 'account fee', matches: [] }]);
    await agree();
    expect(await stage.billing.do('takeMatchesBack', { body: { ids } })).toEqual({ lines: 2 });
    expect((await invoice(one.id)).state).not.toBe('paid');
    expect((await stage.billing.do('listCredit', { query: { clientId: one.clientId, left: 'true' } as never })).rows).toEqual([]);
    expect((await stage.billing.ask('takeMatchesBack', { body: { ids } })).status).toBe(409);
    await agree();
    const again = await lines();
    await stage.billing.do('matchSure', { body: { lines: again.sure.lines, minor: again.sure.amount.minor } });
    expect((await invoice(two.id)).state).toBe('paid');
    await agree();
  });

  it('know the account of a payer from then on, and several invoices by their sum', async () => {
    const [one, two] = [await issued('Hollin Veterinary Group'), await issued('Hollin Veterinary Group', '45m')];
    await read(['24/11/2026', major(one.minor + two.minor), 'H V G', 'XX22', 'november']);
    expect((await withText('november')).matches).toEqual([]);
    const settles = [one, two].map((i) => ({ invoiceId: i.id, minor: i.minor }));
    await stage.billing.do('matchBankLine', {
      body: { lineId: (await withText('november')).id, clientId: one.clientId, settles, paymentId: null },
    });
    const next = await issued('Hollin Veterinary Group', '2h');
    await read(['25/11/2026', major(next.minor), 'H V G', 'XX22', 'december']);
    expect((await withText('december')).matches[0]).toMatchObject({
      sure: true,
      because: ['account', 'payer', 'amount'],
      settles: [{ number: next.number }],
    });
    await agree();
  });

  it('leave over- and part payment to a person: the rest is credit, or is still owed', async () => {
    const one = await issued();
    await read(['24/11/2026', major(one.minor + 500), '', '', `${one.number} over`], ['24/11/2026', '10', '', '', `${one.number} part`]);
    const over = await withText('over');
    expect(over.matches[0]).toMatchObject({ sure: false, over: { minor: 500 } });
    const part = await withText('part');
    expect(part.matches[0]).toMatchObject({ sure: false, short: { minor: one.minor - 1000 } });
    await stage.billing.do('matchBankLine', {
      body: { lineId: part.id, clientId: one.clientId, settles: [{ invoiceId: one.id, minor: 1000 }], paymentId: null },
    });
    expect(await invoice(one.id)).toMatchObject({ left: { minor: one.minor - 1000 } });
    const tooMuch = { lineId: over.id, clientId: one.clientId, settles: [{ invoiceId: one.id, minor: one.minor }], paymentId: null };
    expect((await stage.billing.ask('matchBankLine', { body: tooMuch })).body).toMatchObject({
      status: 422,
      detail: expect.stringContaining('At most'),
    });
    expect((await withText('over')).state).toBe('open');
    await stage.billing.do('matchBankLine', { body: { ...tooMuch, settles: [{ invoiceId: one.id, minor: one.minor - 1000 }] } });
    const credit = await stage.billing.do('listCredit', { query: { clientId: one.clientId, left: 'true' } as never });
    expect(credit.rows).toMatchObject([{ left: { minor: 1500 } }]);
    await agree();
  });

  it('are the payment that was written down by hand before, and take it for no second one', async () => {
    const one = await issued();
    const body = {
      clientId: one.clientId,
      amount: major(one.minor),
      receivedOn: '2026-11-20',
      reference: 'told by phone',
      invoiceId: one.id,
    };
    const { id: paymentId } = await stage.billing.do('recordPayment', { body });
    await read(['24/11/2026', major(one.minor), 'LARKSPUR SEED', 'XX11', 'by phone']);
    const line = await withText('by phone');
    expect(line.matches[0]).toMatchObject({ paymentId, settles: [], because: expect.arrayContaining(['recorded']) });
    const same = { lineId: line.id, clientId: one.clientId, settles: [], paymentId };
    expect(await stage.billing.do('matchBankLine', { body: same })).toEqual({ id: paymentId });
    const [{ count }] = (await world.knex.raw(`select count(*)::int from payment where amount_minor = ?`, [one.minor])).rows;
    await stage.billing.do('takeMatchesBack', { body: { ids: [line.id] } });
    expect((await invoice(one.id)).state).toBe('paid');
    expect((await world.knex.raw(`select count(*)::int from payment where amount_minor = ?`, [one.minor])).rows).toEqual([{ count }]);
    await agree();
  });

  it('take no line twice, whoever reads it again', async () => {
    const rows = [1, 2, 3].map((n) => ['22/11/2026', `${n}.00`, 'twice', '', `line ${n} of twice`]);
    const both = await Promise.all([read(...rows), read(...rows)]);
    expect(both.map((s) => [s.lines, s.known]).sort()).toEqual([
      [0, 3],
      [3, 0],
    ]);
    expect(await read(...rows, ['22/11/2026', '1.00', 'twice', '', 'line 1 of twice'])).toMatchObject({ lines: 1, known: 3 });
  });

  it('may say as much as a bank says, in any script', async () => {
    const some = () => Array.from({ length: 1000 }, () => String.fromCodePoint(0x4e00 + Math.floor(Math.random() * 20_000))).join('');
    const long = ['22/11/2026', '3.33', some().slice(0, 200), '', some()];
    expect(await read(long)).toMatchObject({ lines: 1 });
    expect(await read(long)).toMatchObject({ lines: 0, known: 1 });
    const { ids } = { ids: (await lines()).rows.filter((l) => l.amount.minor === 333).map((l) => l.id) };
    await stage.billing.do('leaveLineOut', { params: { bankLineId: ids[0]! }, body: { reason: 'made up' } });
    // Unclosed tags are no reason to read for long.
    expect(JSON.stringify((await asked('<a'.repeat(1_000_000))).body)).toContain('no XML');
  });

  it('are left out with a reason, and put back', async () => {
    const line = await withText('gift');
    const params = { bankLineId: line.id };
    expect((await stage.billing.ask('leaveLineOut', { params, body: { reason: '' } })).status).toBe(422);
    await stage.billing.do('leaveLineOut', { params, body: { reason: 'a refund of the power company' } });
    expect(await withText('gift', 'left out')).toMatchObject({ reason: 'a refund of the power company' });
    expect((await stage.billing.ask('leaveLineOut', { params, body: { reason: 'again' } })).status).toBe(409);
    await stage.billing.do('putLineBack', { params });
    expect((await withText('gift')).state).toBe('open');
  });

  it('are matched once by two at once', async () => {
    const one = await issued();
    await read(['24/11/2026', major(one.minor), '', '', `${one.number} race`]);
    const { id: lineId } = await withText('race');
    const body = { lineId, clientId: one.clientId, settles: [{ invoiceId: one.id, minor: one.minor }], paymentId: null };
    const both = await Promise.all([stage.billing.ask('matchBankLine', { body }), stage.billing.ask('matchBankLine', { body })]);
    expect(both.map((a) => a.status).sort()).toEqual([200, 409]);
    await agree();
  });

  it('are refused whole where they cannot be read, with the place', async () => {
    const before = (await stage.billing.do('listBankStatements')).count;
    const detail = async (bytes: string | Buffer, more = {}) => JSON.stringify((await asked(bytes, 'x', more)).body);
    expect(await detail('')).toContain('empty');
    expect(await detail(csv(['24/11/2026', 'much', '', '', '']))).toContain('line 2: \\"much\\"');
    expect(await detail('Date;Amount;Text\n24/11/2026;1;"never closed')).toContain('CSV');
    expect(await detail('Wann;Betrag;Zweck\n24.11.2026;1,00;x')).toContain('say which column is the date');
    expect(await detail(csv(['01/02/2026', '1', '', '', '']))).toContain('dayFirst');
    expect(await detail('<!DOCTYPE x [<!ENTITY a "b">]><Document/>')).toContain('DOCTYPE');
    expect(await detail(`${'<a>'.repeat(200_000)}`)).toContain('levels');
    expect(await detail('<Document><open></Document>')).toContain('line 1');
    expect(await detail(Buffer.from([0x50, 0x4b, 3, 4, 0, 0]))).toContain('no text');
    expect(await detail('Wann;Betrag;Zweck\n24.11.2026;1,00;chosen', { columns: 'date:0,amount:1,text:2' })).toContain('"lines":1');
    expect((await stage.billing.do('listBankStatements')).count).toBe(before + 1);
    expect((await stage.technician.ask('listBankLines', { query: {} as never })).status).toBe(403);
  });

  it('read camt.053 as banks write it', async () => {
    const one = await issued();
    const ntry = (ref: string, minor: number, text: string) =>
      `<Ntry><NtryRef>${ref}</NtryRef><Amt Ccy="EUR">${major(minor)}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>2026-11-24</Dt></BookgDt><NtryDtls><TxDtls><RltdPties><Dbtr><Pty><Nm>Seed &amp; Co</Nm></Pty></Dbtr></RltdPties><RmtInf><Ustrd>${text}</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>`;
    const bal = (code: string, minor: number) =>
      `<Bal><Tp><CdOrPrtry><Cd>${code}</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">${major(minor)}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2026-11-24</Dt></Dt></Bal>`;
    const file = (closing: number) =>
      `<?xml version="1.0" encoding="UTF-8"?>\n<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><GrpHdr><MsgId>m</MsgId><CreDtTm>2026-11-24T20:00:00Z</CreDtTm></GrpHdr><Stmt><Id>2026-231</Id><Acct><Id><IBAN>XX00TEST</IBAN></Id><Ccy>EUR</Ccy></Acct>${bal('OPBD', 10_000)}${bal('CLBD', closing)}${ntry('a1', one.minor, `${one.number} camt`)}</Stmt></BkToCstmrStmt></Document>`;
    expect(JSON.stringify((await asked(file(1), 'nov.xml')).body)).toContain('some are missing');
    expect((await asked(file(10_000 + one.minor), 'nov.xml')).body).toMatchObject({
      statements: [{ name: '2026-231', account: 'XX00TEST', lines: 1, open: 1, closing: { minor: 10_000 + one.minor } }],
    });
    expect(await withText('camt')).toMatchObject({ payer: 'Seed & Co', account: 'XX00TEST', matches: [{ sure: true }] });
  });
});
