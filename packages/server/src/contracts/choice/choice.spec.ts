import { coverRule } from '../../../testing/contract-forms';
import { ownClient, remoteOf, timeForm } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let deepa: Script;
let clientId: string;
let ticketId: string;
let remote: string;
let site: string;
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  deepa = await world.as('Deepa');
  remote = await remoteOf(deepa);
  ({ clientId, ticketId } = await ownClient(world));
  const place = { client_id: clientId, name: 'North yard', street: '1 Quay', city: 'Port', postcode: 'P1' };
  [{ id: site }] = await world.knex('site').insert(place).returning('id');
});
afterAll(() => world.stop());

const form = (startsAt: string, duration: string) => timeForm({ workId: ticketId, activityId: remote }, startsAt, duration);
const record = async (startsAt: string, duration: string) => (await deepa.do('addEntry', { body: form(startsAt, duration) })).id;
const entry = (id: string) => world.knex('time_entry').where({ id }).first();
const effectOf = async (id: string) => (await world.knex('entry_effect').where({ time_entry_id: id }).first('effect')).effect;
const rulesOf = async (id: string) => (await effectOf(id)).why.map((s: { rule: string }) => s.rule);
const agreed = async (name: string) => {
  const body = { clientId, name, startsOn: '2026-11-01', lastDay: null, preset: 'everything covered', grant: null, price: '100' } as const;
  const { id } = await hanna.do('createContract', { body: body as never });
  const { version } = await hanna.do('getContract', { params: { contractId: id } });
  await hanna.do('agreeContract', { params: { contractId: id }, version });
  return id;
};
const set = async (contractId: string, meantFor: readonly { reach: string; of: string }[]) => {
  const { version } = await hanna.do('getContract', { params: { contractId } });
  return hanna.ask('setMeantFor', { params: { contractId }, version, body: { meantFor } as never });
};

describe('the contract of a ticket', () => {
  let care: string;
  let yard: string;
  let worked: string;

  it('is said to be none where its client has none, and work goes by the hour', async () => {
    worked = await record('2026-11-23T09:00:00Z', '30');
    expect(await deepa.do('getTicketContract', { params: { ticketId } })).toEqual({
      contract: null,
      by: 'itself',
      why: [{ rule: 'no contract on this day: by the hour' }],
      currency: 'EUR',
      offered: [],
      left: [],
    });
    expect((await effectOf(worked)).is).toBe('charged');
    care = await agreed('Care');
    expect((await entry(worked)).contract_id).toBe(care);
    expect(await rulesOf(worked)).toContain("the client's only contract");
  });

  it('is the one meant for its site, from when the ticket is there', async () => {
    yard = await agreed('Yard');
    // Two that take all work, and none preferred.
    expect((await entry(worked)).contract_id).toBeNull();
    expect(await rulesOf(worked)).toContain('several contracts and none is preferred: by the hour');
    expect((await set(yard, [{ reach: 'site', of: site }])).status).toBe(200);
    expect((await entry(worked)).contract_id).toBe(care);
    expect(await hanna.do('getContract', { params: { contractId: yard } })).toMatchObject({
      meantFor: [{ reach: 'site', of: site, name: 'North yard' }],
      story: expect.arrayContaining([expect.objectContaining({ what: 'made it for North yard' })]),
    });
    const person = { client_id: clientId, site_id: site, name: 'Bo Yard', email: 'bo@pilots.example', priority: false };
    const [{ id: contactId }] = await world.knex('contact').insert(person).returning('id');
    await world.knex('ticket').where({ id: ticketId }).update({ contact_id: contactId });
    expect((await deepa.do('getTicketContract', { params: { ticketId } })).contract).toMatchObject({ name: 'Yard' });
    const later = await record('2026-11-23T11:00:00Z', '30');
    expect((await entry(later)).contract_id).toBe(yard);
    expect(await rulesOf(later)).toContain("it is meant for the ticket's site");
  });

  it('names what its client has alone', async () => {
    const other = await world.knex('site').whereNot({ client_id: clientId }).first('id');
    const refused = await set(care, [{ reach: 'site', of: other.id }]);
    expect(refused.body).toMatchObject({ status: 422, detail: 'There is no such site of this client.' });
    expect((await set(care, [{ reach: 'kind', of: 'a wish' }])).status).toBe(422);
    expect(await world.knex('contract_reach').where({ contract_id: care })).toEqual([]);
  });

  it('follows the order that is set in Setup', async () => {
    await set(care, [{ reach: 'kind', of: 'incident' }]);
    expect((await deepa.do('getTicketContract', { params: { ticketId } })).contract).toMatchObject({ name: 'Yard' });
    const { version, warnLevels } = await hanna.do('getContractOrder');
    const order = ['kind', 'site'] as const;
    expect((await deepa.ask('setContractOrder', { version, body: { order: [...order], warnLevels } })).status).toBe(403);
    expect((await hanna.ask('setContractOrder', { version, body: { order: ['kind', 'kind'], warnLevels } })).status).toBe(422);
    await hanna.do('setContractOrder', { version, body: { order: [...order], warnLevels } });
    expect((await deepa.do('getTicketContract', { params: { ticketId } })).contract).toMatchObject({ name: 'Care' });
  });

  it('is what somebody chose for it, for all its open work, until it is to find its own again', async () => {
    const sora = await world.as('Sora');
    const body = { by: 'hand', contractId: yard } as const;
    expect((await sora.ask('setTicketContract', { params: { ticketId }, body: body as never })).status).toBe(403);
    await hanna.do('setTicketContract', { params: { ticketId }, body: body as never });
    expect((await entry(worked)).contract_id).toBe(yard);
    expect(await deepa.do('getTicketContract', { params: { ticketId } })).toMatchObject({ by: 'hand', contract: { name: 'Yard' } });
    await hanna.do('setTicketContract', { params: { ticketId }, body: { by: 'hand', contractId: null } });
    expect(await entry(worked)).toMatchObject({ contract_id: null });
    expect(await rulesOf(worked)).toContain('by the hour: somebody chose so for the ticket');
    await hanna.do('setTicketContract', { params: { ticketId }, body: { by: 'itself', contractId: null } });
    expect((await entry(worked)).contract_id).toBe(care);
    const strange = await world.knex('contract').whereNot({ client_id: clientId }).first('id');
    const refused = await hanna.ask('setTicketContract', { params: { ticketId }, body: { by: 'hand', contractId: strange.id } });
    expect(refused.body).toMatchObject({ status: 422, fields: { contractId: 'a contract of the client' } });
  });

  it("is found anew where the ticket is another client's, whatever somebody chose", async () => {
    const told = world.knex('ticket').where({ kind: 'incident', status: 'queued' }).whereNotNull('client_id').whereNull('umbrella_id');
    const ticket = await told.whereNot({ client_id: clientId }).orderBy('number').first('id');
    await hanna.do('setTicketContract', { params: { ticketId: ticket.id }, body: { by: 'hand', contractId: null } });
    const move = async (to: string) => {
      const { version } = await world.knex('ticket').where({ id: ticket.id }).first('version');
      return hanna.ask('moveToClient', {
        params: { ticketId: ticket.id },
        version,
        body: { clientId: to, contactId: null, seen: true } as never,
      });
    };
    expect((await move(clientId)).status).toBe(200);
    expect(await deepa.do('getTicketContract', { params: { ticketId: ticket.id } })).toMatchObject({ by: 'itself' });
  });

  it('can be another for one entry, while nothing is decided on it', async () => {
    const { version: first, contract_id: found } = await entry(worked);
    const byTheHour = { by: 'hand', contractId: null } as const;
    const params = { entryId: worked };
    const done = await hanna.do('setEntryContract', { params, version: first, body: byTheHour });
    expect((await entry(worked)).contract_id).toBeNull();
    // The answer has what takes it back.
    const { version } = await hanna.do('setEntryContract', { params, version: done.version, body: done.undo });
    expect([(await entry(worked)).contract_id, done.undo]).toEqual([found, { by: 'itself', contractId: null }]);
    const choice = { params, version, body: byTheHour };
    expect((await hanna.do('setEntryContract', choice)).undo).toEqual(done.undo);
    const charge = await world.knex('charge').where({ time_entry_id: worked, kind: 'labour' }).first();
    expect(charge.state).toBe('proposed');
    expect((await hanna.ask('setEntryContract', choice)).status).toBe(412);
    await world.knex('charge').where({ id: charge.id }).update({ state: 'approved' });
    const decided = await hanna.ask('setEntryContract', { ...choice, version: version + 1, body: { by: 'itself', contractId: null } });
    expect(decided.body).toMatchObject({ status: 409, detail: expect.stringContaining('decided') });
  });
});

describe("a contract's own rates and rounding", () => {
  it('come before those of the client and the house, for the work that it takes', async () => {
    const { ticketId: ticket, clientId: client } = await ownClient(world);
    const body = {
      clientId: client,
      name: 'Hours',
      startsOn: '2026-11-01',
      lastDay: null,
      preset: 'by the hour',
      grant: null,
      price: null,
    };
    const { id: contractId } = await hanna.do('createContract', { body: body as never });
    const version = async () => (await hanna.do('getContract', { params: { contractId } })).version;
    await hanna.do('agreeContract', { params: { contractId }, version: await version() });
    await hanna.do('setCover', { params: { contractId }, version: await version(), body: { rules: [coverRule()] } });
    const rates = [{ gradeId: null, activityId: null, band: null, rate: '60', from: '2026-11-01', lastDay: '2026-11-22' }];
    await hanna.do('setRates', { params: { contractId }, version: await version(), body: { rates } as never });
    const on = async (startsAt: string) => {
      const { id } = await deepa.do('addEntry', { body: { ...form(startsAt, '40'), workId: ticket } });
      const { effect } = await world.knex('entry_effect').where({ time_entry_id: id }).first('effect');
      return { id, minor: effect.amount.minor, minutes: effect.billedMinutes };
    };
    const before = await on('2026-11-20T10:00:00Z');
    const after = await on('2026-11-23T10:00:00Z');
    expect(before.minor).toBe(Math.round((6000 * before.minutes) / 60));
    expect(after.minor).not.toBe(before.minor);
    const roundings = [{ activityId: null, increment: 60, mode: 'up', minimum: 0 }];
    await hanna.do('setRoundings', { params: { contractId }, version: await version(), body: { roundings } as never });
    expect(await effectOf(before.id)).toMatchObject({ billedMinutes: 60, amount: { minor: 6000 } });
    expect(await hanna.do('getContract', { params: { contractId } })).toMatchObject({
      rates: [{ says: 'all work', rate: '60', lastDay: '2026-11-22' }],
      roundings: [{ says: 'all work: up to 60 min, at least 0 min' }],
    });
    const backwards = [{ ...rates[0], lastDay: '2026-10-01' }];
    const refused = await hanna.ask('setRates', { params: { contractId }, version: await version(), body: { rates: backwards } as never });
    expect(refused.body).toMatchObject({ status: 422, fields: { 'rates.0.lastDay': '2026-11-01 or later' } });
    const twice = await hanna.ask('setRoundings', {
      params: { contractId },
      version: await version(),
      body: { roundings: [...roundings, ...roundings] } as never,
    });
    expect(twice.status).toBe(422);
  });
});
