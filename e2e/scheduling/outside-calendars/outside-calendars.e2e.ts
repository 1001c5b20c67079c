import { startCalendarStandIn } from '../../../packages/standins/src/calendar/calendar-standin';
import { openStage } from '../../browser';

const [stage, deepa] = await openStage(['Deepa Raghunathan', '/my-time']);
const outside = await startCalendarStandIn({
  port: 0,
  first: { deepa: [{ summary: 'Dentist', start: new Date('2026-11-25T14:00:00Z'), end: new Date('2026-11-25T15:00:00Z') }] },
});
stage.onEnd(() => outside.stop());

describe('calendars from elsewhere', () => {
  it('are read in by their address, shown in the own week with their words and to dispatch as busy, and removed', async () => {
    await deepa.press('dl-outside-calendars button', 'Read a calendar in');
    await deepa.press('dl-outside-calendars button', 'Read it in');
    await deepa.sees('dl-outside-calendars', 'write something');
    await deepa.fill('Name', 'private');
    await deepa.fill('Address', `http://127.0.0.1:${outside.port}/deepa.ics`);
    await deepa.press('dl-outside-calendars button', 'Read it in');
    await deepa.sees('dl-outside-calendars', 'Dentist');
    const tomasz = await stage.person();
    await tomasz.enter('Tomasz Wieland', '/dispatch?day=2026-11-25');
    await tomasz.sees('.off', 'busy: private');
    expect(await tomasz.text('main')).not.toContain('Dentist');
    await deepa.press('header a', 'My week');
    await deepa.sees('.block.outside', 'Dentist');
    await deepa.sees('.block.booking', '#');
    expect(await deepa.accessibility()).toEqual([]);
    await deepa.keys('ArrowRight');
    await deepa.sees('h1', '30 November to 6 December');
    await deepa.keys('.');
    await deepa.sees('h1', '23 to 29 November');
    // A booking that dispatch makes comes by itself.
    const script = await stage.world.as('Tomasz');
    const work = (await script.do('listUnbooked', { query: { notHeld: 'yes' } })).work.find((w) => w.status === 'queued' && !w.skill)!;
    const { id: personId } = await stage.world.knex('person').where('name', 'like', 'Deepa%').first('id');
    await script.do('book', { body: { workId: work.workId, personId, startsAt: '2026-11-26T09:00:00Z', minutes: 60 } });
    await deepa.sees('.block.booking', `#${work.number}`);
    outside.switchTo('refuse');
    await deepa.press('header a', 'My day');
    await deepa.press('dl-outside-calendars button', 'read again');
    await deepa.sees('dl-outside-calendars', 'answered 503');
    await deepa.sees('dl-outside-calendars', 'Dentist');
    await deepa.press('dl-outside-calendars button', 'remove');
    await deepa.gone('dl-outside-calendars', 'Dentist');
    await tomasz.gone('.off', 'busy: private');
    expect([...deepa.troubles, ...tomasz.troubles]).toEqual([]);
  });
});
