import { until } from '../../packages/server/testing/test-server';
import { openStage } from '../browser';

const [stage, aoife] = await openStage([]);

describe('an address that people pass on', () => {
  it('names a record by its number, as does the window, and opens it for whoever types it', async () => {
    const ticket = await stage.world.knex('ticket').where({ status: 'queued' }).first('id', 'number', 'subject');
    // One with work, so that what is read about it is seen.
    const client = await stage.world
      .knex('client as c')
      .join('ticket as t', 't.client_id', 'c.id')
      .where('t.status', 'queued')
      .whereNull('t.umbrella_id')
      .first('c.number', 'c.name', 't.number as ticket');
    const asset = await stage.world.knex('asset').whereNull('archived_at').first('id', 'number', 'name');
    await aoife.enter('Aoife Brannigan', `/tickets/${ticket.number}`);
    await aoife.sees('h1', ticket.subject);
    expect(await aoife.page.title()).toBe(`#${ticket.number} ${ticket.subject} · Drumline`);
    // An address by its id, as links have it, becomes one that can be read out.
    await aoife.go(`/tickets/${ticket.id}?from=mail`);
    await until('the address has the number', async () => new URL(aoife.page.url()).pathname === `/tickets/${ticket.number}`);
    expect(new URL(aoife.page.url()).search).toBe('?from=mail');
    await aoife.go(`/clients/${client.number}`);
    await aoife.sees('h1', client.name);
    await aoife.sees('.page', `#${client.ticket}`);
    await aoife.go(`/assets/${asset.id}`);
    await until('the address has the number', async () => new URL(aoife.page.url()).pathname === `/assets/${asset.number}`);
    await aoife.page.reload();
    await aoife.sees('.page', asset.name);
    expect(aoife.troubles).toEqual([]);
  });

  it('that leads nowhere says what is not there', async () => {
    await aoife.go('/tickets/999999');
    await aoife.sees('body', 'There is no ticket #999999.');
    await aoife.go('/billing/PH-99999');
    await aoife.sees('body', 'There is no invoice PH-99999.');
  });
});
