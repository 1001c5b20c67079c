import { execFile } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { apiRoutes } from '@core/api';
import { ACCESS_ROLES, holds, PERMISSIONS } from '@core/permissions';
import type { Route } from '@core/routes';
import { Script, startWorld, type World } from '../../testing/test-server';
import { hashToken } from './tokens';

let world: World;
beforeAll(async () => (world = await startWorld()));
afterAll(() => world.stop());

const routes = Object.values(apiRoutes) as Route[];
const json = { 'content-type': 'application/json' };

/** A browser's worth: keeps the cookie. */
async function signIn(email: string, password: string) {
  const response = await fetch(`${world.base}/api/session`, { method: 'POST', headers: json, body: JSON.stringify({ email, password }) });
  return {
    status: response.status,
    cookie: response.headers.get('set-cookie')?.split(';')[0] ?? '',
    header: response.headers.get('set-cookie') ?? '',
  };
}

describe('access', () => {
  const persons: Record<string, string> = {
    'service manager': 'Aoife',
    dispatcher: 'Tomasz',
    technician: 'Deepa',
    billing: 'Ngozi',
    'account manager': 'Leif',
    administrator: 'Hanna',
  };

  // Made from the table of routes: a new route is tested without a line here.
  it.each(ACCESS_ROLES)('lets a %s in by the table and keeps them out by it, on every route', async (role) => {
    const script = await world.as(persons[role]!);
    for (const route of routes) {
      if (route.permission === 'open' || route.name === 'signOut') continue;
      const { status, body } = await script.ask(route.name as never, { body: {}, version: 0 });
      const may = route.permission === 'signed in' || holds(role, route.permission);
      const barred =
        status === 403 &&
        (body as { type: string }).type === 'urn:drumline:problem:not-allowed' &&
        (body as { detail: string }).detail.startsWith('This needs the permission');
      expect([route.name, barred]).toEqual([route.name, !may]);
      expect([route.name, status === 401 || status >= 500]).toEqual([route.name, false]);
    }
  });

  it('asks everybody else to sign in, on every route that is not open', async () => {
    const nobody = new Script(world.base, undefined);
    for (const route of routes) {
      const { status } = await nobody.ask(route.name as never, { body: {}, version: 0 });
      expect([route.name, status === 401]).toEqual([route.name, route.permission !== 'open']);
    }
    expect((await fetch(`${world.base}/api/live`)).status).toBe(401);
  });

  it('gives every permission to somebody, and every role something', () => {
    for (const roles of Object.values(PERMISSIONS)) expect(roles.length).toBeGreaterThan(0);
    for (const role of ACCESS_ROLES)
      expect(routes.some((r) => r.permission !== 'open' && r.permission !== 'signed in' && holds(role, r.permission))).toBe(true);
  });

  it('signs in with argon2id, writes every try down, and gives a new session each time', async () => {
    const [hash] = await world.knex('person').limit(1).pluck('password_hash');
    expect(hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    const wrong = await signIn('aoife.brannigan@pellworth.example', 'nope');
    expect([wrong.status, wrong.cookie]).toEqual([422, '']);
    expect((await signIn('who@pellworth.example', 'nope')).status).toBe(422);
    const a = await signIn('aoife.brannigan@pellworth.example', 'drumline-demo');
    const b = await signIn('aoife.brannigan@pellworth.example', 'drumline-demo');
    expect([a.status, a.header.includes('HttpOnly'), a.header.includes('SameSite=Lax')]).toEqual([200, true, true]);
    expect(a.cookie).not.toBe(b.cookie);
    expect(await world.knex('sign_in').where({ ok: false })).toHaveLength(2);
    const me = (await (await fetch(`${world.base}/api/session`, { headers: { cookie: a.cookie } })).json()) as { person: { name: string } };
    expect(me.person.name).toBe('Aoife Brannigan');
  });

  it('refuses a command from a page of another session', async () => {
    const { cookie } = await signIn('aoife.brannigan@pellworth.example', 'drumline-demo');
    const command = (csrf: string) =>
      fetch(`${world.base}/api/tokens`, {
        method: 'POST',
        headers: { ...json, cookie, 'idempotency-key': 'csrf', 'x-csrf-token': csrf },
        body: '{"label":"x"}',
      });
    expect((await command('wrong')).status).toBe(403);
    const { csrf } = (await (await fetch(`${world.base}/api/session`, { headers: { cookie } })).json()) as { csrf: string };
    expect((await command(csrf)).status).toBe(200);
  });

  it('stops guessing after ten wrong tries', async () => {
    const answers = [];
    for (let i = 0; i < 12; i++) answers.push((await signIn('leif.sandvik@pellworth.example', `guess ${i}`)).status);
    expect(answers.at(-1)).toBe(429);
  });

  it('keeps tokens hashed, shows them once, and revokes them at once', async () => {
    const manager = await world.as('Aoife');
    const made = await manager.do('createToken', { body: { label: 'nightly export' } });
    const row = await world.knex('api_token').where({ id: made.id }).first();
    expect(row.token_hash.equals(hashToken(made.secret))).toBe(true);
    expect(JSON.stringify(await manager.do('listTokens'))).not.toContain(made.secret);
    const script = new Script(world.base, made.secret);
    expect((await script.do('getSession')).person.name).toBe('Aoife Brannigan');
    const technician = await world.as('Deepa');
    expect((await technician.ask('revokeToken', { params: { tokenId: made.id } })).status).toBe(404);
    await manager.do('revokeToken', { params: { tokenId: made.id } });
    expect((await script.ask('getSession')).status).toBe(401);
  });

  it('names what is wrong by field, what was asked for, and nothing of the database', async () => {
    const script = await world.as('Leif');
    const { status, body, headers } = await script.ask('createClient', {
      body: { name: '', country: 'Ireland', zone: 'Mars/Base', paymentDays: -1 },
    });
    expect([status, headers.get('content-type')]).toEqual([422, 'application/problem+json; charset=utf-8']);
    expect((body as { fields: Record<string, string> }).fields).toMatchObject({
      name: 'write something',
      country: 'two letters, such as IE',
      zone: 'an IANA zone such as Europe/Dublin',
      paymentDays: 'at least 0',
      city: expect.any(String),
    });
    expect((await script.ask('getClient', { params: { clientId: "'; drop table client" } })).status).toBe(422);
    const broken = await fetch(`${world.base}/api/clients`, { method: 'POST', headers: json, body: '{"name":' });
    expect([broken.status, ((await broken.json()) as { title: string }).title]).toEqual([400, 'Not JSON']);
    expect((await fetch(`${world.base}/api/nowhere`)).status).toBe(404);
  });

  it('describes itself in a document that an OpenAPI linter accepts', async () => {
    const document = (await (await fetch(`${world.base}/api/openapi.json`)).json()) as {
      openapi: string;
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    const ids = Object.values(document.paths).flatMap((path) => Object.values(path).map((o) => o.operationId));
    expect(ids.sort()).toEqual(Object.keys(apiRoutes).sort());
    const file = join(world.folder, 'openapi.json');
    await writeFile(file, JSON.stringify(document));
    const { stdout, stderr } = await promisify(execFile)(
      'node_modules/.bin/redocly',
      ['lint', file, '--format=json', '--extends=minimal'],
      { env: { ...process.env, REDOCLY_TELEMETRY: 'off', CI: '1' } },
    ).catch((fault: { stdout: string; stderr: string }) => fault);
    const totals = (JSON.parse(stdout.slice(stdout.indexOf('{'))) as { totals: { errors: number } }).totals;
    expect([totals.errors, totals.errors ? stdout + stderr : '']).toEqual([0, '']);
  }, 60_000);

  it('says whether it is up, ready, and how it fares', async () => {
    expect(await (await fetch(`${world.base}/healthz`)).json()).toEqual({ up: true });
    expect(await (await fetch(`${world.base}/readyz`)).json()).toEqual({ ready: true, database: 'there' });
    expect((await fetch(`${world.base}/metrics`)).status).toBe(404);
    const key = { authorization: 'Bearer a key that only tests know' };
    const metrics = await (await fetch(`${world.base}/metrics`, { headers: key })).text();
    expect(metrics).toMatch(/drumline_http_request_seconds_count\{method="GET",status="200"\} \d+/);
  });
});
