import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let clientId: string;
const SPAN = { from: '2026-11-01', to: '2026-11-30' };
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
  const row = await world
    .knex('time_entry as e')
    .join('ticket as t', 't.id', 'e.ticket_id')
    .join('charge as c', 'c.time_entry_id', 'e.id')
    .where({ 't.kind': 'incident', 'c.state': 'proposed', 'c.part': 0 })
    .where('c.net_minor', '>', 0)
    .whereNotNull('e.client_id')
    .groupBy('e.client_id')
    .orderByRaw('count(*) desc')
    .first('e.client_id');
  clientId = row.client_id;
});
afterAll(() => world.stop());

const report = () => aoife.do('getUsage', { params: { clientId }, query: SPAN });

describe('the usage report of a client', () => {
  it('has all their billable work of the span, without flat-fee jobs, with what is charged and what was waived', async () => {
    const r = await report();
    const [{ n, minutes }] = (
      await world.knex.raw(
        `select count(*)::int as n, sum(e.minutes)::int as minutes from time_entry e join ticket t on t.id = e.ticket_id
         where e.client_id = ? and e.billable and e.removed_at is null and t.kind <> 'flat-fee job' and e.starts_at >= '2026-11-01' and e.starts_at < '2026-12-01'`,
        [clientId],
      )
    ).rows;
    expect([r.tickets.flatMap((t) => t.work).length, r.minutes]).toEqual([n, minutes]);
    expect(n).toBeGreaterThan(3);
    const charge = await world
      .knex('charge as c')
      .join('time_entry as e', 'e.id', 'c.time_entry_id')
      .join('ticket as t', 't.id', 'e.ticket_id')
      .where({ 'c.client_id': clientId, 'c.state': 'proposed', 'c.part': 0, 't.kind': 'incident' })
      .where('c.net_minor', '>', 0)
      .where('e.starts_at', '>=', '2026-11-01')
      // What an entry charges is waived when all of it is.
      .whereRaw('not exists (select from charge o where o.time_entry_id = e.id and o.id <> c.id)')
      .first('c.id', 'c.net_minor', 'c.version', 'e.minutes');
    if (!charge) throw new Error('the demo has no charge to waive');
    await world.knex('charge').where({ id: charge.id }).update({ state: 'waived' });
    const after = await report();
    expect([after.minutes, r.chargedMinutes - after.chargedMinutes, r.net.minor - after.net.minor]).toEqual([
      r.minutes,
      charge.minutes,
      Number(charge.net_minor),
    ]);
  });

  it('says what contracts granted, what was used and what is left, and what of the work they covered', async () => {
    const contract = await world.knex('contract').where({ name: 'Support hours' }).first('client_id', 'number', 'id');
    const r = await aoife.do('getUsage', { params: { clientId: contract.client_id }, query: SPAN });
    const { allowances } = await aoife.do('getContractTime', { params: { contractId: contract.id } });
    expect(r.contracts).toEqual([
      {
        number: contract.number,
        name: 'Support hours',
        allowances: [
          { name: 'Hours', measure: 'hours', granted: allowances[0]!.granted, used: allowances[0]!.used, left: allowances[0]!.left },
        ],
      },
    ]);
    const work = r.tickets.flatMap((t) => t.work);
    expect(r.coveredMinutes).toBe(work.reduce((n, w) => n + w.coveredMinutes, 0));
    expect(work.some((w) => w.treatment === 'covered')).toBe(true);
    const pdf = await aoife.ask('getUsagePdf', { params: { clientId: contract.client_id }, query: SPAN });
    const file = join(world.folder, 'covered.pdf');
    writeFileSync(file, pdf.bytes);
    expect(execFileSync('pdftotext', ['-layout', file, '-']).toString()).toMatch(/Support hours, Hours: .* granted, .* used, .* left/);
  });

  it('is the same as CSV and as PDF, read by readers of others', async () => {
    const r = await report();
    const csv = await aoife.ask('getUsageCsv', { params: { clientId }, query: SPAN });
    const rows = parse(csv.bytes, { columns: true }) as Record<string, string>[];
    expect([rows.length, rows.reduce((n, row) => n + Number(row['Minutes']), 0)]).toEqual([
      r.tickets.flatMap((t) => t.work).length,
      r.minutes,
    ]);
    const pdf = await aoife.ask('getUsagePdf', { params: { clientId }, query: SPAN });
    const file = join(world.folder, 'usage.pdf');
    writeFileSync(file, pdf.bytes);
    const text = execFileSync('pdftotext', ['-layout', file, '-']).toString();
    expect([text.includes(`Work for ${r.client}`), r.tickets.every((t) => text.includes(`#${t.number}`))]).toEqual([true, true]);
  });

  it('refuses a span that ends before it begins, and those who may not see charges', async () => {
    const back = await aoife.ask('getUsage', { params: { clientId }, query: { from: '2026-11-30', to: '2026-11-01' } });
    expect([back.status, detailOf(back)]).toEqual([422, expect.stringContaining('the last day is not before the first')]);
    expect((await (await world.as('Deepa')).ask('getUsage', { params: { clientId }, query: SPAN })).status).toBe(403);
  });
});
