import { openStage } from '../../browser';

const [stage, deepa] = await openStage([]);
beforeAll(async () => {
  const t = await stage.world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('umbrella_id')
    .whereNotNull('client_id')
    .whereNotNull('contact_id')
    .orderBy('number')
    .first('number');
  await deepa.enter('Deepa Raghunathan', `/tickets/${t.number}`);
  await deepa.page.setViewport({ width: 390, height: 844, isMobile: true, hasTouch: true });
  await deepa.sees('.parts button', 'Conversation');
});
afterEach(() => expect(deepa.troubles).toEqual([]));

/** How wide the page is, and what a person writes in. */
const widths = () =>
  deepa.page.evaluate(() => [
    document.documentElement.scrollWidth,
    Math.round(document.querySelector('dl-composer textarea')!.getBoundingClientRect().width),
  ]);

describe('a ticket on a phone', () => {
  it('has its talk and its composer over the whole width, and nothing beyond it', async () => {
    const [page, box] = await widths();
    expect([page, box! > 330]).toEqual([390, true]);
    expect(await deepa.page.$eval('aside', (e) => e.checkVisibility())).toBe(false);
  });

  it('is answered and noted on', async () => {
    await deepa.fill('Reply that the client will see', 'On my way.');
    await deepa.press('dl-composer button', 'Send to client');
    await deepa.sees('article.ours', 'On my way.');
    await deepa.press('[role=tab]', 'Inside note');
    await deepa.fill('Inside note that the client never sees', 'Key is at the desk.');
    await deepa.press('dl-composer button', 'Keep inside');
    await deepa.sees('article.inside', 'Key is at the desk.');
  });

  it('is timed, logged and ticked off among its facts', async () => {
    await deepa.press('.parts button', 'Facts');
    await deepa.page.waitForFunction(() => !document.querySelector('dl-composer')!.checkVisibility());
    await deepa.press('aside button', 'Start timer');
    await deepa.sees('dl-top-bar', 'pause');
    expect((await widths())[0]).toBe(390);
    await deepa.press('aside button', 'Log time');
    await deepa.fill('How long', '');
    await deepa.fill('How long', '15');
    await deepa.fill('Ended at', '07:20');
    await deepa.fill('Note', 'Key fetched');
    await deepa.press('dl-log-time button', 'Record');
    await deepa.sees('aside .entry', '15 min');
    expect((await widths())[0]).toBe(390);
  });

  it('takes a call', async () => {
    await deepa.press('aside button', 'Write down a call');
    await deepa.sees('dl-record-form', 'Leave it');
    expect((await widths())[0]).toBe(390);
    await deepa.press('dl-record-form button', 'Leave it');
    await deepa.press('.parts button', 'Conversation');
    await deepa.sees('article.inside', 'Key is at the desk.');
  });
});
