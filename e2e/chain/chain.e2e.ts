import { openStage, type Person } from '../browser';
import { until } from '../../packages/server/testing/test-server';

const [stage] = await openStage();

const SUBJECT = 'Door card says no';

/** Writes a mail on the stand-in's page, as a client would in their own program. */
async function writeMail({
  client,
  from,
  subject,
  text,
}: {
  readonly client: Person;
  readonly from: string;
  readonly subject: string;
  readonly text: string;
}): Promise<void> {
  await client.page.goto(`http://127.0.0.1:${stage.world.mail.httpPort}/write`);
  await client.page.type('#from', from);
  await client.page.type('#subject', subject);
  await client.page.type('#text', text);
  await Promise.all([client.page.waitForNavigation(), client.click('button')]);
}

describe('a mail becomes a line on a paid invoice', () => {
  let client: Person;
  let manager: Person;
  let technician: Person;
  let ticketPath: string;

  beforeAll(async () => {
    client = await stage.person();
    manager = await stage.person();
    technician = await stage.person();
  });
  afterEach(() => {
    for (const person of [client, manager, technician]) expect(person.troubles).toEqual([]);
  });

  it('comes up in intake by itself, and two presses route it', async () => {
    await manager.enter('Aoife Brannigan', '/intake');
    await manager.sees('.list header', '7 unsorted');
    await writeMail({
      client,
      from: 'orla.devane@hollin.example',
      subject: SUBJECT,
      text: 'My card opens nothing: the reader at the door of Northgate blinks red and refuses every card since nine.\n\nOrla',
    });
    await manager.sees('.list', SUBJECT);
    await manager.press('.row', SUBJECT);
    await manager.sees('.message', 'refuses every card');
    await manager.sees('.pad', 'P2');
    await manager.focus('#main');
    await manager.keys('4', 's');
    await manager.sees('dl-toast-list', 'routed to Support');
    await manager.gone('.list', SUBJECT);
  });

  it('can be taken back with one key and routed again', async () => {
    await manager.keys('u');
    await manager.sees('.list', SUBJECT);
    await manager.sees('.subject', SUBJECT);
    await manager.keys('4', 's');
    await manager.gone('.list', SUBJECT);
  });

  it('explains its promise', async () => {
    const t = await stage.world.knex('ticket').where({ subject: SUBJECT }).first('id');
    ticketPath = `/tickets/${t.id}`;
    await manager.go(ticketPath);
    await manager.sees('aside', 'Resolution');
    await manager.press('aside .clock button', 'Why: Resolution');
    await manager.sees('.why-pop', 'promise Standard, version 1');
    await manager.sees('.why-pop', 'due: the earliest instant with the target worked');
    await manager.keys('Escape');
  });

  it('is answered by mail that the client reads and answers, and the answer joins', async () => {
    await technician.enter('Deepa Raghunathan', ticketPath);
    await technician.sees('dl-composer', 'The client will see this');
    await technician.fill('Reply that the client will see', 'Hello Orla, please try the second reader while I look.');
    await technician.press('dl-composer button', 'Send to client');
    await technician.sees('article.ours', 'second reader');
    await until('the mail in the mailbox', async () =>
      (await (await fetch(`http://127.0.0.1:${stage.world.mail.httpPort}/mails.json`)).text()).includes('second reader'),
    );
    await client.page.goto(`http://127.0.0.1:${stage.world.mail.httpPort}/`);
    await client.press('a', `Re: ${SUBJECT}`);
    await client.press('a', 'Answer');
    await client.page.waitForSelector('#text');
    await client.page.type('#text', 'The second one works, thank you. Shall I keep the first?');
    await Promise.all([client.page.waitForNavigation(), client.click('button')]);
    await technician.sees('article.client.owed', 'The second one works');
    await technician.sees('header', 'Reply owed');
  });

  it('tells an inside note from a reply by words, look and button', async () => {
    await technician.press('[role=tab]', 'Inside note');
    await technician.sees('.composer.note', 'The client never sees this');
    await technician.fill('Inside note that the client never sees', 'Reader firmware is old.');
    await technician.press('dl-composer button', 'Keep inside');
    await technician.sees('article.inside', 'Reader firmware is old.');
    const mails = await (await fetch(`http://127.0.0.1:${stage.world.mail.httpPort}/mails.json`)).text();
    expect(mails).not.toContain('firmware');
  });

  it('is dragged on a lane, with what would come of it shown before the drop', async () => {
    await manager.go('/dispatch');
    const card = await manager.find('.card', SUBJECT);
    await card.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    const lane = await manager.find('.lane', 'Odalys Figueroa');
    const from = (await card.boundingBox())!;
    const to = (await (await lane.$('.track'))!.boundingBox())!;
    const { mouse } = manager.page;
    await mouse.move(from.x + 40, from.y + 20);
    await mouse.down();
    await mouse.move(from.x + 80, from.y + 30, { steps: 4 });
    // Three o'clock in the afternoon, on lanes from seven to seven.
    await mouse.move(to.x + (to.width * 8) / 12, to.y + 20, { steps: 12 });
    await manager.sees('.ghost', '15:00 to 1');
    await mouse.up();
    await manager.sees('dl-toast-list', 'booked for Odalys Figueroa');
    const booking = await until('the booking', async () =>
      stage.world
        .knex('booking as b')
        .join('ticket as t', 't.id', 'b.ticket_id')
        .where('t.subject', SUBJECT)
        .first('b.starts_at', 't.status'),
    );
    expect([new Date(booking.starts_at * 1000).toISOString(), booking.status]).toEqual(['2026-11-24T15:00:00.000Z', 'booked']);
    await technician.sees('aside', 'Odalys Figueroa');
  });

  it('is timed through a reload and on another device, and says what the time comes to', async () => {
    await technician.press('aside button', 'Start timer');
    await technician.sees('dl-top-bar .timer', SUBJECT);
    await technician.page.reload({ waitUntil: 'load' });
    await technician.sees('dl-top-bar .timer', SUBJECT);
    const phone = await stage.person();
    await phone.enter('Deepa Raghunathan', '/my-time');
    await phone.sees('.timer', SUBJECT);
    stage.world.clock.forward(25 * 60);
    await phone.press('.timer button', 'pause');
    await technician.gone('dl-top-bar', 'pause');
    await technician.sees('aside', 'Log time');
    await technician.press('aside button', 'Log time');
    await technician.page.waitForFunction(() => document.querySelector<HTMLInputElement>('dl-log-time input')?.value === '25');
    await technician.fill('Note', 'Reader swapped, firmware updated');
    await technician.sees('dl-log-time .effect', '€43.33 to the client');
    await technician.press('dl-log-time button', 'Record');
    await technician.sees('aside .entry', '25 min remote');
  });

  it('refuses wrong input by the field, and keeps what was typed', async () => {
    await technician.press('aside button', 'Log time');
    await technician.fill('How long', 'a while');
    await technician.press('dl-log-time button', 'Record');
    await technician.sees('dl-log-time .error', 'a time such as 25, 1:30, 1.5 or 1 h 40');
    expect(await technician.page.$eval('dl-log-time input', (e) => e.value)).toBe('a while');
    await technician.press('dl-log-time button', 'Leave it');
  });

  it('is approved, issued, mailed, booked, and shows as paid', async () => {
    const billing = await stage.person();
    await billing.enter('Ngozi Adeyemi-Clarke', '/charges');
    const charge = await billing.find('.charge', 'Reader swapped, firmware updated');
    await charge.focus();
    await billing.keys('a');
    await billing.sees('dl-toast-list', '1 approved');
    await billing.press('a', 'Billing');
    await billing.press('.fold', 'Hollin Veterinary Group');
    await billing.sees('section.panel', 'Reader swapped');
    const section = await billing.find('section.panel', 'Hollin Veterinary Group');
    await (await section.$('.btn-main'))!.click();
    await billing.sees('.paper', 'Reader swapped, firmware updated');
    const number = await billing.text('header h1');
    expect(number).toMatch(/^PH-\d{5}$/);
    await billing.sees('aside', 'accounts@hollin.example');
    await billing.sees('aside', 'booked in the ledger');
    const ledger = await stage.person();
    await ledger.page.goto(`http://127.0.0.1:${stage.world.ledger.port}/`);
    await Promise.all([ledger.page.waitForNavigation(), ledger.press('tr button', 'Mark paid')]);
    await billing.sees('header .tag', 'paid');
    const { number: ticketNumber } = await stage.world.knex('ticket').where({ subject: SUBJECT }).first('number');
    await billing.press('.paper a', `#${ticketNumber}`);
    await billing.sees('h1', SUBJECT);
    expect(billing.troubles).toEqual([]);
  });
});
