import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let deepa: Script;
let sora: Script;
beforeAll(async () => {
  world = await startWorld();
  [deepa, sora] = [await world.as('Deepa'), await world.as('Sora')];
});
afterAll(() => world.stop());

describe('canned replies', () => {
  it("are a person's own or for all, under one name each, changed by who wrote them", async () => {
    const body = { name: 'My own words', text: 'Hello {first name}, I am on it.', shared: false };
    const mine = await deepa.do('addCanned', { body });
    const names = async (script: Script) => (await script.do('listCanned')).replies.map((r) => r.name);
    expect([(await names(deepa)).includes('My own words'), (await names(sora)).includes('My own words')]).toEqual([true, false]);
    const twice = await deepa.ask('addCanned', { body: { ...body, name: 'MY OWN words' } });
    expect((twice.body as { fields: object }).fields).toEqual({ name: 'another name' });
    const shared = await deepa.do('editCanned', { params: { replyId: mine.id }, version: mine.version, body: { ...body, shared: true } });
    expect(await names(sora)).toContain('My own words');
    expect((await sora.ask('editCanned', { params: { replyId: mine.id }, version: shared.version, body })).status).toBe(403);
    expect((await sora.ask('removeCanned', { params: { replyId: mine.id } })).status).toBe(403);
    expect((await deepa.ask('editCanned', { params: { replyId: mine.id }, version: mine.version, body })).status).toBe(412);
    expect((await deepa.do('removeCanned', { params: { replyId: mine.id } })).removed).toBe(1);
    expect(await names(sora)).not.toContain('My own words');
  });
});
