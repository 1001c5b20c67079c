import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, aoife, deepa] = await openStage([], []);
let deepaId: string;
beforeAll(async () => {
  deepaId = (await stage.world.knex('person').where('name', 'like', 'Deepa%').first('id')).id;
});

const lastWeek = () =>
  stage.world
    .knex('time_entry')
    .where({ person_id: deepaId })
    .whereNull('removed_at')
    .where('starts_at', '>=', '2026-11-16')
    .where('starts_at', '<', '2026-11-23')
    .orderBy('starts_at');
const open = async () => (await lastWeek()).filter((e) => e.approval === 'open').length;

describe('approval of time', () => {
  it('leads from the team to a person, and shows what is odd', async () => {
    await aoife.enter('Aoife Brannigan', '/my-time/team?day=2026-11-16');
    await aoife.sees('.page-body', 'wait for approval');
    await aoife.press('table a', 'Deepa Raghunathan');
    await aoife.sees('h1', 'Deepa Raghunathan, 16 to 22 November');
    await aoife.sees('.line.odd', 'no note says what was done');
    expect(await aoife.accessibility()).toEqual([]);
  });

  it('returns what is odd with a remark, and the technician changes it', async () => {
    const before = await open();
    await aoife.press('button', 'choose what is odd');
    await aoife.page.waitForFunction(() => !document.querySelector('.line:not(.odd) input:checked'));
    const odd = await aoife.page.$$eval('.line input:checked', (all) => all.length);
    expect(odd).toBeGreaterThan(0);
    await aoife.focus('#main');
    await aoife.keys('r');
    await aoife.fill('What is to be changed', 'Say what was done');
    await aoife.press('.returning button', `Return ${odd}`);
    await aoife.sees('dl-toast-list', `${odd} returned`);
    expect(await open()).toBe(before - odd);
    const entry = (await lastWeek()).find((e) => e.approval === 'returned');
    const day = new Date(entry.starts_at * 1000).toISOString().slice(0, 10);
    await deepa.enter('Deepa Raghunathan', `/my-time?day=${day}`);
    await deepa.sees('[aria-label="Recorded"]', 'Returned: Say what was done');
    const item = await deepa.page.evaluateHandle(() => [...document.querySelectorAll('.said')].at(0)!.previousElementSibling!);
    await item.evaluate((e) => [...e.querySelectorAll('button')].find((b) => b.textContent!.trim() === 'Change')!.click());
    await deepa.fill('Note', 'Took the toner out and put it in again');
    await deepa.press('dl-log-time button', 'Record');
    await until(
      'it waits again',
      async () => (await stage.world.knex('time_entry').where({ id: entry.id }).first('approval')).approval === 'open',
    );
    await aoife.sees('.line', 'Took the toner out');
  });

  it('approves the week with one key, and what is approved is locked and corrected by a row that shows', async () => {
    await aoife.page.reload();
    await aoife.sees('h1', 'Deepa Raghunathan');
    await aoife.page.waitForSelector('.line input:checked');
    await aoife.focus('#main');
    await aoife.keys('a');
    await aoife.sees('dl-toast-list', 'approved');
    await until('all of it', async () => (await open()) === 0);
    const entry = (await lastWeek()).find((e) => e.ticket_id && e.minutes > 20);
    const day = new Date(entry.starts_at * 1000).toISOString().slice(0, 10);
    await deepa.go(`/my-time?day=${day}`);
    await deepa.press('[aria-label="Recorded"] button', 'Correct');
    await deepa.fill('How long it really was', '5');
    await deepa.sees('dl-correct-time [role=status]', 'c');
    const said = (await deepa.text('dl-correct-time [role=status] .does')).trim();
    await deepa.fill('Why it is corrected', 'was interrupted');
    await deepa.press('dl-correct-time button', 'Correct it');
    await deepa.sees('[aria-label="Recorded"]', 'Correction: was interrupted');
    await deepa.sees('[aria-label="Recorded"]', said);
    const row = await stage.world.knex('time_entry').where({ note: 'was interrupted' }).first('minutes', 'approval');
    expect(row.minutes).toBeLessThan(0);
    expect(row.approval).toBe('open');
    await deepa.go('/my-time/sheet?day=2026-11-16');
    await deepa.sees('tfoot', 'Approved');
    expect(await deepa.page.$$eval('.cell.approved', (all) => all.length)).toBeGreaterThan(3);
    expect([...aoife.troubles, ...deepa.troubles]).toEqual([]);
  });
});
