import { openStage } from '../../browser';

const [stage, leif, aoife] = await openStage(['Leif Sandvik', '/clients'], ['Aoife Brannigan', '/assets']);
afterEach(() => {
  for (const person of [leif, aoife]) expect(person.troubles).toEqual([]);
});

describe('a new client', () => {
  it('is added with wrong input named at its field and nothing typed lost', async () => {
    await leif.press('button', 'Add a client');
    await leif.fill('Name', 'Thornmere Glass');
    await leif.fill('Mail domains', 'not a domain');
    await leif.fill('Street', '4 Kiln Row');
    await leif.press('dl-record-form button', 'Add the client');
    await leif.sees('dl-record-form', 'domains such as hollin.example');
    await leif.sees('dl-record-form', 'write an address');
    // Left and come back to: what was typed is there.
    await leif.go('/catalogue');
    await leif.go('/clients');
    await leif.press('button', 'Add a client');
    expect(await leif.value('Street')).toBe('4 Kiln Row');
    await leif.fill('Mail domains', 'thornmere.example');
    await leif.fill('City', 'Pellworth');
    await leif.fill('Postcode', 'PW2 1KR');
    await leif.fill('Invoices go to', 'accounts@thornmere.example');
    await leif.press('dl-record-form button', 'Add the client');
    await leif.sees('h1', 'Thornmere Glass');
    await leif.sees('dl-story', 'Leif Sandvik added Thornmere Glass');
  });

  it('gets a site and a contact, changed in place', async () => {
    await leif.press('h2 button', 'add one');
    await leif.fill('Name', 'Furnace');
    await leif.fill('Street', '4 Kiln Row');
    await leif.fill('City', 'Pellworth');
    await leif.fill('Postcode', 'PW2 1KR');
    await leif.press('dl-record-form button', 'Add the site');
    await leif.sees('.line', 'Furnace');
    await leif.press('.line button', 'change Furnace');
    await leif.fill('Name', 'Furnace hall');
    await leif.press('dl-record-form button', 'Save');
    await leif.sees('.line', 'Furnace hall');
    await aoife.go(new URL(leif.page.url()).pathname);
    await aoife.press('section:nth-of-type(2) h2 button', 'add one');
    await aoife.fill('Name', 'Mab Quill');
    await aoife.fill('Mail address', 'mab@thornmere.example');
    await aoife.fill('Site', 'Furnace hall');
    await aoife.press('dl-record-form button', 'Add the contact');
    await aoife.sees('.people', 'mab@thornmere.example');
    // The other window shows it by itself.
    await leif.sees('.people', 'Mab Quill');
  });

  it('has its contact put away and brought back with undo', async () => {
    await aoife.press('.people button', 'put away Mab Quill');
    await aoife.gone('.people', 'Mab Quill');
    await aoife.focus('#main');
    await aoife.keys('u');
    await aoife.sees('.people', 'Mab Quill');
  });

  it('gets an asset, whose number is refused where it is taken', async () => {
    await aoife.go('/assets');
    const taken = (await stage.world.knex('asset').first('number')).number as string;
    await aoife.press('button', 'Add an asset');
    await aoife.fill('Number', taken);
    await aoife.fill('Name', 'Kiln control');
    await aoife.fill('Client', 'Thornmere Glass');
    await aoife.fill('Used by', 'Mab Quill');
    await aoife.press('dl-record-form button', 'Add the asset');
    await aoife.sees('dl-record-form .error', 'a number that no other asset has');
    await aoife.fill('Number', 'TG-KLN-001');
    await aoife.press('dl-record-form button', 'Add the asset');
    await aoife.sees('h1', 'TG-KLN-001');
    await aoife.sees('.facts', 'Mab Quill');
  });

  it('shows both where two people change the asset, and takes theirs in one field', async () => {
    const path = new URL(aoife.page.url()).pathname;
    const deepa = await stage.person();
    await deepa.enter('Deepa Raghunathan', path);
    for (const person of [aoife, deepa]) await person.press('header button', 'Change');
    await aoife.fill('Name', 'Kiln control unit');
    await aoife.fill('Make', 'Carrow Mini');
    await aoife.press('dl-record-form button', 'Save');
    await aoife.sees('.page-head', 'Kiln control unit');
    await deepa.fill('Name', 'Kiln computer');
    await deepa.press('dl-record-form button', 'Save');
    await deepa.sees('.clash', 'Somebody changed this meanwhile');
    await deepa.sees('dl-record-form', 'theirs: Kiln control unit');
    await deepa.sees('dl-record-form', 'theirs: Carrow Mini');
    const makes = await deepa.find('.form > div', 'theirs: Carrow Mini');
    await (await makes.$('button'))!.click();
    await deepa.press('.clash button', 'Save mine over theirs');
    await deepa.sees('.page-head', 'Kiln computer');
    await deepa.sees('.page-head', 'Carrow Mini');
    expect(deepa.troubles).toEqual([]);
  });

  it('opens a ticket for a caller by keyboard, from the list of tickets', async () => {
    await aoife.go('/tickets');
    await aoife.page.waitForSelector('[data-row]');
    await aoife.focus('#main');
    await aoife.keys('o');
    await aoife.page.waitForSelector('dl-contact-finder input');
    await aoife.page.keyboard.type('mab thorn');
    await aoife.sees('ngb-typeahead-window', 'Mab Quill');
    await aoife.keys('Enter');
    await aoife.fill('Subject', 'The kiln computer beeps');
    await aoife.press('dl-record-form button', 'Open it');
    await aoife.sees('dl-record-form .error', 'write something');
    await aoife.fill('What they said', 'It beeps twice and shows a red light.');
    await aoife.press('dl-record-form button', 'Open it');
    await aoife.sees('h1', 'The kiln computer beeps');
    await aoife.sees('article', 'It beeps twice');
  });

  it('has a promise and a price of their own, from now on', async () => {
    await aoife.go('/clients');
    await aoife.press('table.rows a', 'Thornmere Glass');
    await aoife.press('dl-client-promise button', 'change');
    await aoife.fill('Their working time', 'Ostrand hours');
    await aoife.press('dl-record-form button', 'Let it hold from now on');
    await aoife.sees('dl-client-promise', 'on Ostrand hours');
    const billing = await stage.person();
    await billing.enter('Ngozi', new URL(await aoife.address()).pathname);
    await billing.press('dl-price-rules button', 'add one');
    await billing.fill('Item', 'Prepare a till');
    await billing.fill('Price of one', 'much');
    await billing.press('dl-record-form button', 'Let it hold');
    await billing.sees('dl-record-form .error', 'a number with up to 4 places');
    await billing.fill('Price of one', '80');
    await billing.sees('dl-price-rules .trial', 'charges of the last 90 days');
    await billing.press('dl-record-form button', 'Let it hold');
    await billing.sees('dl-price-rules', 'Prepare a till: €80.00 without tax');
    await billing.press('dl-price-rules button', 'take away');
    await billing.sees('dl-price-rules', 'They pay what the house says.');
    await billing.press('dl-toast-list button', 'Undo');
    await billing.sees('dl-price-rules', 'Prepare a till: €80.00 without tax');
    expect([...aoife.troubles, ...billing.troubles]).toEqual([]);
  });
});
