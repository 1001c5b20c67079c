import { deliveryReport } from '../../../packages/server/testing/delivery-report';
import { postMail, until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, aoife] = await openStage([]);

const send = (mail: object) =>
  postMail(stage.world.running.smtpPort, { from: 'Orla Devane <orla.devane@hollin.example>', to: 'desk@pellworth.example', ...mail });
describe('mail that opens no ticket', () => {
  it('is put aside by a rule of the house, seen in Setup by everybody who keeps it, and made a ticket with one press', async () => {
    await aoife.enter('Aoife Brannigan', '/setup/mail');
    await aoife.press('button', 'Add a rule');
    await aoife.fill('Name', 'Backups that went well');
    await aoife.press('dl-record-form button', 'Add');
    await aoife.sees('dl-record-form', 'say what it looks for');
    await aoife.fill('Subject holds', 'backup*succeeded');
    await aoife.fill('Then', 'put it aside');
    await aoife.fill('Why it is put aside', 'nothing to do');
    await aoife.press('dl-record-form button', 'Add');
    await aoife.sees('dl-setup-list', 'Backups that went well');
    await aoife.sees('dl-setup-list', 'about backup*succeeded: put aside, nothing to do');
    await send({ subject: 'Nightly backup of till 4 succeeded', text: 'All went well.' });
    await aoife.sees('dl-aside-list', 'Nightly backup of till 4 succeeded');
    await aoife.sees('dl-aside-list', 'Backups that went well: nothing to do');
    await aoife.sees('dl-rail .foot', '1');
    expect(await aoife.accessibility()).toEqual([]);
    await aoife.press('dl-aside-list button', 'Make a ticket');
    await aoife.sees('dl-aside-list', 'Nothing waits');
    await aoife.press('dl-aside-list button', 'show what was looked at too');
    await aoife.press('dl-aside-list a', 'ticket #');
    await aoife.sees('.talk', 'All went well.');
  });

  it('is tried on the latest mail before it is kept, names an asset of its client, and is asked in the order that is set', async () => {
    const client = await stage.world
      .knex('asset as a')
      .join('client as c', 'c.id', 'a.client_id')
      .whereNull('a.archived_at')
      .first('c.name as client', 'a.name as asset');
    await aoife.go('/setup/mail');
    await aoife.press('button', 'Add a rule');
    await aoife.fill('Name', 'Reports of the till');
    await aoife.fill('Subject holds', 'backup of till');
    await aoife.press('button', 'Try it on the latest mail');
    await aoife.sees('.try', 'It would have taken 1 of the latest');
    await aoife.sees('.try', 'orla.devane@hollin.example: Nightly backup of till 4 succeeded');
    await aoife.fill('Client', client.client);
    await aoife.fill('Asset', client.asset);
    await aoife.press('dl-record-form button', 'Add');
    await until('it is stored', () =>
      stage.world.knex('mail_rule').where({ name: 'Reports of the till' }).whereNotNull('asset_id').first('id'),
    );
    await aoife.press('dl-setup-list button', 'earlier Reports of the till');
    await until('it is asked first', async () => {
      const first = await stage.world.knex('mail_rule').whereNull('archived_at').orderBy('position').first('name');
      return first.name === 'Reports of the till';
    });
    await send({ subject: 'Nightly backup of till 9 succeeded', text: 'All went well.' });
    await until('a ticket of that asset was made of it', () =>
      stage.world
        .knex('ticket as t')
        .join('asset as a', 'a.id', 't.asset_id')
        .where({ 't.subject': 'Nightly backup of till 9 succeeded', 'a.name': client.asset })
        .first('t.id'),
    );
    expect(aoife.troubles).toEqual([]);
  });

  it('that two change at once shows both, and who came later chooses', async () => {
    const other = await stage.person();
    await other.enter('Aoife Brannigan', '/setup/mail');
    await aoife.go('/setup/mail');
    for (const each of [aoife, other]) await each.press('dl-setup-list button', 'change Reports of the till');
    await aoife.fill('Name', 'Reports of all tills');
    await aoife.press('dl-record-form button', 'Save');
    await aoife.sees('dl-setup-list', 'Reports of all tills');
    await other.fill('Subject holds', 'report of till');
    await other.press('dl-record-form button', 'Save');
    await other.sees('dl-record-form', 'Reports of all tills');
    await other.press('dl-record-form button', 'Save mine over theirs');
    await until('the later one chose theirs', () =>
      stage.world.knex('mail_rule').where({ name: 'Reports of the till', subject: 'report of till' }).first('id'),
    );
    expect(other.troubles).toEqual([]);
  });

  it('says on the ticket what did not arrive and why, and that somebody is away', async () => {
    const ticket = await stage.world
      .knex('ticket as t')
      .join('contact as k', 'k.id', 't.contact_id')
      .where({ 't.status': 'queued' })
      .whereNull('t.umbrella_id')
      .first('t.id', 't.number', 't.secret', 'k.email');
    await aoife.go(`/tickets/${ticket.id}`);
    await aoife.page.waitForSelector('dl-composer textarea');
    await aoife.page.type('dl-composer textarea', 'Is Monday good?');
    await aoife.press('dl-composer button', 'Send');
    const left = await until('it has left', () =>
      stage.world.knex('message').where({ ticket_id: ticket.id, text: 'Is Monday good?' }).whereNotNull('left_at').first('message_id'),
    );
    await postMail(stage.world.running.smtpPort, {
      raw: deliveryReport({
        id: '<report@mx.example>',
        address: ticket.email,
        action: 'failed',
        status: '5.1.1',
        original: left.message_id,
      }),
      envelope: { from: '', to: 'desk@pellworth.example' },
    });
    await aoife.sees('.talk article.ours', `Not delivered to ${ticket.email}: there is no such mailbox (5.1.1).`);
    await aoife.sees('dl-ticket-next', `Mail to ${ticket.email} did not arrive`);
    await postMail(stage.world.running.smtpPort, {
      from: ticket.email,
      to: 'desk@pellworth.example',
      subject: `Automatic reply: Re: x (ref ${ticket.number}-${ticket.secret})`,
      text: 'I am on leave until 4 December.',
      headers: { 'Auto-Submitted': 'auto-replied' },
    });
    await aoife.sees('.talk', 'is away: back');
  });

  it('opens links of a mail in a window of their own, and shows where each leads', async () => {
    await send({
      messageId: '<links@hollin.example>',
      subject: 'A link',
      html: `<p><a href="${stage.world.base}/healthz">Press here</a></p>`,
    });
    const { ticket_id: id } = await until('it is here', () =>
      stage.world.knex('message').where({ message_id: '<links@hollin.example>' }).first('ticket_id'),
    );
    await aoife.go(`/tickets/${id}`);
    await aoife.press('button', 'as it was sent');
    const frame = await (await aoife.page.waitForSelector('iframe[sandbox]'))!.contentFrame();
    const link = (await frame.waitForSelector('a'))!;
    expect(await link.evaluate((e) => getComputedStyle(e, '::after').content)).toContain('/healthz');
    const opened = new Promise<string>((done) => aoife.page.browser().once('targetcreated', (target) => done(target.url())));
    await link.click();
    await opened;
    await until('it is open', async () => (await aoife.page.browser().pages()).some((page) => page.url().endsWith('/healthz')));
    expect(aoife.troubles).toEqual([]);
  });
});
