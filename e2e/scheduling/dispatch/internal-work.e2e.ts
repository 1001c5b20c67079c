import { openStage } from '../../browser';

const [stage, tomasz, sora] = await openStage([], []);

describe('internal work', () => {
  it('is booked from dispatch, begun and recorded by its technician, and charged to nobody', async () => {
    await tomasz.enter('Tomasz Wieland', '/dispatch');
    await tomasz.press('button', 'Book internal work, or any ticket');
    await tomasz.press('dl-other-work button', 'Training');
    await tomasz.sees('dl-book-form .head', 'Training');
    await tomasz.fill('Technician', 'Sora Minegishi');
    await tomasz.fill('For', '45');
    await tomasz.press('dl-book-form button', 'Book');
    await tomasz.sees('.booking', 'Training');
    await sora.enter('Sora Minegishi', '/my-time');
    await sora.sees('.item', 'Training');
    await sora.press('.item:has(dl-work-link) button', 'Start');
    await sora.sees('dl-top-bar', 'Training');
    stage.world.clock.forward(1500);
    await sora.go('/my-time');
    await sora.press('.item button', 'Done');
    await sora.press('.finish button', 'It is done');
    await sora.sees('dl-recorded-entries .item', 'Training');
    await sora.sees('dl-recorded-entries .item', 'internal, no charge');
    const entry = await stage.world
      .knex('time_entry as e')
      .join('internal_work as i', 'i.id', 'e.work_id')
      .where({ 'i.name': 'Training', 'e.minutes': 25 })
      .first('e.id');
    expect(await stage.world.knex('charge').where({ time_entry_id: entry.id })).toEqual([]);
    expect([...tomasz.troubles, ...sora.troubles]).toEqual([]);
  });
});
