import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, sora, aoife] = await openStage([], []);

const asked = () =>
  stage.world
    .knex('absence as a')
    .join('person as p', 'p.id', 'a.person_id')
    .where('p.name', 'like', 'Sora%')
    .where({ 'a.from_day': '2026-11-26' })
    .first('a.*');

describe('time off', () => {
  it('says what it takes and who else is away before it is asked for', async () => {
    await sora.enter('Sora Minegishi', '/my-time/absences');
    await sora.press('button', 'Ask for time off');
    await sora.fill('What for', 'Annual leave');
    for (const [label, day] of [
      ['First day', '2026-11-26'],
      ['Last day', '2026-11-27'],
    ] as const)
      await sora.moment(label, day);
    await sora.press('dl-absence-ask label', 'Only until midday of the last day');
    await sora.sees('dl-absence-ask', 'It takes 1½ days');
    expect(await sora.accessibility()).toEqual([]);
    await sora.press('dl-absence-ask button', 'Ask for it');
    const { days } = await until('the request', asked);
    expect(days).toEqual({ '2026-11-26': 2, '2026-11-27': 1 });
    await sora.sees('[aria-label="Yours"]', '26 Nov 2026');
  });

  it('is approved by a manager, stands on the lanes at once, and nothing is expected then', async () => {
    const tomasz = await stage.person();
    await tomasz.enter('Tomasz Wieland', '/dispatch?day=2026-11-26');
    await tomasz.sees('dl-dispatch-lane', 'Sora Minegishi');
    await aoife.enter('Aoife Brannigan', '/my-time/absences');
    await aoife.sees('[aria-label="To decide on"]', 'Sora Minegishi 26 to 27 November');
    await aoife.press('[aria-label="To decide on"] button', 'Approve Sora Minegishi 2026-11-26');
    await until('approved', async () => (await asked()).state === 'approved');
    await sora.sees('[aria-label="Yours"]', 'approved');
    const lane = await tomasz.find('dl-dispatch-lane', 'Sora Minegishi');
    await until('the lane', async () => lane.evaluate((e) => e.textContent!.includes('Annual leave')));
    await sora.go('/my-time?day=2026-11-26');
    await sora.sees('[aria-label="Day sheet"]', 'nothing expected');
    expect(tomasz.troubles).toEqual([]);
  });

  it('is refused with a reason, which is asked for', async () => {
    await aoife.press('[aria-label="To decide on"] button', 'Refuse Yusuf Demirel');
    await aoife.press('[aria-label="To decide on"] form button', 'Refuse');
    await aoife.sees('dl-toast-list', 'Say why not');
    await aoife.fill('Why not', 'The harbour is all hands that day');
    await aoife.press('[aria-label="To decide on"] form button', 'Refuse');
    await aoife.gone('[aria-label="To decide on"]', 'Yusuf Demirel');
    const yusuf = await stage.person();
    await yusuf.enter('Yusuf Demirel', '/my-time/absences');
    await yusuf.sees('[aria-label="Yours"]', 'The harbour is all hands that day');
    await yusuf.sees('[aria-label="The team"]', 'Sora Minegishi');
    expect([...sora.troubles, ...aoife.troubles, ...yusuf.troubles]).toEqual([]);
  });

  it('is withdrawn before it begins', async () => {
    await sora.go('/my-time/absences');
    await sora.press('[aria-label="Yours"] button', 'withdraw Annual leave from 2026-11-26');
    await until('withdrawn', async () => (await asked()).state === 'withdrawn');
    expect(await stage.world.knex('time_off').where({ absence_id: (await asked()).id })).toEqual([]);
  });
});
