import { openStage } from '../../browser';

const [stage, leif, sora, ngozi] = await openStage([], [], []);

describe('a contract', () => {
  it('is drawn up from a preset, with what is wrong said at its field, and is agreed', async () => {
    await leif.enter('Leif Sandvik', '/contracts');
    await leif.press('button', 'Draw up a contract');
    await leif.fill('Client', 'Vantry');
    await leif.fill('Name', 'Support hours');
    await leif.fill('Begin with', 'hours each month');
    await leif.fill('Price of a month', '400');
    await leif.change('First day', '1.11.2026');
    await leif.change('Last day, if any', '1.10.2026');
    await leif.press('dl-record-form button', 'Draw it up');
    await leif.sees('dl-record-form', 'say how much work it holds');
    await leif.fill('How much', '2');
    await leif.press('dl-record-form button', 'Draw it up');
    await leif.sees('dl-record-form', '2026-11-01 or later');
    await leif.change('Last day, if any', '');
    await leif.press('dl-record-form button', 'Draw it up');
    await leif.sees('h1', 'Support hours');
    await leif.sees('.page-head', 'draft');
    await leif.press('.page-head button', 'It is agreed');
    await leif.sees('.page-head', 'running');
    expect(new URL(leif.page.url()).pathname).toMatch(/^\/contracts\/\d{4}$/);
  });

  it('says of time what it draws before it is recorded, and shows it drawn at once', async () => {
    const ticket = await stage.world
      .knex('ticket as t')
      .join('client as c', 'c.id', 't.client_id')
      .where('c.name', 'like', 'Vantry%')
      .where({ 't.kind': 'incident' })
      .whereIn('t.status', ['new', 'in work', 'booked', 'queued', 'on hold'])
      .first('t.number');
    await sora.enter('Sora Minegishi', `/tickets/${ticket.number}`);
    await sora.press('aside button', 'Log time');
    await sora.fill('How long', '');
    await sora.fill('How long', '30');
    await sora.fill('Ended at', '07:40');
    await sora.fill('Note', 'Looked at the mixer');
    await sora.sees('dl-log-time .effect', 'nothing to pay');
    await sora.press('dl-log-time button', 'Record');
    await sora.sees('aside .entry', 'nothing to pay');
    // Leif's page is open: it follows.
    await leif.sees('dl-contract-time', 'Sora Minegishi');
    await leif.sees('dl-contract-time', 'left');
  });

  it('shows its next invoice on any day, proposed into charge review once', async () => {
    await ngozi.enter('Ngozi Adeyemi-Clarke', new URL(leif.page.url()).pathname);
    // What stands above it is there, so that nothing pushes it down any more.
    await ngozi.sees('dl-contract-time', 'left');
    await ngozi.sees('dl-next-invoice', 'December 2026');
    await ngozi.sees('dl-next-invoice', '€800.00');
    await ngozi.press('dl-next-invoice button', 'Propose these charges');
    await ngozi.sees('dl-next-invoice', '2 charges of this contract wait in charge review');
    await ngozi.press('dl-next-invoice a', '2 charges');
    await ngozi.sees('main', 'Support hours, December 2026');
  });
});

describe('the people on a line', () => {
  it('are put on it and end, and the next invoice says what that comes to', async () => {
    await leif.go('/contracts');
    await leif.press('a', 'Workplaces');
    await leif.sees('dl-contract-lines', 'seats today');
    await leif.sees('dl-next-invoice', 'December 2026');
    await leif.press('dl-contract-lines button', 'put people on it');
    // Whoever is on it already is not offered.
    await leif.sees('dl-record-form', 'People');
    const name = (await leif.text('dl-contract-lines table td')).trim();
    expect(await leif.text('dl-record-form')).not.toContain(name);
    await leif.press('dl-record-form button', 'Leave it');
    const before = await leif.page.$eval('dl-next-invoice', (e) => (e as HTMLElement).innerText);
    await leif.press('dl-contract-lines table button', 'last day');
    await leif.change(`Last day of ${name}`, '20.11.2026');
    await leif.sees('dl-contract-lines table', 'to 20 Nov 2026');
    await leif.page.waitForFunction((was) => document.querySelector<HTMLElement>('dl-next-invoice')!.innerText !== was, {}, before);
    expect([...leif.troubles, ...sora.troubles, ...ngozi.troubles]).toEqual([]);
  });
});
