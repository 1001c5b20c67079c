import type { NeverChargedIs } from '@core/billing';
import { startBilling } from '../../../testing/billing';
import { startWorld, type World } from '../../../testing/test-server';

let world: World;
let stage: Awaited<ReturnType<typeof startBilling>>;
beforeAll(async () => {
  world = await startWorld();
  stage = await startBilling(world);
});
afterAll(() => world.stop());

const read = (query: { reason?: string } = {}) => stage.billing.do('listNeverCharged', { query });
const found = async (is: NeverChargedIs, query: { reason?: string } = {}) => (await read(query)).rows.filter((r) => r.is === is);

describe('what was never charged', () => {
  it('is time that is not billable, at just what it would be charged at', async () => {
    const ticket = await stage.ticketOf('Brackwater Ferries');
    const asCharged = await stage.record(ticket.id, '2026-11-23T09:00:00Z', { duration: '50' });
    const [charge] = await stage.chargesOf(asCharged.id);
    const body = {
      workId: ticket.id,
      startsAt: '2026-11-23T11:00:00Z',
      duration: '50',
      activityId: stage.activity('remote'),
      note: 'a favour',
    };
    await stage.technician.do('addEntry', { body: { ...body, billable: false, reason: 'goodwill' } });
    const mine = (await found('not billable', { reason: 'goodwill' })).filter((r) => r.what === 'a favour');
    expect(mine).toMatchObject([
      { ticketNumber: ticket.number, minutes: 50, because: 'goodwill', worth: { minor: Number(charge!.net_minor) } },
    ]);
    const { sums, reasons, rows } = await read({ reason: 'goodwill' });
    const { count, worth } = sums.find((s) => s.is === 'not billable')!;
    expect(reasons.reduce((sum, r) => sum + r.count, 0)).toBe(count);
    expect(reasons.reduce((sum, r) => sum + r.worth.minor, 0)).toBe(worth.minor);
    const goodwill = reasons.find((r) => r.reason === 'goodwill')!;
    const listed = rows.filter((r) => r.is === 'not billable');
    expect([goodwill.count, goodwill.worth.minor]).toEqual([listed.length, listed.reduce((sum, r) => sum + r.worth.minor, 0)]);
    expect(await found('not billable')).toEqual([]);
  });

  it('is a job that looks like one with a fee, until it has it or somebody says that it is none', async () => {
    const jobs = await found('no fee');
    const fee = (await world.knex('flat_fee').whereNot({ words: '{}' }).first('id', 'name', 'words'))!;
    const plain = (await world
      .knex('ticket as t')
      .whereNotNull('t.resolved_at')
      .whereNotNull('t.client_id')
      .whereNotIn('t.kind', ['internal', 'alert', 'flat-fee job'])
      .whereNull('t.no_fee_at')
      .where({ is_umbrella: false })
      .whereNotExists(world.knex('ticket_fee as x').whereRaw('x.ticket_id = t.id').select('x.ticket_id'))
      .where('t.resolved_at', '<', '2026-11-24')
      .whereNotIn(
        't.number',
        jobs.map((j) => j.ticketNumber!),
      )
      .orderBy('t.resolved_at', 'desc')
      .first('t.id', 't.number'))!;
    await world
      .knex('ticket')
      .where({ id: plain.id })
      .update({ subject: `Please: ${fee.words[0]}`, category_id: null });
    expect((await found('no fee')).find((j) => j.ticketNumber === plain.number)).toMatchObject({
      because: expect.stringContaining(fee.name),
    });
    await world.knex('ticket').where({ id: plain.id }).update({ no_fee_at: new Date() });
    expect((await found('no fee')).map((j) => j.ticketNumber)).not.toContain(plain.number);
  });

  it('is somebody new at a client whom no fee was taken for', async () => {
    const before = (await found('new person')).length;
    const client = (await world.knex('client').whereNull('archived_at').first('id'))!;
    const fee = await world.knex('flat_fee').where({ for_new_person: true }).first('id');
    await world
      .knex('contact')
      .insert({ client_id: client.id, name: 'Wren Okafor', email: 'wren@new.example', since: '2026-11-20T09:00:00Z' });
    const names = (await found('new person')).map((r) => r.what);
    expect([names.length, names.includes('Wren Okafor')]).toEqual(fee ? [before + 1, true] : [0, false]);
  });

  it('is read by those alone who may read charges', async () => {
    expect((await stage.technician.ask('listNeverCharged')).status).toBe(403);
  });
});
