import { openStage } from '../../browser';

const [stage, aoife] = await openStage([]);

describe('hours', () => {
  it('of a span stand in chart and table, against other days, and open into entries and on to the ticket', async () => {
    await aoife.enter('Aoife Brannigan', '/my-time/hours?from=2026-11-16&to=2026-11-22');
    await aoife.sees('table', 'Piotr Zaleski');
    await aoife.page.waitForSelector('dl-bar-chart svg');
    await aoife.press('button', 'against as many days before');
    await aoife.sees('thead', 'Other days');
    expect(await aoife.address()).toContain('thanFrom=2026-11-09&thanTo=2026-11-15');
    expect(await aoife.accessibility()).toEqual([]);
    for (const by of ['client', 'activity', 'time band', 'technician']) {
      await aoife.press('dl-gathered-by button', `by ${by}`);
      await aoife.sees('thead th:first-child', by.charAt(0).toUpperCase());
    }
    await aoife.press('dl-gathered-by button', 'by client');
    await aoife.press('table button', 'Hollin Veterinary Group');
    await aoife.page.waitForSelector('.behind a');
    await aoife.click('.behind a');
    await aoife.page.waitForFunction(() => location.pathname.startsWith('/tickets/'));
    expect(aoife.troubles).toEqual([]);
  });

  it('are not for who approves no time', async () => {
    const deepa = await stage.person();
    await deepa.enter('Deepa Raghunathan', '/my-time/hours');
    await deepa.sees('.page-body', 'permission');
  });
});
