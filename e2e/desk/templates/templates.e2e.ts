import { openStage } from '../../browser';

const [stage, aoife] = await openStage(['Aoife Brannigan', '/setup/templates']);

describe('templates and routine work', () => {
  it('are written once: a template is opened for a caller found while typing, past intake, with its checklist', async () => {
    await aoife.press('dl-setup-list button', 'Add a template');
    await aoife.fill('Name', 'Loose lid');
    await aoife.fill('Subject', 'The lid is loose');
    await aoife.fill('What it says', 'Tighten it.');
    for (const [label, words] of [
      ['Kind', 'incident'],
      ['Category', 'Computers and screens'],
      ['Impact', 'one'],
      ['Urgency', 'can wait'],
      ['Desk', 'Support'],
      ['Line', 'first'],
    ] as const)
      await aoife.fill(label, words);
    await aoife.fill('Checklist', 'Screwdriver\nScrew');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-setup-list .line', 'opens routed, incident; checklist of 2');
    await aoife.go('/tickets');
    await aoife.page.waitForSelector('table.rows');
    await aoife.keys('o');
    await aoife.page.waitForSelector('dl-contact-finder input');
    await aoife.page.keyboard.type('devane hol');
    await aoife.sees('ngb-typeahead-window', 'Orla Devane');
    await aoife.keys('Enter');
    await aoife.fill('Template', 'Loose lid');
    expect(await aoife.value('Subject')).toBe('The lid is loose');
    await aoife.press('dl-record-form button', 'Open it');
    await aoife.sees('h1', 'The lid is loose');
    await aoife.sees('header .tag', 'queued');
    await aoife.sees('dl-checklist', 'Screwdriver');
    await aoife.sees('aside', 'Hollin Veterinary Group');
    await aoife.fill('Put a checklist on it', 'Somebody new');
    await aoife.sees('dl-checklist', 'Prepare the computer');
  });

  it('turn up by a rule, which is refused by the hour', async () => {
    await aoife.go('/setup/templates');
    await aoife.press('dl-setup-list button', 'Add routine work');
    await aoife.fill('Name', 'Lids every Monday');
    await aoife.fill('Opens', 'Loose lid');
    await aoife.fill('Who it is for', 'devane');
    await aoife.sees('ngb-typeahead-window', 'Orla Devane');
    await aoife.keys('Enter');
    await aoife.fill('Rule', 'FREQ=HOURLY');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-record-form .error', 'FREQ=WEEKLY;BYDAY=MO');
    await aoife.fill('How often', 'every Monday');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-setup-list .line', 'every week on Monday at 08:30; next');
    expect(aoife.troubles).toEqual([]);
  });

  it('ask clients outside by a form, and what they send lands in intake with its fields', async () => {
    const client = await stage.person();
    await client.go('/request/somebody-new');
    await client.sees('h1', 'Somebody new starts with us');
    await client.fill('Your name', 'Orla Devane');
    await client.fill('Your mail address', 'orla.devane@hollin.example');
    await client.fill('What is it about?', 'A new nurse');
    await client.press('button', 'Send it');
    await client.sees('.wrong', 'write something');
    await client.page.$eval('input[type=date]', (e) => (e.value = '2026-12-01'));
    await client.fill('What do you need?', 'An account and a tablet.');
    await client.press('button', 'Send it');
    await client.sees('h1', 'Thank you, it has arrived');
    await aoife.go('/intake');
    await aoife.press('.list .row', 'A new nurse');
    await aoife.sees('.subject', 'A new nurse');
    await aoife.sees('.paper', 'An account and a tablet.');
    await aoife.sees('dl-intake-fields', 'First day');
    expect(await aoife.value('First day')).toBe('1 Dec 2026');
    await aoife.keys('6', 's');
    await aoife.sees('dl-toast-list', 'routed to Support');
  });
});

describe('calendars', () => {
  it('take the holidays of a country, and hold from now on; hours that are none are named', async () => {
    await aoife.go('/setup/calendars');
    await aoife.press('section.calendar button', 'change Pellworth hours');
    await aoife.press('dl-holiday-finder button', 'public holidays');
    await aoife.sees('dl-toast-list', 'dates are put in');
    await aoife.fill('Friday', '8 to 4');
    await aoife.press('form button', 'Let it hold from now on');
    await aoife.sees('form', 'day 5: not hours within one date: "8 to 4"');
    // Left and opened again, what was typed is there.
    await aoife.go('/setup');
    await aoife.go('/setup/calendars');
    await aoife.press('section.calendar button', 'change Pellworth hours');
    expect(await aoife.value('Friday')).toBe('8 to 4');
    await aoife.fill('Friday', '08:00-16:00');
    await aoife.press('form button', 'Let it hold from now on');
    await aoife.sees('section.calendar', 'Fri 08:00-16:00');
    const kept = await stage.world.knex('calendar_version').first('written');
    expect(kept.written.week[4]).toEqual(['08:00-18:00']);
  });
});

describe('the usage report', () => {
  it('stands at the client, for a span in the address, and as files', async () => {
    await aoife.go('/clients');
    await aoife.press('table.rows a', 'Hollin Veterinary Group');
    await aoife.press('a', 'Usage report');
    await aoife.sees('h1', 'Usage report of Hollin Veterinary Group');
    await aoife.sees('.sum', 'before tax');
    await aoife.press('button', 'last month');
    await aoife.page.waitForFunction(() => location.search.includes('from=2026-10-01'));
    const files = await aoife.page.evaluate(async () =>
      Promise.all(
        [...document.querySelectorAll<HTMLAnchorElement>('a[download]')].map(async (a) =>
          (await fetch(a.href)).headers.get('content-type'),
        ),
      ),
    );
    expect(files).toEqual(['application/pdf', expect.stringContaining('text/csv')]);
  });
});

describe('a template that routes', () => {
  it('asks the one who opens its ticket for what routing asks for, and names it where it is missing', async () => {
    await aoife.go('/setup/tickets');
    await aoife.press('dl-setup-list button', 'Add a field');
    await aoife.fill('Name', 'Which room');
    await aoife.fill('Required', 'always');
    await aoife.press('dl-record-form label', 'opening');
    await aoife.press('dl-record-form button', 'Add it');
    await aoife.sees('dl-setup-list .line', 'required always, at opening');
    await aoife.go('/tickets');
    await aoife.page.waitForSelector('table.rows');
    await aoife.keys('o');
    await aoife.page.waitForSelector('dl-contact-finder input');
    await aoife.page.keyboard.type('devane');
    await aoife.sees('ngb-typeahead-window', 'Orla Devane');
    await aoife.keys('Enter');
    await aoife.fill('Template', 'Loose lid');
    await aoife.press('dl-record-form button', 'Open it');
    await aoife.sees('dl-record-form .error', 'fill this');
    await aoife.fill('Which room', 'The blue one');
    await aoife.press('dl-record-form button', 'Open it');
    await aoife.sees('h1', 'The lid is loose');
    await aoife.sees('dl-ticket-fields', 'The blue one');
    expect(aoife.troubles).toEqual([]);
  });
});
