import { openStage } from '../../browser';

const [stage, leif, hanna] = await openStage([], []);

describe('what would it cost', () => {
  it('is worked out for a draft beside what runs, with the margin for who may see it', async () => {
    await leif.enter('Leif Sandvik', '/contracts');
    await leif.press('a', 'Help desk from next year');
    await leif.press('.page-head a', 'What would it cost?');
    await leif.sees('dl-would-cost-page', 'Help desk from next year');
    await leif.press('dl-would-cost-page label', 'Monitoring');
    await leif.press('dl-would-cost-page button', 'Work it out');
    await leif.sees('dl-would-cost-page thead', 'Help desk from next year');
    await leif.sees('dl-would-cost-page thead', 'By the hour');
    await leif.sees('dl-would-cost-page tfoot', 'Margin');
    // Twelve months of it, at its price.
    const months = await leif.page.$$eval('dl-would-cost-page tbody tr', (all) => all.map((r) => (r as HTMLElement).innerText));
    expect(months).toHaveLength(12);
    expect(months.every((m) => m.includes('€760.00'))).toBe(true);
    expect(await leif.accessibility()).toEqual([]);
  });

  it('counts what an hour of somebody costs', async () => {
    await hanna.enter('Hanna Lindqvist', '/setup/time');
    await hanna.sees('main', 'What an hour costs');
    await hanna.sees('main', '€37.00 from 1 Jan 2020');
    const { rows } = await stage.world.knex.raw('select count(*)::int as n from cost_rate');
    expect(rows[0].n).toBeGreaterThan(5);
    expect([...leif.troubles, ...hanna.troubles]).toEqual([]);
  });
});
