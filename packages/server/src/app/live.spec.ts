import type { TicketCounts } from '@core/desk';
import type { LiveEvent } from '@core/ground';
import { startWorld, until, type World } from '../../testing/test-server';

let world: World;
beforeAll(async () => (world = await startWorld()));
afterAll(() => world.stop());

interface Seen extends LiveEvent {
  readonly seq: number;
}

/** A browser's event stream, read as one. */
async function listen({
  base,
  token,
  lastEventId,
  after,
  headers,
}: {
  readonly base: string;
  readonly token: string;
  readonly lastEventId?: number;
  readonly after?: number;
  readonly headers?: Record<string, string>;
}) {
  const seen: Seen[] = [];
  const counts: TicketCounts[] = [];
  let anew = false;
  const stop = new AbortController();
  const response = await fetch(`${base}/api/live${after === undefined ? '' : `?after=${after}`}`, {
    signal: stop.signal,
    headers: {
      ...(headers ?? { authorization: `Bearer ${token}` }),
      ...(lastEventId === undefined ? {} : { 'last-event-id': String(lastEventId) }),
    },
  });
  const reading = (async () => {
    let rest = '';
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
      rest += Buffer.from(chunk).toString();
      const blocks = rest.split('\n\n');
      rest = blocks.pop()!;
      for (const block of blocks) {
        const [id, data] = [/^id: (\d+)$/m.exec(block)?.[1], /^data: (.*)$/m.exec(block)?.[1]];
        if (block.includes('event: anew')) anew = true;
        else if (block.includes('event: counts')) counts.push(JSON.parse(data!) as TicketCounts);
        else if (id && data && !block.includes('event: hello')) seen.push({ seq: Number(id), ...(JSON.parse(data) as Omit<Seen, 'seq'>) });
      }
    }
  })().catch(() => undefined);
  return { seen, counts, anew: () => anew, ended: reading, close: () => (stop.abort(), reading) };
}

describe('live', () => {
  it('brings what one process did to the browsers of another, in order and once', async () => {
    const other = await world.second();
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const [here, there] = await Promise.all([
      listen({ base: world.base, token }),
      listen({ base: `http://127.0.0.1:${other.port}`, token }),
    ]);
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await Promise.all(
      Array.from({ length: 12 }, (_, i) => manager.do('addNote', { params: { ticketId: t!.id }, body: { text: `note ${i}` } })),
    );
    const notes = (stream: typeof here) => stream.seen.filter((e) => e.id === t!.id && e.by !== null);
    for (const stream of [here, there]) {
      await until('twelve notes', async () => notes(stream).length >= 12);
      const seqs = stream.seen.map((e) => e.seq);
      expect(seqs).toEqual([...seqs].sort((a, b) => a - b));
      expect(new Set(seqs).size).toBe(seqs.length);
    }
    // Jobs tell of what they do meanwhile, and either stream may have heard more of that by now.
    expect(notes(here)).toEqual(notes(there));
    const [from, to] = [here, there]
      .map((s) => [s.seen[0]!.seq, s.seen.at(-1)!.seq])
      .reduce(([a, b], [c, d]) => [Math.max(a!, c!), Math.min(b!, d!)]);
    const span = (stream: typeof here) => stream.seen.filter((e) => e.seq >= from! && e.seq <= to!);
    expect(span(here)).toEqual(span(there));
    await Promise.all([here.close(), there.close()]);
  });

  it('gives a browser that was away just what it missed', async () => {
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    const first = await listen({ base: world.base, token });
    await manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'seen' } });
    const last = (await until('the first event', async () => first.seen.find((e) => e.id === t!.id && e.by !== null))).seq;
    await first.close();
    for (const text of ['missed one', 'missed two']) await manager.do('addNote', { params: { ticketId: t!.id }, body: { text } });
    await until('the relay numbered them', async () => (await world.knex('outbox').whereNull('seq')).length === 0);
    const back = await listen({ base: world.base, token, lastEventId: last });
    // A clock that falls due meanwhile tells of the same ticket, with nobody's name.
    const own = () => back.seen.filter((e) => e.id === t!.id && e.by !== null);
    await until('both', async () => own().length === 2);
    // Jobs tell of what they do meanwhile; of all but the notices of others, nothing is left out and nothing comes twice.
    const me = (await world.knex('person').where('name', 'like', 'Aoife%').first('id')).id;
    const isWhole = async () => {
      const all = back.seen.map((e) => e.seq);
      const kept = await world
        .knex('outbox')
        .where('seq', '>', last)
        .where('seq', '<=', all.at(-1)!)
        .whereRaw(`(topic <> 'notice' or person_id = ?)`, [me])
        .orderBy('seq')
        .pluck('seq');
      expect(all).toEqual(kept);
    };
    await isWhole();
    await manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'live again' } });
    await until('the live one', async () => own().length === 3);
    await isWhole();
    await back.close();
  });

  it('numbers the outbox without a gap, and nothing of a command that was refused', async () => {
    const manager = await world.as('Aoife');
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await manager.ask('markNotWork', { params: { ticketId: t!.id }, version: 99 });
    await until('all numbered', async () => (await world.knex('outbox').whereNull('seq')).length === 0);
    const seqs = await world.knex('outbox').orderBy('seq').pluck('seq');
    expect(seqs).toEqual(seqs.map((_: number, i: number) => seqs[0] + i));
    expect(await world.knex('event').where({ type: 'ticket.not-work-set' })).toHaveLength(0);
  });

  it('listens again after its connection was cut', async () => {
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const stream = await listen({ base: world.base, token });
    await world.knex.raw(
      `select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen %' and datname = current_database()`,
    );
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'after the cut' } });
    await until('it comes all the same', async () => stream.seen.some((e) => e.id === t!.id));
    await stream.close();
  });

  it('brings what changed between the reading of the session and the opening of the stream', async () => {
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const { liveAt } = await manager.do('getSession');
    const [t] = (await manager.do('listTickets', { query: { state: 'unsorted' } })).rows;
    await manager.do('addNote', { params: { ticketId: t!.id }, body: { text: 'before the stream' } });
    const first = await listen({ base: world.base, token });
    await until('all numbered', async () => (await world.knex('outbox').whereNull('seq')).length === 0);
    const late = await listen({ base: world.base, token, after: liveAt });
    await until('it comes', async () => late.seen.some((e) => e.id === t!.id));
    await first.close();
    await late.close();
  });

  it('brings all that was missed after a long absence, or says to load anew', async () => {
    const manager = await world.as('Aoife');
    const token = (manager as unknown as { token: string }).token;
    const { last_seq: from } = await world.knex('outbox_position').first('last_seq');
    await world.knex.raw(
      `insert into outbox (topic, subject_id, payload, at) select 'missed', null, '{}', now() from generate_series(1, 4500)`,
    );
    await until('all numbered', async () => (await world.knex('outbox').whereNull('seq')).length === 0);
    const back = await listen({ base: world.base, token, lastEventId: from });
    await until('all of them', async () => back.seen.filter((e) => e.topic === 'missed').length === 4500);
    await back.close();
    await world.knex.raw(
      `insert into outbox (topic, subject_id, payload, at) select 'missed', null, '{}', now() from generate_series(1, 2000)`,
    );
    await until('all numbered', async () => (await world.knex('outbox').whereNull('seq')).length === 0);
    const anew = async (last: number) => {
      const stream = await listen({ base: world.base, token, lastEventId: last });
      await until('the word to load anew', async () => stream.anew());
      await stream.close();
      return stream.seen.length;
    };
    expect(await anew(from)).toBe(0);
    await world
      .knex('outbox')
      .where('seq', '<=', from + 6000)
      .delete();
    expect(await anew(from + 5000)).toBe(0);
  });

  it('ends with the token, the session and the role that opened it', async () => {
    const deepa = await world.as('Deepa');
    const manager = await world.as('Aoife');
    const made = await deepa.do('createToken', { body: { label: 'stream' } });
    const stream = await listen({ base: world.base, token: made.secret });
    await deepa.do('revokeToken', { params: { tokenId: made.id } });
    await stream.ended;
    const other = await deepa.do('createToken', { body: { label: 'role' } });
    const second = await listen({ base: world.base, token: other.secret });
    await world.knex('person').where('name', 'like', 'Deepa%').update({ role: 'dispatcher' });
    await world.knex('outbox').insert({ topic: 'access', payload: '{}', at: world.knex.fn.now() });
    await second.ended;
    await world.knex('person').where('name', 'like', 'Deepa%').update({ role: 'technician' });
    const json = { 'content-type': 'application/json' };
    const signed = await fetch(`${world.base}/api/session`, {
      method: 'POST',
      headers: json,
      body: JSON.stringify({ email: 'sora.minegishi@pellworth.example', password: 'drumline-demo' }),
    });
    const cookie = signed.headers.get('set-cookie')!.split(';')[0]!;
    const third = await listen({ base: world.base, token: '', lastEventId: undefined, headers: { cookie } });
    const { csrf } = (await (await fetch(`${world.base}/api/session`, { headers: { cookie } })).json()) as { csrf: string };
    await fetch(`${world.base}/api/session`, { method: 'DELETE', headers: { cookie, 'x-csrf-token': csrf } });
    await third.ended;
    expect((await manager.do('getSession')).person.name).toBe('Aoife Brannigan');
  });
});

describe('what screens are told', () => {
  const tokenOf = (script: unknown) => (script as { token: string }).token;

  it('names the ticket, client and person of what changed, so that nobody else has to look', async () => {
    const sora = await world.as('Sora');
    const stream = await listen({ base: world.base, token: tokenOf(sora) });
    const me = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
    const ticket = await world.knex('ticket').where({ status: 'queued' }).whereNotNull('client_id').first('id', 'client_id');
    await sora.do('startTimer', { body: { workId: ticket.id } });
    const started = await until('the timer', async () => stream.seen.find((e) => e.topic === 'timer' && e.personId === me));
    expect(started.ticketId).toBe(ticket.id);
    await sora.do('addNote', { params: { ticketId: ticket.id }, body: { text: 'Half way.' } });
    const noted = await until('the note', async () => stream.seen.find((e) => e.id === ticket.id && e.by === me));
    expect([noted.ticketId, noted.clientId]).toEqual([ticket.id, ticket.client_id]);
    await stream.close();
  });

  it('leaves out what is for one person alone', async () => {
    const [aoife, sora] = [await world.as('Aoife'), await world.as('Sora')];
    const [hers, other] = [
      await listen({ base: world.base, token: tokenOf(aoife) }),
      await listen({ base: world.base, token: tokenOf(sora) }),
    ];
    await aoife.do('seeNotices');
    const t = await world.knex('ticket').where({ status: 'queued' }).first('id');
    await aoife.do('addNote', { params: { ticketId: t.id }, body: { text: 'After the notice.' } });
    for (const stream of [hers, other]) await until('what came after', async () => stream.seen.some((e) => e.id === t.id));
    expect([hers, other].map((s) => s.seen.some((e) => e.topic === 'notice'))).toEqual([true, false]);
    await Promise.all([hers.close(), other.close()]);
  });

  it('has the figures of the rail, counted once for all who may see the same, to each what they may see', async () => {
    const [aoife, sora] = [await world.as('Aoife'), await world.as('Sora')];
    const [one, two, hers] = await Promise.all([aoife, aoife, sora].map((s) => listen({ base: world.base, token: tokenOf(s) })));
    const [t] = (await aoife.do('listTickets', { query: { state: 'unsorted' } })).rows;
    const before = await aoife.do('getCounts');
    await aoife.do('markNotWork', { params: { ticketId: t!.id }, version: t!.version });
    for (const stream of [one!, two!])
      await until('one less', async () => stream.counts.some((c) => c.unsorted === before.unsorted - 1 && c.charges === before.charges));
    expect(await sora.do('getCounts')).toMatchObject({ charges: 0, cleared: 0 });
    expect(hers!.counts.every((c) => c.charges === 0 && c.cleared === 0)).toBe(true);
    await Promise.all([one, two, hers].map((s) => s!.close()));
  });
});
