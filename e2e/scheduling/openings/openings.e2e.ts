import { until } from '../../../packages/server/testing/test-server';
import { tokenOf } from '../../../packages/server/src/house/access/secret-address';
import { openStage } from '../../browser';

const [stage, tomasz] = await openStage(['Tomasz Wieland', '/dispatch']);
beforeAll(async () => {
  await tomasz.page.waitForSelector('.card');
});

const sets = async () =>
  (await stage.world.knex('opening_set').orderBy('made_at').select('id', 'state', 'nonce', 'ticket_id')).map((set) => ({
    ...set,
    token: tokenOf(stage.world.running.app, 'openings', set.nonce),
  }));

describe('openings for the client', () => {
  it('are offered by mail from the work that is chosen, stand on the lanes, and one is taken from outside without a sign-in', async () => {
    await tomasz.press('.card', 'P3');
    await tomasz.press('dl-work-fits button', 'offer by mail');
    await tomasz.press('dl-offer-openings button', 'Hold and mail 3');
    await tomasz.sees('dl-toast-list', '3 openings are held and mailed');
    const [set] = await sets();
    await tomasz.page.waitForFunction(() => document.querySelectorAll('.booking.tentative').length > 0);
    const mail = await until('the mail', async () => (await stage.world.mailbox()).find((m) => m.text.includes(set.token)));
    expect(mail.text.match(/^ {2}– /gm)).toHaveLength(3);
    const client = await stage.person();
    await client.go(`/openings/${set.token}`);
    await client.sees('main', 'Which of these suits you best?');
    expect(await client.accessibility()).toEqual([]);
    const [second] = await client.page.$$eval('form button:not(.quiet)', (all) => all.slice(1, 2).map((b) => b.textContent!.trim()));
    await client.press('form button', second!);
    await client.sees('.status', `Booked: ${second}`);
    expect((await sets())[0].state).toBe('taken');
    await tomasz.sees('dl-top-bar', 'What is new');
    const kept = await stage.world.knex('booking').where({ ticket_id: set.ticket_id, state: 'planned' });
    expect(kept.map((b) => [b.tentative, b.fixed])).toEqual([[false, true]]);
    await client.go(`/openings/${set.token}`);
    await client.sees('.status', 'Booked: ');
  });

  it('are let go by dispatch from the lane, and the client who comes late is told so kindly', async () => {
    await tomasz.press('.card', 'P3');
    await tomasz.press('dl-work-fits button', 'offer by mail');
    await tomasz.press('dl-offer-openings button', 'Hold and mail 3');
    const set = await until('the second set', async () => (await sets())[1]);
    const first = await stage.world.knex('booking').where({ opening_set_id: set.id }).orderBy('starts_at').first('id', 'starts_at');
    await tomasz.go(`/dispatch?day=${new Date(first.starts_at * 1000).toISOString().slice(0, 10)}`);
    await tomasz.page.waitForSelector(`[data-booking="${first.id}"]`);
    await tomasz.page.$eval(`[data-booking="${first.id}"]`, (e) => (e as HTMLElement).click());
    await tomasz.sees('dl-book-form', 'Held for the client until');
    await tomasz.press('dl-book-form button', 'let the openings go');
    await until('letting go', async () => (await sets())[1].state === 'released');
    const client = await stage.person();
    await client.go(`/openings/${set.token}`);
    await client.sees('.status', 'no longer held for you');
    expect(tomasz.troubles).toEqual([]);
  });
});
