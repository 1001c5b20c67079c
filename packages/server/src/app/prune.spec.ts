import { randomUUID } from 'node:crypto';
import { startWorld, until, type World } from '../../testing/test-server';
import { KEPT_DAYS, prune } from './prune';

let world: World;
beforeAll(async () => (world = await startWorld()));
afterAll(() => world.stop());

const rows = async (table: string, where: object) => Number((await world.knex(table).where(where).count('* as n').first())!['n']);

describe('the nightly clearing', () => {
  it('removes what only served a while, and nothing that still serves', async () => {
    const manager = await world.as('Aoife');
    const { rows: tickets } = await manager.do('listTickets', { query: { state: 'open' } });
    const [ticket] = tickets;
    const key = randomUUID();
    const note = { params: { ticketId: ticket!.id }, body: { text: 'Kept once' }, key };
    await manager.do('addNote', note);
    await until('the event is sent', async () => (await rows('outbox', { subject_id: ticket!.id })) > 0);
    await world.knex('session').insert([
      { sid: 'over', sess: '{}', expire: new Date(Date.now() - 1000) },
      { sid: 'going on', sess: '{}', expire: new Date(Date.now() + 60_000) },
    ]);
    const upload = { params: { ticketId: ticket!.id }, query: { name: 'left lying.txt' } as never, body: Buffer.from('x') as never };
    const { id: fileId } = await manager.do('addUpload', upload);
    await prune(world.running.app);
    expect(await rows('upload', { id: fileId })).toBe(1);
    expect([await rows('session', { sid: 'over' }), await rows('session', { sid: 'going on' })]).toEqual([0, 1]);
    // The key still holds: the same command again does nothing more.
    await manager.do('addNote', note);
    expect(await rows('message', { ticket_id: ticket!.id, text: 'Kept once' })).toBe(1);
    const sent = await rows('outbox', { subject_id: ticket!.id });
    expect(sent).toBeGreaterThan(0);
    world.clock.forward((KEPT_DAYS.sentEvents + 1) * 86_400);
    await world
      .knex('idempotency_key')
      .where({ key })
      .update({ at: new Date(Date.now() - (KEPT_DAYS.idempotencyKeys + 1) * 86_400_000) });
    await until('all events are sent', async () => (await rows('outbox', { seq: null })) === 0);
    await prune(world.running.app);
    expect([await rows('outbox', { subject_id: ticket!.id }), await rows('idempotency_key', { key })]).toEqual([0, 0]);
    expect(await rows('upload', { id: fileId })).toBe(0);
    expect(await rows('event', { subject_id: ticket!.id })).toBeGreaterThan(0);
  });

  it('is a job that the queue knows and can run', async () => {
    await world.knex('session').insert({ sid: 'by job', sess: '{}', expire: new Date(Date.now() - 1000) });
    await world.knex.raw(`select graphile_worker.add_job('prune', '{}')`);
    await until('the job ran', async () => (await rows('session', { sid: 'by job' })) === 0);
  });
});

describe('the figures of the rail', () => {
  it('show nothing of what a role may not see', async () => {
    const of = async (name: string) => (await world.as(name)).do('getCounts');
    const [manager, technician, billing] = [await of('Aoife'), await of('Deepa'), await of('Ngozi')];
    expect(manager.unsorted).toBe(7);
    expect(manager.charges).toBeGreaterThan(0);
    expect([technician.unsorted, technician.charges, technician.cleared]).toEqual([0, 0, 0]);
    expect(technician.openTickets).toBe(manager.openTickets);
    expect([billing.unsorted, billing.unbooked]).toEqual([0, 0]);
    expect(billing.charges).toBe(manager.charges);
  });
});
