import { connect } from 'node:net';
import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { apiRoutes } from '@core/api';
import { measureInput, measureOf, MOST_FAULTS, type Route } from '@core/ground';
import { inputOf } from '../../testing/generate-input';
import { startWorld, type World } from '../../testing/test-server';

/** ROUNDS=100 asks each route so often, for a search in depth. */
const EACH = Number(process.env['ROUNDS'] ?? 24);
const AT_ONCE = 8;
/** So long nothing may take: what is given is measured before it is read. A hang, not a speed, is looked for. */
const HANGS_MS = 20_000;
const SEED = 12;

let world: World;
let token: string;
let ids: string[];
beforeAll(async () => {
  world = await startWorld();
  token = ((await world.as('Hanna')) as unknown as { token: string }).token;
  ids = [];
  for (const table of [
    'ticket',
    'client',
    'contact',
    'person',
    'desk',
    'asset',
    'booking',
    'time_entry',
    'charge',
    'catalogue_item',
    'invoice',
    'activity',
    'message',
    'category',
    'team',
  ])
    // prettier-ignore
    ids.push(...(await world.knex(table).limit(3).pluck('id')));
});
afterAll(() => world.stop());

const routes = Object.values(apiRoutes) as Route[];

interface Sent {
  readonly params: readonly string[];
  readonly query: unknown;
  readonly body: unknown;
  readonly version: string;
}

const sentTo = (route: Route): fc.Arbitrary<Sent> =>
  fc.record({
    params: fc.array(
      fc.oneof(
        { weight: 8, arbitrary: fc.constantFrom(...ids) },
        { weight: 1, arbitrary: fc.constantFrom('-'.repeat(36), 'x', '1', '%00', '%ff', 'é', '00000000-0000-0000-0000-000000000000') },
      ),
      { minLength: 3, maxLength: 3 },
    ),
    query: inputOf(route.query, ids),
    body: route.upload ? fc.constantFrom('', 'bytes', '\0') : inputOf(route.body, ids),
    version: fc.constantFrom('"1"', '"1"', '"2"', '0', '"99999999999999999999999"', 'x', ''),
  });

async function send(route: Route, { params, query, body, version }: Sent, more: object = {}) {
  const rest = [...params];
  const path = route.path.replace(/:\w+/g, () => rest.shift()!);
  const search = new URLSearchParams();
  if (query && typeof query === 'object')
    for (const [name, value] of Object.entries(query))
      for (const each of Array.isArray(value) ? value.slice(0, 3) : [value])
        if (each !== undefined && each !== null) search.append(name, typeof each === 'object' ? '[object]' : String(each).slice(0, 2000));
  const given = body !== null && typeof body === 'object' && !Array.isArray(body) ? { ...body, ...more } : body;
  const answer = await fetch(`${world.base}/api${path}${search.size ? `?${search}` : ''}`, {
    method: route.method,
    signal: AbortSignal.timeout(HANGS_MS),
    headers: {
      authorization: `Bearer ${token}`,
      'content-type': route.upload ? 'application/octet-stream' : 'application/json',
      'idempotency-key': crypto.randomUUID(),
      ...(version ? { 'if-match': version } : {}),
    },
    ...(route.method === 'GET' || given === undefined ? {} : { body: route.upload ? String(given) : JSON.stringify(given) }),
  });
  return {
    status: answer.status,
    text: await answer.text(),
    asked: `${route.method} ${path}?${search} ${JSON.stringify(given)?.slice(0, 400)}`,
  };
}

describe('whatever is given', () => {
  it('has a largest size in every schema, and is measured in a time that does not depend on it', () => {
    for (const route of routes)
      for (const schema of [route.query, route.body]) if (schema) expect(() => measureOf(schema, route.name)).not.toThrow();
    const measure = measureOf(apiRoutes.replyToTicket.body);
    const faults = measureInput(measure, { text: 1, uploadIds: Array(100_000).fill('x'), zzz: 1 });
    expect(faults).toMatchObject({
      uploadIds: expect.stringContaining('100000 were given'),
      zzz: expect.stringContaining('no such field'),
    });
    const many = Object.fromEntries(Array.from({ length: 10_000 }, (_, n) => [`f${n}`, 1]));
    expect(Object.keys(measureInput(measure, many)).length).toBeLessThanOrEqual(MOST_FAULTS);
    let deep: unknown = 1;
    for (let n = 0; n < 50_000; n++) deep = [deep];
    expect(measureInput({ is: 'free' }, deep)).toEqual({ body: expect.stringContaining('deep') });
    expect(measureInput({ is: 'free' }, JSON.parse('{"__proto__": 1}'))).toEqual({ body: expect.stringContaining('__proto__') });
  });

  it('is answered on every route: no fault, no hang, and no unknown field is taken in silence', async () => {
    const bad: string[] = [];
    for (const route of routes) {
      const all = fc.sample(sentTo(route), { numRuns: EACH, seed: SEED });
      for (let n = 0; n < all.length; n += AT_ONCE)
        await Promise.all(
          all.slice(n, n + AT_ONCE).map(async (sent, k) => {
            const unknown = k === 0 && route.body && sent.body !== null && typeof sent.body === 'object' && !Array.isArray(sent.body);
            const { status, text, asked } = await send(route, sent, unknown ? { zzz: 1 } : {});
            if (status >= 500 || (unknown && status < 300)) bad.push(`${route.name} ${status}: ${asked} → ${text.slice(0, 300)}`);
          }),
        );
    }
    expect(bad.slice(0, 30)).toEqual([]);
  }, 600_000);

  it('is refused in words where it is no request at all', async () => {
    const raw = async (path: string, init: RequestInit = {}) => {
      const answer = await fetch(`${world.base}${path}`, {
        method: 'POST',
        ...init,
        headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json', 'idempotency-key': 'raw', ...init.headers },
      });
      return [answer.status, await answer.text()] as const;
    };
    const status = async (...asked: Parameters<typeof raw>) => (await raw(...asked))[0];
    expect(await status('/api/clients', { body: '['.repeat(50_000) + ']'.repeat(50_000) })).toBeLessThan(500);
    expect(await status('/api/clients', { body: `{"name":${'['.repeat(50_000)}${']'.repeat(50_000)}}` })).toBe(422);
    expect(await status('/api/clients', { body: '{"__proto__":{"name":"x"}}' })).toBe(422);
    expect(await status('/api/clients', { body: 'x', headers: { 'content-encoding': 'gzip' } })).toBe(400);
    expect(await status('/api/clients', { body: gzipSync('{}').subarray(0, 12), headers: { 'content-encoding': 'gzip' } })).toBe(400);
    expect(await status('/api/clients', { body: '{}', headers: { 'content-encoding': 'zzz' } })).toBe(415);
    expect(await status('/api/clients', { body: '{}', headers: { 'content-type': 'application/json; charset=zzz' } })).toBe(415);
    expect(await status('/api/tickets/%ff', { method: 'GET' })).toBe(400);
    expect(await status('/%ff', { method: 'GET' })).toBe(400);
    expect(await status('/api/clients?name=a&name=b', { method: 'GET' })).toBe(422);
    expect(await status('/api/notes', { body: '{}', headers: { 'idempotency-key': 'k'.repeat(201) } })).toBe(404);
    expect(await status('/api/tokens', { body: '{"label":"x"}', headers: { 'idempotency-key': 'k'.repeat(201) } })).toBe(400);
    for (const path of ['/request/somebody-new', '/follow/x/y/yes', '/openings/x', '/schedule/x.ics', '/follow/%00/x/yes'])
      for (const init of [
        { body: '' },
        { body: 'a=1', headers: { 'content-type': 'application/x-www-form-urlencoded' } },
        { method: 'GET' },
      ])
        expect([path, await status(path, init)]).toEqual([path, expect.any(Number)]);
    const socket = connect(world.running.port, '127.0.0.1').on('error', () => undefined);
    socket.end('POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 100\r\n\r\n{"email"');
    expect(await status('/healthz', { method: 'GET' })).toBe(200);
  });

  it('is kept under its key with the query and the body, and never as the secret that it made', async () => {
    const script = await world.as('Aoife');
    const made = await script.ask('createToken', { body: { label: 'one' }, key: 'secret-1' });
    const again = await script.ask('createToken', { body: { label: 'one' }, key: 'secret-1' });
    expect([made.status, again.status]).toEqual([200, 409]);
    const feed = (await script.ask('makeFeed', { key: 'feed-1' })).body as { address: string };
    const kept = JSON.stringify(await world.knex('idempotency_key').whereIn('key', ['secret-1', 'feed-1']));
    for (const secret of [(made.body as { secret: string }).secret, feed.address.split('/').at(-1)!]) {
      expect(kept).not.toContain(secret.replace('.ics', ''));
      const { rows } = await world.knex.raw(`select count(*)::int as n from schedule_feed f where f::text like ?`, [
        `%${secret.replace('.ics', '')}%`,
      ]);
      expect(rows[0].n).toBe(0);
    }
    expect((await script.ask('createToken', { body: { label: 'two' }, key: 'secret-1' })).status).toBe(409);
  });

  it('needs one connection at a time: every route answers with a pool of one', async () => {
    const narrow = await world.second({ DATABASE_CONNECTIONS: 1 });
    const waited: string[] = [];
    for (const route of routes) {
      const [sent] = fc.sample(sentTo(route), { numRuns: 1, seed: 3 });
      const path = route.path.replace(/:\w+/g, () => ids[0]!);
      const answer = await fetch(`http://127.0.0.1:${narrow.port}/api${path}`, {
        method: route.method,
        signal: AbortSignal.timeout(HANGS_MS),
        headers: {
          authorization: `Bearer ${token}`,
          'content-type': 'application/json',
          'idempotency-key': crypto.randomUUID(),
          'if-match': '"1"',
        },
        ...(route.method === 'GET' || sent!.body === undefined ? {} : { body: JSON.stringify(sent!.body) }),
      });
      await answer.text();
      if (answer.status >= 500) waited.push(`${route.name} ${answer.status}`);
    }
    expect(waited).toEqual([]);
  }, 300_000);
});
