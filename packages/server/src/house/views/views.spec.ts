import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
});
afterAll(() => world.stop());

const names = async (script: Script, list: string) => (await script.do('listViews', { query: { list } })).views.map((v) => v.name);

describe('views of lists', () => {
  it('are kept for oneself or for all, by list', async () => {
    await aoife.do('saveView', { body: { list: 'tickets', name: 'Late ones', query: 'sort=due&owed=yes', reach: 'all' } });
    await aoife.do('saveView', { body: { list: 'tickets', name: 'Mine alone', query: 'state=all', reach: 'own' } });
    expect(await names(aoife, 'tickets')).toEqual(['Late ones', 'Mine alone']);
    expect(await names(deepa, 'tickets')).toEqual(['Late ones']);
    expect(await names(deepa, 'assets')).toEqual([]);
    const [seen] = (await deepa.do('listViews', { query: { list: 'tickets' } })).views;
    expect(seen).toMatchObject({ query: 'sort=due&owed=yes', mine: false, by: 'Aoife Brannigan' });
  });

  it('are replaced by the same name of the same person only', async () => {
    await deepa.do('saveView', { body: { list: 'tickets', name: 'Late ones', query: 'priority=P1', reach: 'own' } });
    await deepa.do('saveView', { body: { list: 'tickets', name: 'Late ones', query: 'priority=P2', reach: 'own' } });
    const views = (await deepa.do('listViews', { query: { list: 'tickets' } })).views;
    expect(views.map((v) => [v.name, v.query, v.mine]).sort()).toEqual([
      ['Late ones', 'priority=P2', true],
      ['Late ones', 'sort=due&owed=yes', false],
    ]);
  });

  it('are seen by those of the team where they are for the team, and by nobody else', async () => {
    const teamOf = async (name: string) => (await world.knex('person').where('name', 'like', `${name}%`).first('team_id')).team_id;
    const [tomasz, hanna] = [await world.as('Tomasz'), await world.as('Hanna')];
    expect([(await teamOf('Tomasz')) === (await teamOf('Aoife')), (await teamOf('Hanna')) === (await teamOf('Aoife'))]).toEqual([
      true,
      false,
    ]);
    await aoife.do('saveView', { body: { list: 'assets', name: 'Ours to watch', query: 'sort=name', reach: 'team' } });
    expect([await names(tomasz, 'assets'), await names(hanna, 'assets')]).toEqual([['Ours to watch'], []]);
  });

  it('are taken away by who made them, and by nobody else', async () => {
    const [view] = (await aoife.do('listViews', { query: { list: 'tickets' } })).views.filter((v) => v.mine);
    const refused = await deepa.ask('removeView', { params: { viewId: view!.id } });
    expect([refused.status, (refused.body as { detail: string }).detail]).toEqual([404, expect.stringContaining('Who made a view')]);
    await aoife.do('removeView', { params: { viewId: view!.id } });
    expect(await names(aoife, 'tickets')).not.toContain(view!.name);
  });

  it('name what is wrong with them', async () => {
    const { status, body } = await aoife.ask('saveView', { body: { list: 'wishes', name: '', query: 'x'.repeat(2000), reach: 'all' } });
    expect([status, Object.keys((body as { fields: object }).fields).sort()]).toEqual([422, ['list', 'name', 'query']]);
  });
});
