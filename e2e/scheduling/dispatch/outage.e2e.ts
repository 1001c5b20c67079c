import { join } from 'node:path';
import { startServer, type Running } from '../../../packages/server/src/app/start-server';
import { testConfig, until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, tomasz] = await openStage(['Tomasz Wieland', '/dispatch']);
let second: Running | undefined;
stage.onEnd(() => second?.stop());
beforeAll(async () => {
  await tomasz.page.waitForSelector('.gap');
});

describe('dispatch while the server is down', () => {
  it('says so, stores nothing that it shows, keeps what was typed, and catches up without a reload', async () => {
    const { world } = stage;
    const booking = await world
      .knex('booking as b')
      .join('ticket as t', 't.id', 'b.ticket_id')
      .join('person as p', 'p.id', 'b.person_id')
      .where('p.name', 'like', 'Marisol%')
      .where('b.state', 'planned')
      .where('b.starts_at', '<', '2026-11-25T00:00:00Z')
      .orderBy('b.starts_at', 'desc')
      .first('b.id', 'b.starts_at', 't.number');
    await tomasz.page.$eval(`[data-booking="${booking.id}"]`, (e) => (e as HTMLElement).click());
    await tomasz.fill('Bring', 'a long ladder');
    await tomasz.page.evaluate(() => ((window as unknown as { here: boolean }).here = true));
    await world.running.stop();
    await tomasz.press('dl-book-form button', 'Save');
    await tomasz.sees('dl-toast-list', 'Drumline cannot be reached');
    expect(await tomasz.value('Bring')).toBe('a long ladder');
    expect((await world.knex('booking').where({ id: booking.id }).first('bring')).bring).toBeNull();
    // Somebody else's change while this page hears nothing.
    await world.knex('ticket').where({ number: booking.number }).update({ subject: 'Renamed meanwhile' });
    const config = testConfig(world.url, join(world.folder, 'files'), { PORT: world.running.port });
    second = await startServer(config, world.clock);
    await tomasz.page.waitForFunction(
      (id) => document.querySelector(`[data-booking="${id}"]`)?.textContent?.includes('Renamed meanwhile'),
      {},
      booking.id,
    );
    expect(await tomasz.page.evaluate(() => (window as unknown as { here?: boolean }).here)).toBe(true);
    expect(await tomasz.value('Bring')).toBe('a long ladder');
    await tomasz.press('dl-book-form button', 'Save');
    await until('saved', async () => (await world.knex('booking').where({ id: booking.id }).first('bring')).bring === 'a long ladder');
  });
});
