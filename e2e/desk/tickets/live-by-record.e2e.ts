import { openStage } from '../../browser';

const [stage, aoife] = await openStage([]);

describe('a ticket that stands open', () => {
  it('asks for nothing while another ticket changes, shows the new figures of the rail, and follows its own', async () => {
    const api = await stage.world.as('Aoife');
    // The one that is due last: of those that are due soon the jobs tell by themselves.
    const t = (await api.do('listTickets', { query: { state: 'open' } })).rows.at(-1);
    const [other] = (await api.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await aoife.enter('Aoife Brannigan', `/tickets/${t!.number}`);
    await aoife.sees('h1', t!.subject);
    const { unsorted } = await api.do('getCounts');
    await aoife.sees('dl-rail a', `Intake\n${unsorted}`);
    const asked: string[] = [];
    aoife.page.on('request', (r) => {
      if (/\/api\/(?!live|notices|tickets\/[^/]+\/presence)/.test(r.url())) asked.push(`${r.method()} ${r.url()}`);
    });
    await api.do('markNotWork', { params: { ticketId: other!.id }, version: other!.version });
    await aoife.sees('dl-rail a', `Intake\n${unsorted - 1}`);
    expect(asked).toEqual([]);
    await api.do('addNote', { params: { ticketId: t!.id }, body: { text: 'The lid is off.' } });
    await aoife.sees('main', 'The lid is off.');
    expect(asked.some((a) => a.includes(`/tickets/${t!.number}`) || a.includes(`/tickets/${t!.id}`))).toBe(true);
    expect(aoife.troubles).toEqual([]);
  });
});

describe('what goes elsewhere', () => {
  it('leaves the page of the ticket where it was: an entry that was meant for another', async () => {
    const sora = await stage.world.as('Sora');
    const own = await stage.world.knex('ticket').where({ status: 'queued', kind: 'incident' }).whereNull('umbrella_id').orderBy('number');
    const [from, to] = [own[0], own[1]];
    const activityId = (await sora.do('getHouse')).activities[0]!.id;
    const body = {
      ...{ workId: from.id, startsAt: '2026-11-20T06:00:00Z', duration: '25', activityId },
      ...{ note: 'Looked through the cupboard', billable: true, reason: null },
    };
    const entry = await sora.do('addEntry', { body });
    await aoife.go(`/tickets/${from.number}`);
    await aoife.sees('dl-ticket-entries', 'Fri 06:00 Sora Minegishi');
    await sora.do('editEntry', { params: { entryId: entry.id }, version: entry.version, body: { ...body, workId: to.id } });
    await aoife.gone('dl-ticket-entries', 'Fri 06:00 Sora Minegishi');
  });

  it('leaves the page of the client whose it was: a ticket that was moved to another', async () => {
    const api = await stage.world.as('Aoife');
    const ticket = await stage.world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .whereNotNull('client_id')
      .orderBy('number', 'desc')
      .first('id', 'version', 'subject', 'client_id');
    const contact = await stage.world.knex('contact').whereNot({ client_id: ticket.client_id }).orderBy('email').first('id', 'client_id');
    await aoife.go(`/clients/${ticket.client_id}`);
    await aoife.sees('main', ticket.subject);
    await api.do('moveToClient', {
      params: { ticketId: ticket.id },
      version: ticket.version,
      body: { clientId: contact.client_id, contactId: contact.id, seen: true },
    });
    await aoife.gone('main a', ticket.subject);
    expect(aoife.troubles).toEqual([]);
  });
});
