import { openStage } from '../../browser';

const [, tomasz] = await openStage([]);

describe('plan and fact', () => {
  it('shows a span by technician, kind and client, and opens into bookings and on to the ticket', async () => {
    await tomasz.enter('Tomasz Wieland', '/dispatch/plan-and-fact');
    await tomasz.press('dl-span-choice button', 'this month');
    await tomasz.sees('.sum', 'bookings done');
    await tomasz.page.waitForSelector('dl-bar-chart svg path');
    expect(await tomasz.accessibility()).toEqual([]);
    const sum = await tomasz.text('.sum');
    await tomasz.press('dl-gathered-by button', 'by kind');
    await tomasz.sees('table', 'incident');
    expect(await tomasz.text('.sum')).toBe(sum);
    await tomasz.press('dl-gathered-by button', 'by client');
    await tomasz.press('table button', 'Larkspur Seed Co-op');
    await tomasz.sees('.behind', 'planned');
    await tomasz.page.waitForFunction(() => location.search.includes('open='));
    await (await tomasz.find('.behind a', '#')).click();
    await tomasz.page.waitForFunction(() => location.pathname.startsWith('/tickets/'));
    expect(tomasz.troubles).toEqual([]);
  });
});
