import { detailOf, until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, sora] = await openStage([]);

const entries = async () =>
  stage.world
    .knex('time_entry as e')
    .join('person as p', 'p.id', 'e.person_id')
    .where('p.name', 'like', 'Sora%')
    .whereNull('e.removed_at')
    .where('e.starts_at', '>=', '2026-11-24T00:00:00Z')
    .orderBy('e.starts_at')
    .select('e.id', 'e.minutes', 'e.note', 'e.ticket_id');

describe('a day of time', () => {
  it('is written from what was done, changed in place, and recorded in one sweep', async () => {
    const { world } = stage;
    const script = await world.as('Sora');
    const t = await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .whereNotNull('contact_id')
      .orderBy('number')
      .first('id', 'number');
    await script.do('writeCall', {
      params: { ticketId: t.id },
      body: { way: 'out', outcome: 'spoke', text: 'Asked for the cable', at: '2026-11-24T10:10:00Z', callBackAt: null },
    });
    const before = await entries();
    await sora.enter('Sora Minegishi', '/my-time');
    await sora.sees('dl-proposed-entries', `#${t.number}`);
    expect(await sora.accessibility()).toEqual([]);
    const how = `How long on #${t.number} from`;
    const field = await sora.page.waitForSelector(`[aria-label^="${how}"]`);
    const type = async (text: string) => {
      await field!.click({ count: 3 });
      await field!.type(text);
    };
    await type('soon');
    await sora.press('dl-proposed-entries button', 'Record');
    await sora.sees('dl-proposed-entries', 'a time such as 25');
    expect(await entries()).toEqual(before);
    const sentence = async () =>
      /€[\d,.]+ to the client/.exec(
        await sora.text(`.row:has([aria-label="Why: what #${t.number} comes to"]) dl-effect`).catch(() => ''),
      )?.[0];
    await type('3:00');
    const threeHours = await until('what three hours come to', sentence);
    await type('25');
    const said = await until('what it comes to', async () => [await sentence()].find((now) => now !== threeHours));
    await sora.press('dl-proposed-entries button', 'Record');
    const mine = await until('the entry', async () => (await entries()).find((e) => e.ticket_id === t.id));
    expect([mine.minutes, mine.note]).toEqual([25, 'Asked for the cable']);
    await sora.gone('dl-proposed-entries', `#${t.number}`);
    await sora.sees('[aria-label="Recorded"]', `#${t.number}`);
    await sora.sees('[aria-label="Recorded"]', said);
  });

  it('names what is open, is closed with one press and takes nothing then, and is opened again', async () => {
    await sora.sees('[aria-label="Day sheet"]', 'open');
    await sora.press('button', 'Close the day');
    await sora.sees('[aria-label="Day sheet"]', 'This day is closed');
    const before = await entries();
    await sora.gone('[aria-label="Recorded"] button', 'Remove');
    const script = await stage.world.as('Sora');
    const { version } = await stage.world.knex('time_entry').where({ id: before[0]!.id }).first('version');
    const refused = await script.ask('removeEntry', { params: { entryId: before[0]!.id }, version });
    expect([refused.status, detailOf(refused)]).toEqual([409, expect.stringContaining('is closed. Open it again')]);
    expect(await entries()).toEqual(before);
    await sora.press('button', 'open it again');
    await sora.sees('button', 'Close the day');
    await sora.sees('[aria-label="Recorded"] button', 'Remove');
    await sora.press('button', 'all is complete up to this day');
    await sora.sees('[aria-label="Day sheet"]', 'Complete up to Tuesday, 24 November');
    await sora.keys('ArrowLeft');
    await sora.sees('h1', '23 November');
    await sora.sees('[aria-label="Day sheet"]', 'Complete up to');
    await sora.press('button', 'take that back');
    await sora.sees('button', 'Close the day');
    expect(sora.troubles).toEqual([]);
  });

  it('counts the minutes that somebody is here, and shows them to that person', async () => {
    await until('a minute here', async () => (await stage.world.knex('minutes_here').count('* as n').first())!['n'] !== '0');
    await sora.keys('.');
    await sora.sees('[aria-label="Day sheet"]', 'here');
  });
});
