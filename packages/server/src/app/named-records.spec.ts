import { Script, startWorld, type World } from '../../testing/test-server';

let world: World;
let aoife: Script;
beforeAll(async () => {
  world = await startWorld();
  aoife = await world.as('Aoife');
});
afterAll(() => world.stop());

describe('a record that people call by a number', () => {
  it('is read and changed by it, as by its id', async () => {
    const ticket = await world.knex('ticket').where({ status: 'queued' }).first('id', 'number');
    const seen = await aoife.do('getTicket', { params: { ticketId: String(ticket.number) } });
    expect(seen.id).toBe(ticket.id);
    await aoife.do('addNote', { params: { ticketId: String(ticket.number) }, body: { text: 'By its number.' } });
    expect(await world.knex('message').where({ ticket_id: ticket.id, text: 'By its number.' })).toHaveLength(1);
    for (const [table, name, param] of [
      ['client', 'getClient', 'clientId'],
      ['asset', 'getAsset', 'assetId'],
    ] as const) {
      const row = await world.knex(table).first('id', 'number');
      const { body } = await aoife.ask(name, { params: { [param]: String(row.number) } });
      expect((body as { id: string }).id).toBe(row.id);
    }
  });

  it('is read only by who may: a number tells nobody what there is', async () => {
    const invoice = { params: { invoiceId: 'PH-99999' } };
    expect((await new Script(world.base, undefined).ask('getInvoice', invoice)).status).toBe(401);
    expect((await (await world.as('Deepa')).ask('getInvoice', invoice)).status).toBe(403);
  });

  it('is named where it is not there; what looks like no number is refused as an id', async () => {
    const ask = async (name: 'getTicket' | 'getInvoice' | 'getAsset', params: Record<string, string>) => {
      const { status, body } = await aoife.ask(name, { params });
      return [status, (body as { detail: string }).detail];
    };
    expect(await ask('getTicket', { ticketId: '999999' })).toEqual([404, 'There is no ticket #999999.']);
    expect(await ask('getInvoice', { invoiceId: 'PH-99999' })).toEqual([404, 'There is no invoice PH-99999.']);
    expect(await ask('getAsset', { assetId: 'HV-NONE-1' })).toEqual([404, 'There is no asset with the number HV-NONE-1.']);
    expect((await ask('getTicket', { ticketId: 'nonsense' }))[0]).toBe(422);
    expect((await ask('getTicket', { ticketId: '99999999999999999999' }))[0]).toBe(422);
  });
});
