import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, ngozi] = await openStage(['Ngozi Adeyemi-Clarke', '/billing?show=runs']);
afterEach(() => expect(ngozi.troubles).toEqual([]));
const ROW = '[data-invoice]';

describe('when clients are billed', () => {
  it('is said in words, changed for all in one place, and taken back', async () => {
    await ngozi.sees('dl-house-terms', 'with every run, on one invoice');
    await ngozi.sees('dl-house-terms .line', 'each week on Friday');
    await ngozi.press('dl-house-terms h2 button', 'change');
    await ngozi.fill('Billed', 'each month');
    await ngozi.press('dl-record-form button', 'Save');
    await ngozi.sees('dl-record-form .error', 'write a day from 1 to 31');
    await ngozi.fill('Day of the month; 31 is the last', '1');
    await ngozi.press('dl-record-form button', 'Save');
    await ngozi.sees('dl-house-terms', 'each month on day 1, on one invoice');
    expect(await ngozi.accessibility()).toEqual([]);
    await ngozi.press('dl-toast-list button', 'Undo');
    await ngozi.sees('dl-house-terms', 'with every run, on one invoice');
    await until(
      'the run is worked out anew',
      async () => (await stage.world.knex('billing_run').where({ on_date: '2026-11-25' }).first('state'))!.state === 'ready',
    );
  });

  it('shows in the run: an invoice for each contract, and one as of its own day', async () => {
    await ngozi.press('dl-run-start a', 'Run for 25 Nov 2026');
    await ngozi.sees(ROW, 'as of 20 Nov 2026');
    const rows = await ngozi.page.$$eval(ROW, (all) =>
      all.map((e) => (e as HTMLElement).innerText).filter((t) => t.includes('Brackwater')),
    );
    expect(rows.map((row) => /Terminals|no contract/.exec(row)?.[0]).sort()).toEqual(['Terminals', 'no contract']);
  });

  it('is changed on the client, and the run that is open follows', async () => {
    const aoife = await stage.person();
    await aoife.enter('Ngozi', '/clients/102');
    await aoife.sees('dl-client-terms', 'on an invoice for each contract');
    await aoife.press('dl-client-terms button', 'change');
    await aoife.fill('Invoices', 'one for all of it');
    await aoife.press('dl-record-form button', 'Save');
    await aoife.sees('dl-client-terms', 'on one invoice');
    await ngozi.page.mouse.move(640, 20);
    await ngozi.page.waitForFunction(
      (row) => [...document.querySelectorAll<HTMLElement>(row)].filter((e) => e.innerText.includes('Brackwater')).length === 1,
      {},
      ROW,
    );
    expect(aoife.troubles).toEqual([]);
  });
});
