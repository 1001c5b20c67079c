import { openStage } from '../../browser';
import { openDatabase } from '../../../packages/server/src/app/database';
import { until } from '../../../packages/server/testing/test-server';
import { startServer } from '../../../packages/server/src/app/start-server';

const [stage] = await openStage();

const aTicket = () => stage.world.knex('ticket').where({ status: 'queued' }).whereNotNull('contact_id').orderBy('number').first();

describe('when things go wrong', () => {
  it('shows both where two people change one client, and lets them choose', async () => {
    const [a, b] = [await stage.person(), await stage.person()];
    const client = await stage.world.knex('client').where({ name: 'Quillfeather Press' }).first('id');
    await a.enter('Leif Sandvik', `/clients/${client.id}`);
    await b.enter('Aoife Brannigan', `/clients/${client.id}`);
    for (const person of [a, b]) await person.press('header button', 'Change');
    await a.fill('City', 'New Pellworth');
    await a.press('dl-record-form button', 'Save');
    await a.sees('dl-toast-list', 'Saved');
    await b.fill('City', 'Old Pellworth');
    await b.press('dl-record-form button', 'Save');
    await b.sees('.clash', 'Somebody changed this meanwhile');
    await b.sees('dl-record-form', 'theirs: New Pellworth');
    await b.press('.clash button', 'Save mine over theirs');
    await b.sees('dl-toast-list', 'Saved');
    expect((await stage.world.knex('client').where({ id: client.id }).first('city')).city).toBe('Old Pellworth');
  });

  it('tells a writer that somebody else wrote meanwhile, and keeps the text', async () => {
    const t = await aTicket();
    const [a, b] = [await stage.person(), await stage.person()];
    await a.enter('Deepa Raghunathan', `/tickets/${t.id}`);
    await b.enter('Fionn Hartigan', `/tickets/${t.id}`);
    await b.page.setRequestInterception(true);
    b.page.on(
      'request',
      (r) => void (r.url().endsWith('/live') || (r.method() === 'GET' && r.url().includes(t.id)) ? r.abort() : r.continue()),
    );
    await a.fill('Reply that the client will see', 'I have it.');
    await a.press('dl-composer button', 'Send to client');
    await a.sees('article.ours', 'I have it.');
    await b.fill('Reply that the client will see', 'No, I have it.');
    await b.press('dl-composer button', 'Send to client');
    await b.sees('dl-composer', 'Deepa Raghunathan wrote meanwhile');
    expect(await b.page.$eval('dl-composer textarea', (e) => e.value)).toBe('No, I have it.');
  });

  it('keeps what was typed when the page is left, and says when the connection is lost', async () => {
    const t = await aTicket();
    const person = await stage.person();
    await person.enter('Deepa Raghunathan', `/tickets/${t.id}`);
    await person.fill('Reply that the client will see', 'Half a thought');
    await person.go('/my-time');
    await person.go(`/tickets/${t.id}`);
    await person.page.waitForFunction(
      () => document.querySelector<HTMLTextAreaElement>('dl-composer textarea')?.value === 'Half a thought',
    );
    await person.page.setOfflineMode(true);
    await person.press('dl-composer button', 'Send to client');
    await person.sees('dl-composer', 'Drumline cannot be reached. What you typed is kept');
    await person.page.setOfflineMode(false);
    await person.press('dl-composer button', 'Send to client');
    await person.sees('article.ours', 'Half a thought');
  });

  it('gives a clear page while the database is dead, and goes on by itself', async () => {
    const person = await stage.person();
    const { world } = stage;
    await person.enter('Deepa Raghunathan', '/my-time');
    const admin = openDatabase(`${process.env['DRUMLINE_TEST_URL']}/postgres`, 1);
    const name = new URL(world.url).pathname.slice(1);
    try {
      await admin.raw(`alter database ${name} allow_connections false`);
      await admin.raw(`select pg_terminate_backend(pid) from pg_stat_activity where datname = ?`, [name]);
      await person.go('/clients');
      await person.sees('.outage', 'The database is away');
      expect(await (await fetch(`${world.base}/readyz`)).json()).toEqual({ ready: false, database: 'away' });
    } finally {
      await admin.raw(`alter database ${name} allow_connections true`);
      await admin.destroy();
    }
    await person.sees('table.rows', 'Hollin Veterinary Group');
    // The queue works again too: a reply leaves, and live events come.
    const t = await aTicket();
    await person.go(`/tickets/${t.id}`);
    await person.fill('Reply that the client will see', 'We are back.');
    await person.press('dl-composer button', 'Send to client');
    await person.sees('article.ours', 'We are back.');
    await until(
      'the reply has left',
      async () => world.knex('message').where({ text: 'We are back.' }).whereNotNull('left_at').first('id'),
      40_000,
    );
    await person.gone('article.ours', 'Leaves in a moment');
  });

  it('gives a clear page while the server is down, and goes on by itself', async () => {
    const person = await stage.person();
    const { world } = stage;
    await person.enter('Deepa Raghunathan', '/my-time');
    await world.knex.raw('select 1');
    await world.running.stop();
    await person.sees('dl-top-bar .lost', 'Connection lost');
    const again = await startServer(
      { ...world.running.app.config, PORT: world.running.port, SMTP_PORT: world.running.smtpPort },
      world.clock,
    );
    try {
      await person.gone('dl-top-bar', 'Connection lost');
      await person.go('/clients');
      await person.sees('table.rows', 'Hollin Veterinary Group');
    } finally {
      await again.stop();
    }
  });
});
