import { until, postMail } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, deepa, aoife] = await openStage(['Deepa Raghunathan', '/tickets'], ['Aoife Brannigan', '/tickets']);
afterEach(() => {
  for (const person of [deepa, aoife]) expect(person.troubles).toEqual([]);
});

/** A ticket whose client waits for us. */
async function owedTicket(): Promise<{ id: string; subject: string }> {
  const row = await stage.world
    .knex('ticket')
    .whereNotNull('reply_owed_since')
    .whereNotIn('status', ['resolved', 'closed'])
    .orderBy('number')
    .first();
  return { id: row.id, subject: row.subject };
}

describe('nothing unanswered', () => {
  it('lists whom we owe a reply, by desk and person, the longest waiting first, and opens the first', async () => {
    const owed = Number((await stage.world.knex('ticket').whereNotNull('reply_owed_since').count('* as n').first())!['n']);
    await aoife.press('.views button', 'Reply owed');
    await aoife.says('dl-list-head [role=status]', `${owed} tickets`);
    await aoife.sees('.owed-by', 'Support');
    expect(await aoife.address()).toContain('owed=yes&sort=owed');
    await aoife.focus('[data-row]');
    await aoife.keys('Enter');
    await aoife.sees('.next', 'of working time');
  });

  it('waives a reply with a reason, and takes that back', async () => {
    const t = await owedTicket();
    await deepa.go(`/tickets/${t.id}`);
    await deepa.press('.next button', 'waive');
    await deepa.press('dl-record-form button', 'Waive the reply');
    await deepa.sees('dl-record-form .error', 'write something');
    await deepa.fill('Why nobody needs to answer', 'told them at the counter');
    await deepa.keys('Enter');
    await deepa.sees('.next', 'Reply waived by Deepa Raghunathan: told them at the counter.');
    await deepa.press('.next button', 'it needs a reply after all');
    await deepa.sees('.next', 'Reply owed');
  });

  it('writes down a call by keyboard, which answers, and puts the call back on the day', async () => {
    const t = await owedTicket();
    await deepa.go(`/tickets/${t.id}`);
    await deepa.sees('.next', 'Reply owed');
    await deepa.focus('#main');
    await deepa.keys('c');
    await deepa.page.waitForFunction(() => document.activeElement?.tagName === 'INPUT');
    await deepa.page.keyboard.type('They can live with it until Thursday.');
    await deepa.moment('Call back at', '2026-11-24T16:30');
    await deepa.press('dl-record-form button', 'Write it down');
    await deepa.sees('article', 'on the phone with the client');
    await deepa.gone('.next', 'Reply owed');
    await deepa.sees('aside', 'First reply');
    await deepa.go('/my-time');
    await deepa.sees('.item', '16:30');
    await deepa.sees('.item', 'back');
    const call = await deepa.find('.item', '16:30');
    await (await call.$('button'))!.click();
    await deepa.gone('.columns', 'To do and to call');
  });
});

describe('the composer', () => {
  it('puts in a canned reply, filled for the ticket, and keeps the copies of the thread', async () => {
    const t = await stage.world
      .knex('ticket as t')
      .join('contact as k', 'k.id', 't.contact_id')
      .where({ 't.status': 'queued' })
      .whereNull('t.umbrella_id')
      .orderBy('t.number')
      .first('t.id', 't.number', 'k.name');
    await stage.world
      .knex('message')
      .where({ ticket_id: t.id, direction: 'in' })
      .update({ cc_addresses: ['colleague@hollin.example'] });
    await deepa.go(`/tickets/${t.id}`);
    await deepa.page.waitForSelector('dl-composer');
    expect(await deepa.value('Copies, addresses with commas between')).toBe('colleague@hollin.example');
    await deepa.focus('[aria-label="Put in a canned reply"]');
    await deepa.fill('Put in a canned reply', 'On it');
    const text = await deepa.page.$eval('dl-composer textarea', (e) => (e as HTMLTextAreaElement).value);
    expect(text).toContain(`Hello ${t.name.split(' ')[0]},`);
    expect(text).toContain(`#${t.number} and am on it`);
    expect(text).toContain('Deepa Raghunathan');
    await deepa.press('dl-composer button', 'Send to client');
    await until('it left with its copy', async () => {
      const sent = await stage.world
        .knex('message')
        .where({ ticket_id: t.id, direction: 'out' })
        .orderBy('seq', 'desc')
        .first('cc_addresses', 'left_at');
      return sent && sent.left_at !== null && sent.cc_addresses.includes('colleague@hollin.example');
    });
  });
});

describe('nothing closed half done', () => {
  it('shows what stands in the way, settles each where it stands, and then resolves', async () => {
    const row = await stage.world
      .knex('ticket as t')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('reply_owed_since')
      .whereNotExists((q) => void q.from('time_entry as e').whereRaw('e.ticket_id = t.id'))
      .first('id', 'number');
    await deepa.go(`/tickets/${row.id}`);
    await deepa.page.waitForSelector('dl-composer');
    await deepa.fill('New checklist item', 'Label the cable');
    await deepa.keys('Enter');
    await deepa.sees('dl-checklist', 'Label the cable');
    await deepa.press('header button', 'Resolve');
    await deepa.sees('dl-before-moving', 'not answered: Label the cable');
    await deepa.sees('dl-before-moving', 'no time is logged');
    expect(await deepa.page.$('[aria-label="Why it moves all the same"]')).toBeNull();
    await deepa.press('dl-before-moving button', 'not needed');
    await deepa.gone('dl-before-moving', 'Label the cable');
    await deepa.press('dl-before-moving button', 'log time');
    await deepa.fill('How long', '15');
    await deepa.fill('Note', 'Cable relabelled');
    await deepa.press('dl-log-time button', 'Record');
    await deepa.sees('dl-before-moving', 'Nothing stands in the way any more');
    await deepa.press('dl-before-moving button', 'Now it is resolved');
    await deepa.sees('header .tag', 'resolved');
    await deepa.sees('header', 'Closes by itself');
  });

  it('lets a manager pass with a reason, which stays in the story', async () => {
    const row = await stage.world
      .knex('ticket as t')
      .where({ status: 'queued', kind: 'incident' })
      .whereNotExists((q) => void q.from('time_entry as e').whereRaw('e.ticket_id = t.id'))
      .first('id');
    await aoife.go(`/tickets/${row.id}`);
    await aoife.press('header button', 'Resolve');
    await aoife.fill('Why it moves all the same', 'the client did it themselves');
    await aoife.press('dl-before-moving form button', 'Move it');
    await aoife.sees('header .tag', 'resolved');
    await aoife.press('.talk button', 'show what happened');
    await aoife.sees('.story', 'resolved past closing checks: the client did it themselves');
  });

  it('asks of each kind what Setup says, in every window at once', async () => {
    await aoife.go('/setup');
    await aoife.page.waitForSelector('dl-closing-settings');
    const box = await aoife.page.waitForSelector('[aria-label="no resolution text, incident"]');
    await box!.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    await box!.click();
    await aoife.fill('A reply reopens a closed ticket', '500');
    await aoife.press('dl-closing-settings button', 'Save');
    await aoife.sees('dl-closing-settings .error', 'at most 365');
    await aoife.fill('A reply reopens a closed ticket', '21');
    await aoife.press('dl-closing-settings button', 'Save');
    await aoife.sees('dl-toast-list', 'it holds from now on');
    const row = await stage.world.knex('ticket').where({ status: 'queued', kind: 'incident' }).first('id');
    await deepa.go(`/tickets/${row.id}`);
    await until('the new check holds', async () => {
      await deepa.page.reload();
      await deepa.press('header button', 'Resolve');
      return (await deepa.text('dl-before-moving').catch(() => '')).includes('nothing says what was done');
    });
    await deepa.press('dl-before-moving button', 'say it');
    await deepa.fill('What was done', 'The driver is pinned.');
    await deepa.press('dl-record-form button', 'Save');
    await deepa.gone('dl-before-moving', 'nothing says what was done');
    await deepa.sees('aside', 'The driver is pinned.');
  });
});

describe('thanks', () => {
  it('come up as thanks, owe nothing, and are turned into work with one press', async () => {
    const t = await stage.world
      .knex('ticket as t')
      .join('contact as k', 'k.id', 't.contact_id')
      .where('t.status', 'resolved')
      .first('t.id', 'k.email');
    await deepa.go(`/tickets/${t.id}`);
    await deepa.page.waitForSelector('dl-composer');
    const last = await stage.world
      .knex('message')
      .where({ ticket_id: t.id, direction: 'out' })
      .orderBy('at', 'desc')
      .first('message_id', 'subject');
    await postMail(stage.world.running.smtpPort, {
      from: t.email,
      to: 'desk@pellworth.example',
      subject: `Re: ${last.subject}`,
      inReplyTo: last.message_id,
      references: last.message_id,
      text: 'Wonderful, thank you very much!',
    });
    await deepa.sees('article', 'wrote thanks');
    await deepa.sees('.next', 'Thanks of the client: no reply is owed.');
    await deepa.sees('header .tag', 'resolved');
    await deepa.press('.next button', 'it needs a reply after all');
    await deepa.sees('header .tag', 'queued');
    await deepa.sees('.next', 'Reply owed');
  });
});

describe('a warning', () => {
  it('comes up under what is new before a promise is missed, and is seen by opening it', async () => {
    const t = await stage.world.knex('ticket').where({ subject: 'Proof printer stops after every page' }).first('id', 'number');
    const sora = await stage.person();
    await sora.enter('Sora Minegishi', '/tickets');
    stage.world.clock.forward(10 * 60);
    await until('the warning is stored', async () => stage.world.knex('notice').where({ ticket_id: t.id }).first('id'));
    await sora.press('.news button', 'What is new');
    await sora.sees('.news-list', `#${t.number} Proof printer stops after every page: response is due in`);
    await sora.press('.news-list a', 'Proof printer');
    await sora.sees('h1', 'Proof printer stops after every page');
    await until('it is seen', async () => stage.world.knex('notice').where({ ticket_id: t.id }).whereNotNull('seen_at').first('id'));
    expect(sora.troubles).toEqual([]);
  });

  it('gives a booked ticket back as it was when holding it is undone', async () => {
    const { id, number } = await stage.world.knex('ticket').where({ status: 'booked', umbrella_id: null }).orderBy('number').first();
    const stands = (as: object) =>
      until(`it is ${JSON.stringify(as)}`, () =>
        stage.world
          .knex('ticket')
          .where({ id, ...as })
          .first('id'),
      );
    await aoife.go(`/tickets/${number}`);
    await aoife.fill('Put on hold', 'supplier');
    await stands({ status: 'on hold', hold_reason: 'supplier' });
    await aoife.press('dl-toast-list button', 'Undo');
    await stands({ status: 'booked', hold_reason: null });
    await aoife.sees('dl-toast-list', `#${number} is booked again`);
  });
});
