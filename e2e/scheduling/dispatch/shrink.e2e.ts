import { formatInstant, plusSeconds } from '@core/ground';
import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, tomasz, deepa] = await openStage([], []);

describe('a booking that took less than planned', () => {
  it('gives the gap free on every open dispatch view, keeps what was planned beside it, and is undone by the technician', async () => {
    const { world } = stage;
    const [script, own] = [await world.as('Tomasz'), await world.as('Deepa')];
    const { id: personId } = await world.knex('person').where('name', 'like', 'Deepa%').first('id');
    await world.knex('booking').where({ person_id: personId }).whereNot({ state: 'done' }).update({ state: 'cancelled' });
    const t = await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .orderBy('number')
      .first('id', 'number');
    const startsAt = formatInstant(plusSeconds(world.clock.now(), -2 * 3600));
    await script.do('book', { body: { workId: t.id, personId, startsAt, minutes: 120 } });
    const activityId = (await own.do('getHouse')).activities[0]!.id;
    await own.do('addEntry', {
      body: { workId: t.id, startsAt, duration: '30', activityId, note: 'Cable', billable: true, reason: null },
    });
    await tomasz.enter('Tomasz Wieland', '/dispatch');
    await tomasz.sees('.booking', '');
    const width = () =>
      tomasz.page.evaluate(
        (n) => [...document.querySelectorAll<HTMLElement>('.booking')].find((b) => b.title.startsWith(`#${n},`))?.offsetWidth ?? 0,
        t.number,
      );
    const planned = await width();
    await deepa.enter('Deepa Raghunathan', '/my-time');
    await deepa.sees('.item', `#${t.number}`);
    await deepa.press('.item button', 'Done');
    await deepa.sees('.item.done', `#${t.number}`);
    await tomasz.page.waitForFunction(
      (n) => document.querySelector(`.booking.done[title^="#${n},"][title*="planned"]`) !== null,
      {},
      t.number,
    );
    expect(Math.round((await width()) / (planned / 4))).toBe(1);
    const outlines = () => tomasz.page.$$eval('.as-planned', (all) => all.map((e) => (e as HTMLElement).offsetWidth));
    expect((await outlines()).some((w) => Math.abs(w - planned) < 4)).toBe(true);
    await deepa.press('dl-toast-list button', 'Undo');
    await tomasz.page.waitForFunction((n) => document.querySelector(`.booking.planned[title^="#${n},"]`) !== null, {}, t.number);
    expect(Math.abs((await width()) - planned)).toBeLessThan(3);
    expect([...tomasz.troubles, ...deepa.troubles]).toEqual([]);
  });
});

describe('a booking that is done', () => {
  it('asks whether its ticket is solved, and settles what stands in the way where it is asked', async () => {
    const { world } = stage;
    const script = await world.as('Tomasz');
    const { id: personId } = await world.knex('person').where('name', 'like', 'Sora%').first('id');
    const t = await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .whereNotNull('contact_id')
      .orderBy('number', 'desc')
      .first('id', 'number');
    await script.do('book', { body: { workId: t.id, personId, startsAt: '2026-11-24T16:00:00Z', minutes: 30 } });
    const sora = await stage.person();
    await sora.enter('Sora Minegishi', '/my-time');
    const item = await sora.find('.item', `#${t.number}`);
    await (await item.$('.acts .btn-plain'))!.click();
    await until('begun', async () => (await world.knex('booking').where({ ticket_id: t.id, state: 'underway' })).length === 1);
    const begun = await sora.find('.item', `#${t.number}`);
    await until('resumed', async () => begun.evaluate((e) => e.textContent!.includes('Resume')));
    await begun.evaluate((e) => [...e.querySelectorAll('button')].find((b) => b.textContent!.trim() === 'Done')!.click());
    // Its timer tells how long it took; left out, the timer runs on.
    await sora.sees('.finish', 'your timer counts');
    await sora.fill('How long this took', '');
    await sora.press('.finish button', 'It is done');
    await until('done', async () => (await world.knex('booking').where({ ticket_id: t.id, state: 'done' })).length === 1);
    await sora.sees('dl-is-it-solved', `Is #${t.number} solved`);
    await sora.press('dl-is-it-solved button', 'Resolve it');
    await sora.sees('dl-before-moving', 'runs');
    await sora.sees('dl-before-moving', 'no time is logged');
    expect((await world.knex('ticket').where({ id: t.id }).first('status')).status).toBe('underway');
    await sora.press('dl-before-moving button', 'pause it');
    await sora.gone('dl-before-moving', 'runs');
    expect(sora.troubles).toEqual([]);
  });
});

describe('my schedule in another calendar', () => {
  it('is made, read at its address without a sign-in, renewed and ended', async () => {
    await deepa.press('dl-schedule-feed button', 'Make an address');
    await deepa.page.waitForSelector('[aria-label="Address of my schedule"]');
    const address = await deepa.value('Address of my schedule');
    const path = new URL(address).pathname;
    const answer = await fetch(stage.world.base + path);
    expect([answer.status, (await answer.text()).startsWith('BEGIN:VCALENDAR')]).toEqual([200, true]);
    await deepa.press('dl-schedule-feed button', 'end it');
    await deepa.sees('dl-schedule-feed', 'Make an address');
    expect((await fetch(stage.world.base + path)).status).toBe(404);
  });
});
