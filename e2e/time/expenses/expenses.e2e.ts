import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, sora] = await openStage([]);
let t: { id: string; number: number };
/** The smallest picture there is: one point. */
const PICTURE = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64');
beforeAll(async () => {
  t = await stage.world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('umbrella_id')
    .whereNotNull('client_id')
    .orderBy('number')
    .first('id', 'number');
  const own = await stage.world.as('Sora');
  const activityId = (await own.do('getHouse')).activities[0]!.id;
  await own.do('addEntry', {
    body: { workId: t.id, startsAt: '2026-11-23T13:00:00Z', duration: '30', activityId, note: 'Swapped', billable: true, reason: null },
  });
});

const kept = () => stage.world.knex('expense').where({ note: 'two patch leads' }).whereNull('removed_at').first();

describe('an expense', () => {
  it('is written down from the cell of the week it belongs to, with its receipt', async () => {
    await sora.enter('Sora Minegishi', '/my-time/sheet?day=2026-11-23');
    await sora.focus(`[aria-label^="#${t.number}, "][aria-label$="Mon 23"]`);
    await sora.fill('Inside note', 'needs a longer one next time');
    await sora.keys('Tab');
    await until(
      'the inside note',
      async () => (await stage.world.knex('time_entry').where({ ticket_id: t.id, note: 'Swapped' }).first('inside_note')).inside_note,
    );
    await sora.press('dl-cell-details button', 'Write an expense down');
    await sora.fill('What for', 'Small parts');
    await sora.fill('Paid, with tax', 'a lot');
    await sora.fill('Note', 'two patch leads');
    await sora.press('dl-expense-form button', 'Write it down');
    await sora.sees('dl-expense-form', 'a number with up to 4 places');
    await sora.fill('Paid, with tax', '24.60');
    const file = join(stage.world.folder, 'receipt.png');
    await writeFile(file, PICTURE);
    const choose = (await sora.page.$('dl-expense-form input[type=file]')) as unknown as { uploadFile(path: string): Promise<void> };
    await choose.uploadFile(file);
    await sora.press('dl-expense-form button', 'Write it down');
    const x = await until('the receipt', async () => ((await kept())?.receipt_blob ? kept() : undefined));
    expect(x).toMatchObject({ paid_minor: 2460, net_minor: 2000, ticket_id: t.id, receipt_name: 'receipt.png' });
    expect((await stage.world.knex('charge').where({ expense_id: x.id }).first('net_minor')).net_minor).toBe(2300);
    await sora.sees('dl-cell-details', 'with receipt');
  });

  it('stands in the month, is approved with the time, and is paid back', async () => {
    await sora.go('/my-time/expenses');
    await sora.sees('tbody tr', 'two patch leads');
    expect(await sora.accessibility()).toEqual([]);
    const aoife = await stage.person();
    await aoife.enter('Aoife Brannigan', `/my-time/team/${(await kept()).person_id}?day=2026-11-23`);
    await aoife.sees('.line', 'two patch leads');
    await aoife.press('button', 'Approve');
    await until('approved', async () => (await kept()).approval === 'approved');
    await sora.sees('tbody tr', 'approved');
    const ngozi = await stage.person();
    await ngozi.enter('Ngozi Adeyemi-Clarke', '/reimbursements');
    await ngozi.sees('.page-body', 'two patch leads');
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('button', 'paid back');
    await until('paid back', async () => (await kept()).reimbursed_on);
    await ngozi.sees('.page-body', '€0.00');
    await sora.sees('tbody tr', 'paid back on');
    expect([...sora.troubles, ...aoife.troubles, ...ngozi.troubles]).toEqual([]);
  });
});
