import type { StoryWire } from '@core/ground';
import { byJob } from './actor';
import { makeWork } from './work';
import { HouseBook } from '../house/house/house-book';
import { type Script, startWorld, STORY, type World } from '../../testing/test-server';

const HAPPENED = 230;

let world: World;
let leif: Script;
let clientId: string;
beforeAll(async () => {
  world = await startWorld();
  leif = await world.as('Leif');
  clientId = (await world.knex('client').orderBy('number').first('id')).id;
  const book = new HouseBook();
  await book.load(world.knex);
  await world.knex.transaction(async (tx) => {
    const work = makeWork({ tx, now: STORY, actor: byJob('test'), book });
    for (let n = 0; n < HAPPENED; n++) await work.tell('client.site-added', clientId, { siteId: clientId, name: `Site ${n}` });
  });
});
afterAll(() => world.stop());

const ask = (before: string) => leif.do('getClientStory', { params: { clientId }, query: { before } });

describe('the story of a record', () => {
  it('is read on from its newest to its first line, each once and none left out', async () => {
    let { story } = await leif.do('getClient', { params: { clientId } });
    const lines: StoryWire[] = [];
    for (;;) {
      const happened = story.filter((line) => line.id !== null);
      lines.unshift(...happened);
      if (happened.length === story.length) break;
      expect(story[0]).toMatchObject({ id: null, what: expect.stringMatching(/^keeps \d+ earlier events/) });
      ({ story } = await ask(happened[0]!.id!));
    }
    const sites = lines.map((line) => /Site (\d+)/.exec(line.what)?.[1]).filter((n) => n !== undefined);
    expect(sites.map(Number)).toEqual(Array.from({ length: HAPPENED }, (_, n) => n));
    expect(new Set(lines.map((line) => line.id)).size).toBe(lines.length);
  });

  it('names what is asked wrongly', async () => {
    expect((await leif.ask('getClientStory', { params: { clientId }, query: { before: 'x' } })).status).toBe(422);
    expect((await leif.ask('getClientStory', { params: { clientId }, query: {} })).status).toBe(422);
  });
});
