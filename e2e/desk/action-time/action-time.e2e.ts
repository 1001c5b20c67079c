import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, sora] = await openStage([]);
let t: { id: string; number: number };
beforeAll(async () => {
  t = await stage.world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('umbrella_id')
    .whereNotNull('contact_id')
    .orderBy('number')
    .first('id', 'number');
});

const entries = () =>
  stage.world
    .knex('time_entry as e')
    .join('person as p', 'p.id', 'e.person_id')
    .where('p.name', 'like', 'Sora%')
    .where({ 'e.ticket_id': t.id })
    .whereNull('e.removed_at')
    .orderBy('e.starts_at')
    .select('e.distance', 'e.minutes', 'e.note', 'e.inside_note', 'e.billable', 'e.reason');

describe('what is done carries its time', () => {
  it('is offered by the timer, taken with one press, and recorded with the note in one step', async () => {
    const { world } = stage;
    await (await world.as('Sora')).do('startTimer', { body: { workId: t.id } });
    world.clock.forward(17 * 60);
    await sora.enter('Sora Minegishi', `/tickets/${t.id}`);
    await sora.press('dl-composer button', 'Inside note');
    await sora.fill('Inside note that the client never sees', 'Cable swapped, watching it');
    await sora.press('dl-action-time button', 'take 17 min');
    await until('17 min in it', async () => (await sora.value('How long this took')) === '17 min');
    await sora.press('dl-composer button', 'Keep inside');
    const mine = await until('the entry', async () => (await entries())[0]);
    expect(mine).toMatchObject({ minutes: 17, note: null, inside_note: 'Cable swapped, watching it', billable: true });
    expect((await (await world.as('Sora')).do('listTimers')).timers.filter((m) => m.workId === t.id)).toEqual([]);
  });

  it('is refused where it says nothing people understand, and nothing that was typed is lost', async () => {
    await sora.press('dl-composer button', 'Inside note');
    await sora.fill('Inside note that the client never sees', 'Rang the supplier');
    await sora.fill('How long this took', 'a while');
    await sora.press('dl-composer button', 'Keep inside');
    await sora.sees('dl-action-time [role=alert]', 'a time such as 25');
    expect(await sora.value('Inside note that the client never sees')).toBe('Rang the supplier');
    await sora.fill('How long this took', '10');
    await sora.press('dl-action-time label', 'billable');
    await sora.fill('Why it is not billable', 'our own mistake');
    await sora.fill('How it was done', 'on site');
    await sora.fill('How far, km', '12.5');
    expect(await sora.accessibility()).toEqual([]);
    await sora.press('dl-composer button', 'Keep inside');
    await until('the second entry', async () => (await entries()).length === 2);
    expect((await entries()).find((e) => e.minutes === 10)).toMatchObject({ billable: false, reason: 'our own mistake', distance: '12.5' });
  });

  it('is asked for where Setup says so', async () => {
    const aoife = await stage.person();
    await aoife.enter('Hanna Lindqvist', '/setup/time');
    await aoife.sees('h2', 'What asks for its time');
    expect(await aoife.accessibility()).toEqual([]);
    await aoife.click('[aria-label="A call on incident asks for its time"]');
    await aoife.sees('dl-toast-list', 'Saved');
    await sora.page.reload();
    await sora.page.waitForSelector('dl-composer');
    await sora.keys('c');
    await sora.fill('In one line', 'Told them to restart it');
    await sora.press('dl-record-form button', 'Write it down');
    await sora.sees('dl-toast-list', 'asks for its time');
    await sora.fill('How long this took', '5');
    await sora.press('dl-record-form button', 'Write it down');
    await until('the call', async () => (await entries()).some((e) => e.note === 'Told them to restart it'));
    expect([...aoife.troubles, ...sora.troubles]).toEqual([]);
  });

  it('starts its timer by itself for who prefers that, which moves to another ticket', async () => {
    const other = await stage.world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .whereNot({ id: t.id })
      .orderBy('number', 'desc')
      .first('id', 'number');
    await sora.go('/my-time');
    await sora.press('dl-my-timers label', 'Opening a ticket starts its timer');
    await until('kept', async () => (await stage.world.knex('person').where('name', 'like', 'Sora%').first('timer_on_open')).timer_on_open);
    await sora.go(`/tickets/${t.id}`);
    await sora.sees('dl-top-bar', `#${t.number}`);
    await sora.go('/my-time');
    await sora.sees('dl-my-timers', `#${t.number}`);
    await sora.press('dl-my-timers button', 'Move');
    await sora.fill('Ticket', String(other.number));
    await sora.press('dl-my-timers li button', String(other.number));
    await sora.sees('dl-my-timers .item', `#${other.number}`);
    await sora.gone('dl-my-timers .item', `#${t.number}`);
  });
});
