import { startWorld, until, type World } from '../../testing/test-server';

let world: World;
beforeAll(async () => (world = await startWorld()));
afterAll(() => world.stop());

interface Seen {
  readonly seq: number;
  readonly topic: string;
  readonly id: string | null;
}

/** A browser's event stream, read as one. */
async function listen(base: string, token: string, lastEventId?: number) {
  const seen: Seen[] = [];
  const stop = new AbortController();
  const response = await fetch(`${base}/api/live`, {
    signal: stop.signal,
    headers: { authorization: `Bearer ${token}`, ...(lastEventId === undefined ? {} : { 'last-event-id': String(lastEventId) }) },
  });
  const reading = (async () => {
    let rest = '';
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
      rest += Buffer.from(chunk).toString();
      const blocks = rest.split('\n\n');
      rest = blocks.pop()!;
      for (const block of blocks) {
        const [id, data] = [/^id: (\d+)$/m.exec(block)?.[1], /^data: (.*)$/m.exec(block)?.[1]];
        if (id && data && !block.includes('event: hello')) seen.push({ seq: Number(id), ...(JSON.parse(data) as Omit<Seen, 'seq'>) });
      }
    }
  })().catch(() => undefined);
  return { seen, close: () => (stop.abort(), reading) };
}

describe('live', () => {
  it('brings what one process did to the browsers of another, in order and once', async () => {
    const other = await world.second();
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const [here, there] = await Promise.all([listen(world.base, token), listen(`http://127.0.0.1:${other.port}`, token)]);
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await Promise.all(
      Array.from({ length: 12 }, (_, i) => manager.do('addNote', { params: { ticketId: t!.id }, body: { text: `note ${i}` } })),
    );
    for (const stream of [here, there]) {
      await until('twelve events', async () => stream.seen.filter((e) => e.id === t!.id).length === 12);
      const seqs = stream.seen.map((e) => e.seq);
      expect(seqs).toEqual([...seqs].sort((a, b) => a - b));
      expect(new Set(seqs).size).toBe(seqs.length);
    }
    expect(here.seen).toEqual(there.seen);
    await Promise.all([here.close(), there.close()]);
  });

  it('gives a browser that was away just what it missed', async () => {
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    const first = await listen(world.base, token);
    await manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'seen' } });
    const last = (await until('the first event', async () => first.seen[0])).seq;
    await first.close();
    for (const text of ['missed one', 'missed two']) await manager.do('addNote', { params: { ticketId: t!.id }, body: { text } });
    await until('the relay numbered them', async () => (await world.knex('outbox').whereNull('seq')).length === 0);
    const back = await listen(world.base, token, last);
    await until('both', async () => back.seen.length >= 2);
    expect(back.seen.map((e) => e.seq)).toEqual([last + 1, last + 2]);
    await manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'live again' } });
    await until('the live one', async () => back.seen.length === 3);
    await back.close();
  });

  it('numbers the outbox without a gap, and nothing of a command that was refused', async () => {
    const manager = await world.as('Aoife');
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await manager.ask('markNotWork', { params: { ticketId: t!.id }, version: 99 });
    await until('all numbered', async () => (await world.knex('outbox').whereNull('seq')).length === 0);
    const seqs = await world.knex('outbox').orderBy('seq').pluck('seq');
    expect(seqs).toEqual(seqs.map((_: number, i: number) => seqs[0] + i));
    expect(await world.knex('story').where({ what: 'marked as not work' })).toHaveLength(0);
  });

  it('listens again after its connection was cut', async () => {
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const stream = await listen(world.base, token);
    await world.knex.raw(
      `select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen %' and datname = current_database()`,
    );
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'after the cut' } });
    await until('it comes all the same', async () => stream.seen.some((e) => e.id === t!.id));
    await stream.close();
  });
});
