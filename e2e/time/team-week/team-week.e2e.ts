import { openStage } from '../../browser';

const [stage, aoife] = await openStage([]);

describe('the time of the team', () => {
  it('shows a manager who is not complete, and follows what people declare by itself', async () => {
    await aoife.enter('Aoife Brannigan', '/my-time');
    await aoife.press('header a', 'Time of the team');
    await aoife.sees('.page-body', 'are not complete');
    await aoife.sees('.page-body p', 'Deepa Raghunathan');
    expect(await aoife.accessibility()).toEqual([]);
    const deepa = await stage.world.as('Deepa');
    await deepa.do('declareComplete', { body: { upTo: '2026-11-23' } });
    await aoife.gone('.page-body p', 'Deepa Raghunathan');
    await aoife.sees('table.rows', 'Mon 23');
    expect(aoife.troubles).toEqual([]);
  });
});
