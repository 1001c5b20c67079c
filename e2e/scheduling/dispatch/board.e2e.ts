import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, tomasz] = await openStage(['Tomasz Wieland', '/dispatch']);
beforeAll(async () => {
  await tomasz.page.waitForSelector('.gap');
});

const booked = (personName: string) =>
  stage.world
    .knex('booking as b')
    .join('person as p', 'p.id', 'b.person_id')
    .where('p.name', 'like', `${personName}%`)
    .whereIn('b.state', ['planned', 'underway'])
    .where('b.starts_at', '<', '2026-11-25T00:00:00Z')
    .orderBy('b.starts_at')
    .select('b.id', 'b.starts_at', 'b.ends_at');

describe('dispatch', () => {
  it('stretches a booking by its edge', async () => {
    const was = (await booked('Deepa')).at(-1);
    const lane = await tomasz.find('dl-dispatch-lane', 'Deepa Raghunathan');
    await lane.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    const handle = (await lane.$('.booking[title*="14:00 to 15:30"] .edge'))!;
    const box = (await handle.boundingBox())!;
    const track = (await (await lane.$('.track'))!.boundingBox())!;
    const { mouse } = tomasz.page;
    await mouse.move(box.x + 3, box.y + 10);
    await mouse.down();
    await mouse.move(box.x + 3 + track.width / 12 / 2, box.y + 10, { steps: 5 });
    await mouse.up();
    const now = await until('half an hour more', async () =>
      (await booked('Deepa')).find((b) => b.id === was.id && b.ends_at !== was.ends_at),
    );
    expect(now.starts_at).toBe(was.starts_at);
    // It ends on five minutes.
    expect(Math.abs(now.ends_at - was.ends_at - 1800)).toBeLessThanOrEqual(150);
  });

  it('shows a week, some teams and other unbooked work, all kept in the address', async () => {
    await tomasz.keys('Escape');
    await tomasz.press('.spans button', 'Week');
    await tomasz.sees('h1', '23 to');
    await tomasz.page.select('select[aria-label="Which unbooked work"]', 'client');
    await tomasz.page.waitForFunction(() => location.search.includes('only=client') && location.search.includes('days=5'));
    await tomasz.page.waitForFunction(() => [...document.querySelectorAll('.card')].every((c) => c.textContent!.includes('on hold')));
    await tomasz.go('/dispatch');
    await tomasz.page.waitForSelector('.gap');
  });

  it('takes what fits a gap with one key, and shows the lane it speaks of', async () => {
    const before = (await booked('Hanna')).length;
    const lane = await tomasz.find('dl-dispatch-lane', 'Hanna Lindqvist');
    await lane.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    await (await lane.$('.gap'))!.click();
    await tomasz.sees('dl-gap-fits', 'Fits Hanna Lindqvist');
    await tomasz.page.waitForSelector('dl-gap-fits .fit');
    const isCovered = () =>
      lane.evaluate((e) => e.getBoundingClientRect().bottom > document.querySelector('.dock')!.getBoundingClientRect().top + 1);
    await until('the lane in sight', async () => !(await isCovered()));
    await tomasz.press('dl-gap-fits button', 'why');
    await tomasz.sees('.why-pop', 'points');
    // Escape closes what floats, and leaves the list.
    await tomasz.keys('Escape');
    await tomasz.page.waitForFunction(() => !document.querySelector('.why-pop'));
    expect(await tomasz.page.$('dl-gap-fits .fit')).not.toBeNull();
    await tomasz.focus('#main');
    await tomasz.keys('1');
    await tomasz.sees('dl-toast-list', 'booked for Hanna Lindqvist');
    expect((await booked('Hanna')).length).toBe(before + 1);
  });

  it('says who can and when for a piece of work, and books it with one press', async () => {
    await tomasz.click('.card');
    await tomasz.page.waitForSelector('dl-work-fits .fit');
    const label = await tomasz.page.$eval('dl-work-fits .fit button', (b) => b.getAttribute('aria-label')!);
    const before = (await booked('')).length;
    await tomasz.click('dl-work-fits .fit button');
    await until('the booking', async () => (await booked('')).length === before + 1);
    await tomasz.sees('dl-toast-list', `booked for ${/Book (\w+ \w+)/.exec(label)![1]}`);
  });

  it('keeps what was typed and shows nothing that is not stored while the connection is lost, then goes on', async () => {
    const count = async () => Number((await stage.world.knex('booking').count('* as n').first())!['n']);
    await tomasz.page.$$eval('.card', (cards) => (cards.at(-1) as HTMLElement).click());
    await tomasz.page.waitForSelector('dl-book-form');
    await tomasz.fill('Bring', 'the long ladder');
    const before = await count();
    await tomasz.page.setOfflineMode(true);
    await tomasz.press('dl-book-form button', 'Book');
    await tomasz.sees('dl-toast-list', 'cannot be reached');
    expect([await tomasz.value('Bring'), await count()]).toEqual(['the long ladder', before]);
    await tomasz.page.setOfflineMode(false);
    await tomasz.press('dl-book-form button', 'Book');
    await until('the booking', async () => (await count()) === before + 1);
    // Somebody else's change comes in by itself, without a reload.
    const script = await stage.world.as('Aoife');
    const lane = (await script.do('getDispatch')).lanes.find((l) => l.name.startsWith('Sora'))!;
    const b = lane.bookings.find((x) => x.state === 'planned')!;
    const body = { personId: lane.personId, startsAt: '2026-11-24T17:00:00Z', minutes: 15 };
    await script.do('moveBooking', { params: { bookingId: b.id }, version: b.version, body });
    await tomasz.find('.booking', '17:00 to 17:15');
  });

  it('notes an ill technician where the lane is, and repairs the day with as few moves as can be', async () => {
    const theirs = (await booked('Ines')).filter((b) => b.starts_at > stage.world.clock.now()).map((b) => b.id);
    expect(theirs.length).toBeGreaterThan(0);
    await tomasz.go('/dispatch');
    const lane = await tomasz.find('dl-dispatch-lane', 'Ines Valadares');
    await (await lane.$('.who'))!.click();
    await tomasz.press('.dropdown-menu button', 'Ill: away');
    await tomasz.sees('dl-toast-list', 'away for the rest of the day');
    await tomasz.press('button', 'Repair');
    await tomasz.page.waitForSelector('dl-plan-panel .change', { timeout: 20_000 });
    const how = await tomasz.page.$$eval('dl-plan-panel .how', (all) => all.map((e) => e.textContent!.trim()));
    expect(how).not.toContain('new');
    const said = await tomasz.page.$eval('dl-plan-panel', (e) => (e as HTMLElement).innerText);
    await tomasz.press('dl-plan-panel button', 'Accept all');
    await tomasz.sees('dl-toast-list', 'changes made');
    // What is still theirs is what the plan said it finds no place for.
    const left = (await booked('Ines')).map((b) => b.id).filter((id) => theirs.includes(id));
    expect(left.length).toBeLessThan(theirs.length);
    const numbers = await stage.world
      .knex('booking as b')
      .join('ticket as t', 't.id', 'b.ticket_id')
      .whereIn('b.id', left)
      .pluck('t.number');
    for (const number of numbers) expect(said.split('No place:')[1]).toContain(`#${number}`);
  });

  it('makes room for what is pressing by moving as little as possible', async () => {
    await tomasz.go('/dispatch');
    await tomasz.page.waitForSelector('.card');
    const number = /#(\d+)/.exec(await tomasz.text('.card'))![1]!;
    await tomasz.press('.card', `#${number}`);
    await tomasz.press('dl-book-form button', 'make room for it');
    await tomasz.sees('dl-plan-panel', `#${number}`);
    const how = await tomasz.page.$$eval('dl-plan-panel .change .how', (all) => all.map((e) => e.textContent!.trim()));
    expect(how.filter((h) => h === 'new').length).toBeLessThanOrEqual(1);
    await tomasz.press('dl-plan-panel button', 'Close');
  });

  it('proposes a plan, changes nothing until it is accepted, and makes what is chosen', async () => {
    const count = async () => Number((await stage.world.knex('booking').where({ state: 'planned' }).count('* as n').first())!['n']);
    const before = await count();
    await tomasz.press('button', 'Plan the day');
    await tomasz.page.waitForSelector('dl-plan-panel .change', { timeout: 20_000 });
    expect(await count()).toBe(before);
    const fresh = await tomasz.page.$$eval('dl-plan-panel .change .how', (all) => all.filter((e) => e.textContent === 'new').length);
    await tomasz.press('dl-plan-panel button', 'Accept all');
    await until('the bookings of the plan', async () => (await count()) === before + fresh);
  });

  it('shows the second of two dispatchers what the first did, and lets them choose', async () => {
    const aoife = await stage.person();
    await aoife.enter('Aoife Brannigan', '/dispatch');
    await aoife.page.waitForSelector('.booking.planned');
    const [booking] = await booked('Marisol');
    const script = await stage.world.as('Tomasz');
    const lane = (await script.do('getDispatch')).lanes.find((l) => l.name.startsWith('Marisol'))!;
    const mine =
      lane.bookings.find((b) => b.id === booking.id && b.state === 'planned') ?? lane.bookings.find((b) => b.state === 'planned')!;
    await until('the form of this very booking', async () => {
      await aoife.click(`[data-booking="${mine.id}"]`);
      return (await aoife.page.$('dl-book-form')) !== null;
    });
    await script.do('moveBooking', {
      params: { bookingId: mine.id },
      version: mine.version,
      body: { personId: mine.personId, startsAt: '2026-11-24T16:45:00Z', minutes: 30 },
    });
    await aoife.moment('From', '2026-11-24T15:00');
    await aoife.press('dl-book-form button', 'Save');
    await aoife.sees('.meanwhile', '16:45');
    await aoife.sees('.meanwhile', '15:00');
    await aoife.press('.meanwhile button', 'Make mine after all');
    await until('hers', async () =>
      (await booked('Marisol')).find((b) => b.id === mine.id && b.starts_at === Date.parse('2026-11-24T15:00:00Z') / 1000),
    );
    expect([...tomasz.troubles, ...aoife.troubles].filter((t) => !/412/.test(t))).toEqual([]);
  });
});
