import { openStage, type Person } from '../browser';

const [stage] = await openStage();

const firstId = async (table: string) => (await stage.world.knex(table).first('id')).id as string;

describe('every screen', () => {
  let person: Person;
  beforeAll(async () => {
    person = await stage.person();
    await person.enter('Hanna Lindqvist', '/tickets');
  });

  const pages: [string, () => Promise<string>, string][] = [
    ['intake', async () => '/intake', '.pad .cell'],
    ['tickets', async () => '/tickets', 'table.rows'],
    ['ticket', async () => `/tickets/${(await stage.world.knex('ticket').where({ status: 'queued' }).first('id')).id}`, 'dl-composer'],
    ['dispatch', async () => '/dispatch', '.lane'],
    ['my time', async () => '/my-time', '.strip'],
    ['clients', async () => '/clients', 'table.rows'],
    ['client', async () => `/clients/${await firstId('client')}`, '.people'],
    ['assets', async () => '/assets', 'table.rows'],
    ['asset', async () => `/assets/${await firstId('asset')}`, '.facts'],
    ['catalogue', async () => '/catalogue', 'table.rows'],
    ['catalogue item', async () => `/catalogue/${await firstId('catalogue_item')}`, '.facts'],
    ['charges', async () => '/charges', '.charge'],
    ['billing', async () => '/billing', 'h1'],
    ['setup', async () => '/setup', 'section'],
    ['promises', async () => '/setup/promises', 'dl-try-out .clock'],
    ['desks and categories', async () => '/setup/routing', 'table.rows'],
    ['on call', async () => '/setup/on-call', 'section p'],
    ['what tickets are asked for', async () => '/setup/tickets', 'dl-setup-list .line'],
    ['templates', async () => '/setup/templates', 'dl-setup-list .line'],
    ['people', async () => '/setup/people', 'section.person'],
    ['calendars', async () => '/setup/calendars', 'section.calendar'],
    ['columns by status', async () => '/tickets?as=columns', 'dl-status-columns article'],
    ['usage report', async () => `/clients/${await firstId('client')}/usage`, 'table.rows'],
    ['flat fees', async () => '/setup/flat-fees', 'table.rows'],
    [
      'umbrella',
      async () => `/tickets/${(await stage.world.knex('ticket').where({ is_umbrella: true }).first('id')).id}`,
      'dl-member-update',
    ],
    ['ways between places', async () => '/dispatch/ways', 'h1'],
    ['plan and fact', async () => '/dispatch/plan-and-fact', 'h1'],
    ['week sheet', async () => '/my-time/sheet', 'h1'],
    ['my week', async () => '/my-time/week', 'h1'],
    ['time of the team', async () => '/my-time/team', 'h1'],
    ['expenses', async () => '/my-time/expenses', 'h1'],
    ['reimbursements', async () => '/reimbursements', 'h1'],
    ['absences', async () => '/my-time/absences', 'h1'],
    ['recorded time', async () => '/my-time/hours', 'h1'],
    ['mail', async () => '/setup/mail', 'h1'],
    ['access', async () => '/setup/access', 'h1'],
    ['time rules', async () => '/setup/time', 'h1'],
    ['my account', async () => '/account', 'h1'],
    ['enter', async () => '/enter', '.people'],
  ];

  it.each(pages)(
    '%s has nothing that axe finds wrong, in light and in dark, and spills over no edge of a phone or a screen',
    async (_name, path, ready) => {
      await person.go(await path());
      await person.page.waitForSelector(ready);
      for (const theme of ['light', 'dark']) {
        await person.page.evaluate((t) => (document.documentElement.dataset['theme'] = t), theme);
        expect([theme, await person.accessibility()]).toEqual([theme, []]);
      }
      for (const width of [390, 1024, 1920, 1280]) {
        await person.page.setViewport({ width, height: 800 });
        const over = await person.page.evaluate(() => [
          document.documentElement.scrollWidth - document.documentElement.clientWidth,
          document.documentElement.scrollHeight - document.documentElement.clientHeight,
        ]);
        expect([width, over]).toEqual([width, [0, 0]]);
      }
      expect(person.troubles).toEqual([]);
    },
  );
});

describe('by keyboard', () => {
  it('finds a ticket by its number and opens it, and shows its keys', async () => {
    const person = await stage.person();
    await person.enter('Aoife Brannigan', '/clients');
    const t = await stage.world.knex('ticket').where({ status: 'queued' }).first('number', 'subject');
    await person.focus('#main');
    await person.keys('/');
    await person.page.keyboard.type(String(t.number));
    await person.sees('#found', t.subject);
    await person.keys('Enter');
    await person.sees('h1', t.subject);
    await person.focus('#main');
    await person.page.keyboard.type('?');
    await person.sees('.modal', 'reply to the client');
    await person.keys('Escape');
    await person.page.waitForSelector('.modal', { hidden: true });
  });

  it('books unbooked work without the mouse, moves it, cancels it, and undoes that', async () => {
    const person = await stage.person();
    await person.enter('Tomasz Wieland', '/dispatch');
    await person.page.waitForSelector('.card');
    await person.focus('.card');
    const subject = await person.text('.card .subject');
    await person.keys('Enter');
    await person.fill('Technician', 'Odalys Figueroa');
    await person.moment('From', '2026-11-24T16:30');
    await person.fill('For', '30 min');
    await person.keys('Enter');
    await person.sees('dl-toast-list', 'booked for Odalys Figueroa');
    const booking = await person.find('.booking', '16:30 to 17:00');
    expect(await booking.evaluate((e) => e.innerText)).toContain(subject);
    await booking.focus();
    await person.keys('Enter');
    await person.moment('From', '2026-11-24T16:00');
    await person.focus('dl-book-form .btn-main');
    await person.keys('Enter');
    await (await person.find('.booking', '16:00 to 16:30')).focus();
    await person.keys('Enter');
    await person.press('dl-book-form button', 'Cancel it');
    await person.fill('Why', 'The client is away');
    await person.press('dl-book-form button', 'Cancel the booking');
    await person.sees('dl-toast-list', 'cancelled');
    await person.focus('#main');
    await person.keys('u');
    await person.find('.booking', '16:00 to 16:30');
  });

  it('works through intake without the mouse', async () => {
    const person = await stage.person();
    await person.enter('Aoife Brannigan', '/intake');
    await person.sees('.list header', '7 unsorted');
    await person.focus('#main');
    for (let left = 7; left > 0; left--) {
      await person.sees('.list header', `${left} unsorted`);
      const at = await person.page.waitForSelector('.row.at');
      const subject = await at!.evaluate((e) => (e as HTMLElement).innerText.split('\n').at(-1)!);
      await person.sees('.subject', subject.trim());
      if (subject.includes('hall tablet')) {
        // From an address nobody knows: the client is proposed by its domain.
        await person.page.waitForSelector('dl-thoughts p');
        await person.keys('c');
      }
      await person.keys('5', 't');
      // Where like tickets say nothing, the category is chosen in its list.
      const about = () => person.page.$eval('.about select', (s) => (s as HTMLSelectElement).value);
      await person.page.waitForFunction(() => !document.querySelector('dl-state-note'));
      if (!(await about())) {
        await person.focus('.about select');
        await person.keys('ArrowDown');
        await person.focus('#main');
      }
      await person.keys('s');
      await person.sees('dl-toast-list', 'routed to Support');
      await person.gone('.list', subject.trim());
    }
    await person.sees('dl-empty-note', 'Nothing lies unsorted');
  });
});
