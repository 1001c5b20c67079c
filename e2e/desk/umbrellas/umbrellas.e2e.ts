import { until } from '../../../packages/server/testing/test-server';
import { openStage } from '../../browser';

const [stage, aoife] = await openStage(['Aoife Brannigan', '/tickets']);

const umbrella = () => stage.world.knex('ticket').where({ is_umbrella: true }).orderBy('number', 'desc').first('id', 'number');
const mails = async () => await stage.world.mailbox();

describe('one cause with many reports', () => {
  it('puts chosen tickets under an umbrella by keyboard, and their contacts are told', async () => {
    // Of two clients, so that it belongs to the provider.
    await aoife.go('/tickets?status=queued');
    await aoife.page.waitForSelector('dl-list [data-row]');
    for (const box of (await aoife.page.$$('dl-list tbody input[type=checkbox], dl-list [role=row] input[type=checkbox]')).slice(1, 3))
      await box.click();
    await aoife.sees('.bulk', '2 chosen');
    await aoife.keys('g');
    await aoife.fill('What the cause is', '');
    await aoife.press('dl-record-form button', 'Put under the umbrella');
    await aoife.sees('dl-record-form .error', 'say what the cause is');
    await aoife.fill('What the cause is', 'Print server is down');
    await aoife.change('Desk', 'Support');
    await aoife.press('dl-record-form button', 'Put under the umbrella');
    await aoife.sees('h1', 'Print server is down');
    await aoife.sees('dl-members', '2 reports of');
    await until('both are told', async () => (await mails()).filter((m) => m.text.includes('/follow/')).length === 2);
  });

  it('shows each member where it is worked on, and detaches it with undo', async () => {
    const { id, number } = await umbrella();
    const member = await stage.world.knex('ticket').where({ umbrella_id: id }).first('id', 'number');
    await aoife.go(`/tickets/${member.id}`);
    await aoife.sees('dl-ticket-next', `#${number}`);
    await aoife.press('dl-ticket-next button', 'detach it');
    await aoife.gone('dl-ticket-next', `#${number}`);
    await aoife.press('dl-toast-list button', 'Undo');
    await aoife.sees('dl-ticket-next', `#${number}`);
  });

  it('shows what each will read before an update leaves, stops what names another client, and asks whether it is back', async () => {
    const { id } = await umbrella();
    const other = await stage.world
      .knex('ticket as t')
      .join('client as c', 'c.id', 't.client_id')
      .where('t.umbrella_id', id)
      .orderBy('t.number')
      .select('c.name');
    await aoife.go(`/tickets/${id}`);
    await aoife.page.waitForSelector('dl-member-update textarea');
    const box = '[aria-label="Update that the clients will see"]';
    if (new Set(other.map((o) => o.name)).size > 1) {
      await aoife.page.type(box, `It is not only ${other[0].name}.`);
      await aoife.press('dl-member-update button', 'See what each will read');
      await aoife.sees('dl-member-update', "somebody else's business");
      expect(await aoife.page.$eval('dl-member-update .foot .btn-main', (b) => (b as HTMLButtonElement).disabled)).toBe(true);
      await aoife.press('dl-member-update button', 'Change it');
      await aoife.page.$eval(box, (e) => ((e as HTMLTextAreaElement).value = ''));
    }
    await aoife.click('dl-member-update input[type=checkbox]');
    await aoife.focus(box);
    await aoife.page.keyboard.down('Control');
    await aoife.page.keyboard.press('a');
    await aoife.page.keyboard.up('Control');
    await aoife.page.keyboard.type('Hello {first name}, it prints again.');
    await aoife.press('dl-member-update button', 'See what each will read');
    await aoife.sees('dl-member-update .preview', 'it prints again.');
    expect(await aoife.text('dl-member-update .preview')).not.toContain('{first name}');
    await aoife.press('dl-member-update button', 'Send 2 mails');
    await until('the question left', async () => (await mails()).filter((m) => m.text.includes('Is it back for you?')).length === 2);
  });

  it('takes the answer by a press in the mail, and shows the contact how it stands', async () => {
    const { id } = await umbrella();
    const [yes, no] = (await mails()).filter((m) => m.text.includes('Is it back for you?'));
    const client = await stage.person();
    await client.page.goto(/http\S+\/yes/.exec(yes!.text)![0].replace(/^http:\/\/[^/]+/, stage.world.base));
    await client.sees('.note', 'it is back for you');
    await client.sees('.status', 'together with other reports of the same cause');
    await client.page.goto(/http\S+\/no/.exec(no!.text)![0].replace(/^http:\/\/[^/]+/, stage.world.base));
    await client.sees('.note', 'look again');
    expect(client.troubles).toEqual([]);
    await aoife.go(`/tickets/${id}`);
    await aoife.sees('dl-members', 'back for 1 of 2 asked');
    await aoife.sees('dl-members', '✗ not back');
    await aoife.sees('dl-ticket-next', 'Reply owed');
  });

  it('charges time on it to nobody, unless it is shared out by hand', async () => {
    const { id } = await umbrella();
    const clients = new Set(await stage.world.knex('ticket').where({ umbrella_id: id }).pluck('client_id'));
    await aoife.go(`/tickets/${id}`);
    await aoife.press('aside button', 'Log time');
    await aoife.fill('How long', '40');
    await aoife.fill('Note', 'Swapped the power supply');
    await aoife.press('dl-log-time button', 'Record');
    if (clients.size < 2) return aoife.sees('.entry', 'to the client');
    await aoife.sees('.entry', 'internal, no charge');
    await aoife.press('.entry button', 'share it out');
    await aoife.press('dl-share-entry button', 'in equal parts');
    await aoife.sees('dl-share-entry', '40 min of 40 min');
    await aoife.press('dl-share-entry button', 'Share it out');
    await aoife.sees('dl-toast-list', '2 charges are proposed');
    const charges = await stage.world.knex('charge').whereNotNull('shared_from').select('quantity', 'description');
    expect(charges.map((c) => [Number(c.quantity), c.description.includes('power supply')])).toEqual([
      [20, false],
      [20, false],
    ]);
  });

  it('names the member in the way of resolving, and resolves them all', async () => {
    const { id } = await umbrella();
    await aoife.go(`/tickets/${id}`);
    await aoife.press('header button', 'Resolve');
    await aoife.sees('dl-before-moving', 'the client waits for an answer');
    await aoife.press('dl-before-moving a', 'answer it there');
    await aoife.sees('dl-ticket-next', 'Reply owed');
    await aoife.press('dl-ticket-next button', 'waive');
    await aoife.fill('Why nobody needs to answer', 'helped on the phone');
    await aoife.keys('Enter');
    await aoife.gone('dl-ticket-next', 'Reply owed');
    await aoife.go(`/tickets/${id}`);
    await aoife.press('header button', 'Resolve');
    await aoife.sees('header .tag', 'resolved');
    await aoife.sees('dl-members', 'resolved');
    const ended = () => stage.world.knex('membership').where({ umbrella_id: id, ended_by: 'resolved' });
    expect(await ended()).toHaveLength(2);
    await aoife.press('dl-toast-list button', 'Undo');
    await aoife.gone('header .tag', 'resolved');
    await aoife.gone('dl-members', 'resolved');
    expect(await ended()).toEqual([]);
    await aoife.press('header button', 'Resolve');
    await aoife.sees('header .tag', 'resolved');
    await aoife.sees('dl-members', 'resolved');
    expect(await ended()).toHaveLength(2);
    expect(aoife.troubles).toEqual([]);
  });

  it('is proved in Setup', async () => {
    await aoife.go('/setup');
    await aoife.press('dl-integrity button', 'Check now');
    await aoife.sees('dl-integrity [role=status]', 'no member runs, and no reply is hidden');
  });
});
