import { openStage } from '../../browser';

const [stage, hanna, callum] = await openStage([], []);

describe('access by division', () => {
  it('is set in Setup, and takes another division out of every list of who has none there', async () => {
    await callum.enter('Callum Strachan', '/clients');
    await callum.sees('td, .row', 'Hollin Veterinary Group');
    await hanna.enter('Hanna Lindqvist', '/setup');
    await hanna.press('a', 'See and change who may do what in which division');
    await hanna.press('section[aria-label="Access"] button', 'change Callum Strachan');
    await hanna.sees('.whose', 'Callum Strachan');
    await hanna.fill('In Managed services', 'no access');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.sees('section[aria-label="Access"] .line', 'technician, no access in Managed services');
    await callum.go('/clients');
    await callum.sees('td, .row', 'Tallow & Wick Chandlery');
    await callum.gone('td, .row', 'Hollin Veterinary Group');
    const { number } = await stage.world
      .knex('ticket as t')
      .join('client as c', 'c.id', 't.client_id')
      .where('c.name', 'like', 'Hollin%')
      .first('t.number');
    await callum.go(`/tickets/${number}`);
    await callum.sees('main', 'no such ticket');
    // Back again, nothing is left of it.
    await hanna.press('section[aria-label="Access"] button', 'change Callum Strachan');
    await hanna.fill('In Managed services', 'technician');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.gone('section[aria-label="Access"] .line', 'no access');
    await callum.go('/clients');
    await callum.sees('td, .row', 'Hollin Veterinary Group');
    expect(hanna.troubles).toEqual([]);
  });

  it('says what a division has of its own, and a new client takes it', async () => {
    await hanna.go('/setup/access');
    await hanna.press('section[aria-label="Divisions"] button', 'change Workshop');
    await hanna.fill('Tax of labour in percent', '130');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.sees('dl-record-form', 'from 0 to 100 percent');
    await hanna.fill('Tax of labour in percent', '9');
    await hanna.press('dl-record-form button', 'Save');
    await hanna.sees('section[aria-label="Divisions"] .line', 'labour at 9 % tax');
    await hanna.go('/clients');
    await hanna.press('button', 'Add a client');
    for (const [label, text] of [
      ['Name', 'Walk-in of the quay'],
      ['Mail domains', 'quay.example'],
      ['Street', '1 Quay'],
      ['City', 'Pellworth'],
      ['Postcode', 'P1'],
      ['Invoices go to', 'quay@quay.example'],
      ['Division', 'Workshop'],
    ] as const)
      await hanna.fill(label, text);
    await hanna.press('dl-record-form button', 'Add the client');
    await hanna.sees('dl-toast-list, h1', 'Walk-in of the quay');
    const client = await stage.world
      .knex('client as c')
      .join('division as d', 'd.id', 'c.division_id')
      .where({ 'c.name': 'Walk-in of the quay' })
      .first('d.name');
    expect(client).toEqual({ name: 'Workshop' });
  });
});
