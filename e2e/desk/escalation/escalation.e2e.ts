import { postMail } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, yusuf, aoife] = await openStage(['Yusuf Demirel', '/tickets'], ['Aoife Brannigan', '/setup/on-call']);

describe('escalation', () => {
  it('rings who is on call when a client writes a third time, and stops when they have it', async () => {
    const row = await stage.world
      .knex('ticket as t')
      .join('contact as k', 'k.id', 't.contact_id')
      .where({ 't.status': 'queued', 'k.priority': false })
      .whereNull('t.umbrella_id')
      .whereNull('t.reply_owed_since')
      .first('t.id', 't.number', 't.secret', 't.subject', 'k.email');
    for (const [i, text] of ['Any news?', 'Hello?', 'Is anybody there?'].entries())
      await postMail(stage.world.running.smtpPort, {
        from: row.email,
        to: 'desk@pellworth.example',
        subject: `Re: ${row.subject} (ref ${row.number}-${row.secret})`,
        text,
        messageId: `<again${i}@test.example>`,
      });
    await yusuf.sees('.ring', `#${row.number}`);
    await yusuf.press('.news button', 'What is new');
    await yusuf.sees('.news-list', 'they wrote 3 times without an answer');
    await yusuf.press('.news-list a', `#${row.number}`);
    await yusuf.sees('dl-ticket-next', 'Rings Yusuf Demirel');
    await yusuf.press('dl-ticket-next button', 'I have it');
    await yusuf.gone('dl-ticket-next', 'Rings');
    expect(yusuf.troubles).toEqual([]);
  });

  it('is set in Setup, with who is on call and who is no client', async () => {
    await aoife.press('button', 'Put somebody on call');
    await aoife.fill('Who', 'Sora Minegishi');
    await aoife.moment('From', '2026-12-01T18:00');
    await aoife.moment('Until', '2026-12-01T08:00');
    await aoife.press('dl-record-form button', 'Put on call');
    await aoife.sees('dl-record-form .error', 'after it begins');
    await aoife.moment('Until', '2026-12-02T08:00');
    await aoife.press('dl-record-form button', 'Put on call');
    await aoife.sees('section', 'Sora Minegishi');
    await aoife.press('button', 'Add one');
    await aoife.fill('Name', 'Tidewater Fibre');
    await aoife.fill('Domain or address', 'hollin.example');
    await aoife.press('dl-record-form button', 'Mark as a third party');
    await aoife.sees('dl-record-form .error', 'a domain of no client');
    await aoife.fill('Domain or address', 'tidewater.example');
    await aoife.press('dl-record-form button', 'Mark as a third party');
    await aoife.sees('section', 'Tidewater Fibre');
    expect(aoife.troubles).toEqual([]);
  });
});
