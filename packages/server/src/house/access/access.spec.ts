import { execFile } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { apiRoutes } from '@core/api';
import { ACCESS_ROLES, holds, PERMISSIONS, type Route } from '@core/ground';
import { Script, startWorld, until, type World } from '../../../testing/test-server';
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

function holdsPath(value: unknown, [name, ...rest]: readonly string[]): boolean {
  if (name === undefined) return true;
  if (name === '*') return (value as unknown[]).some((each) => holdsPath(each, rest));
  return typeof value === 'object' && value !== null && name in value && holdsPath((value as Record<string, unknown>)[name], rest);
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

  it('stops guessing after ten wrong tries, of all processes together, and locks nobody else out', async () => {
    const other = await world.second();
    const tries = async (base: string, email: string, password: string) =>
      (await fetch(`${base}/api/session`, { method: 'POST', headers: json, body: JSON.stringify({ email, password }) })).status;
    const answers = [];
    for (let i = 0; i < 12; i++)
      answers.push(await tries(i % 2 ? world.base : `http://127.0.0.1:${other.port}`, 'leif.sandvik@pellworth.example', `guess ${i}`));
    expect(answers.slice(9)).toEqual([422, 429, 429]);
    // Ten wrong tries of one lock out nobody else, and what succeeds does not count.
    for (let i = 0; i < 12; i++) expect(await tries(world.base, 'aoife.brannigan@pellworth.example', 'drumline-demo')).toBe(200);
    expect(await tries(world.base, 'leif.sandvik@pellworth.example', 'drumline-demo')).toBe(429);
  });

  it('leaves people at work their connections while strangers try forty times at once', async () => {
    const manager = await world.as('Aoife');
    const tries = Array.from({ length: 40 }, (_, n) => signIn(`stranger${n}@elsewhere.example`, 'nope'));
    const work = Array.from({ length: 40 }, () => manager.ask('listTickets', {}));
    expect(new Set((await Promise.all(work)).map((a) => a.status))).toEqual(new Set([200]));
    expect(new Set((await Promise.all(tries)).map((a) => a.status))).toEqual(new Set([422]));
  });

  it('changes a password for who knows it, sets it anew once by a link, and ends the other sessions', async () => {
    const email = 'callum.strachan@pellworth.example';
    const here = await signIn(email, 'drumline-demo');
    const elsewhere = await signIn(email, 'drumline-demo');
    const me = async (cookie: string) => fetch(`${world.base}/api/session`, { headers: { cookie } });
    const { csrf } = (await (await me(here.cookie)).json()) as { csrf: string };
    const change = (body: object, key: string) =>
      fetch(`${world.base}/api/session/password`, {
        method: 'PUT',
        headers: { ...json, cookie: here.cookie, 'x-csrf-token': csrf, 'idempotency-key': key },
        body: JSON.stringify(body),
      });
    expect((await change({ current: 'wrong', password: 'a long enough one' }, 'c1')).status).toBe(422);
    expect((await change({ current: 'drumline-demo', password: 'short' }, 'c2')).status).toBe(422);
    expect(await (await change({ current: 'drumline-demo', password: 'a long enough one' }, 'c3')).json()).toEqual({ ended: 1 });
    expect([(await me(here.cookie)).status, (await me(elsewhere.cookie)).status]).toEqual([200, 401]);
    expect([(await signIn(email, 'drumline-demo')).status, (await signIn(email, 'a long enough one')).status]).toEqual([422, 200]);
    const post = (path: string, body: object) =>
      fetch(`${world.base}/api${path}`, { method: 'POST', headers: json, body: JSON.stringify(body) });
    // Whether there is such a person or not, the answer is the same; the link comes by mail.
    expect(await (await post('/password-resets', { email: 'nobody@pellworth.example' })).json()).toEqual({ asked: true });
    expect(await (await post('/password-resets', { email })).json()).toEqual({ asked: true });
    const mail = await until('the link', async () => (await world.mailbox()).find((m) => m.subject === 'Set a new password'));
    expect(mail.to).toEqual([email]);
    const token = /token=(\S+)/.exec(mail.text)![1]!;
    const everything = await world.knex.raw(
      `select (select jsonb_agg(j) from graphile_worker._private_jobs j)::text || (select jsonb_agg(r) from password_reset r)::text as t`,
    );
    expect(String(everything.rows[0].t)).not.toContain(token);
    expect((await post('/password-resets/use', { token, password: 'another long one' })).status).toBe(200);
    expect((await post('/password-resets/use', { token, password: 'another long one' })).status).toBe(422);
    expect([(await me(here.cookie)).status, (await signIn(email, 'another long one')).status]).toEqual([401, 200]);
    const made = await (
      await world.as('Aoife')
    ).do('makeResetLink', { params: { personId: (await world.knex('person').where({ email }).first('id')).id } });
    expect((await post('/password-resets/use', { token: made.address.split('=')[1], password: 'drumline-demo' })).status).toBe(200);
    expect((await (await world.as('Deepa')).ask('makeResetLink', {})).status).toBe(403);
  });

  // Made from the table of routes, as the walk over permissions is.
  it.each(ACCESS_ROLES)('keeps out of what a %s is answered the fields that the table hides', async (role) => {
    const script = await world.as(persons[role]!);
    const item = (await world.knex('catalogue_item').first('id')).id;
    const client = await world.knex('client').first('id');
    const span = { from_on: '2025-11-01', to_on: '2026-11-01', made_at: '2026-11-24T10:00:00Z' };
    const [trial] = await world
      .knex('cost_trial')
      .insert({ client_id: client.id, contract_ids: [], ...span })
      .returning('id');
    const { contract_id: contractId } = await world.knex('contract_line').first('contract_id');
    for (const route of routes.filter((r) => r.hides)) {
      const { status, body } = await script.ask(route.name as never, { params: { itemId: item, trialId: trial.id, contractId } });
      const may = route.permission === 'signed in' || holds(role, route.permission as never);
      expect([route.name, status]).toEqual([route.name, may ? 200 : 403]);
      if (!may) continue;
      for (const { path, needs } of route.hides!)
        expect([route.name, path, holdsPath(body, path.split('.'))]).toEqual([route.name, path, holds(role, needs)]);
    }
  });

  it('opens what is inside of a desk to the house, or to its team and who manages', async () => {
    const aoife = await world.as('Aoife');
    const ticket = await world
      .knex('message as m')
      .join('ticket as t', 't.id', 'm.ticket_id')
      .where('m.direction', 'in')
      .whereNotNull('t.desk_id')
      .first('t.id', 't.desk_id', 'm.id as message_id');
    const [source] = await world
      .knex('mail_source')
      .insert({
        sha256: Buffer.from('x'),
        received_at: new Date(),
        envelope_from: 'a@b.example',
        envelope_to: [],
        raw: Buffer.from('raw'),
        decision: '{}',
      })
      .returning('id');
    await world.knex('message').where({ id: ticket.message_id }).update({ source_id: source.id });
    const params = { ticketId: ticket.id };
    await aoife.do('addNote', { params, body: { text: 'for us alone' } });
    const staffs = await world
      .knex('desk_line as l')
      .join('person as p', 'p.team_id', 'l.team_id')
      .where('l.desk_id', ticket.desk_id)
      .first('p.name');
    const [billing, member] = [await world.as('Ngozi'), await world.as(staffs.name)];
    const seen = async (script: Script) => {
      const t = await script.do('getTicket', { params });
      return [
        t.messages.some((m) => m.text === 'for us alone'),
        t.insideHidden,
        (await script.ask('getMessageSource', { params: { messageId: ticket.message_id } })).status,
      ];
    };
    expect(await seen(billing)).toEqual([true, 0, 200]);
    await aoife.do('setInsideReach', { params: { deskId: ticket.desk_id }, body: { reach: 'team' } });
    expect(await seen(billing)).toEqual([false, expect.any(Number), 403]);
    expect([await seen(member), await seen(aoife)]).toEqual([
      [true, 0, 200],
      [true, 0, 200],
    ]);
  });

  it('lets a waiting reply be taken back by who wrote it, or who manages, and by nobody else', async () => {
    const slow = await world.second({ REPLY_WAIT_SECONDS: 600 });
    const at = (script: Script) => new Script(`http://127.0.0.1:${slow.port}`, (script as unknown as { token: string }).token);
    const [deepa, sora, aoife] = [at(await world.as('Deepa')), at(await world.as('Sora')), at(await world.as('Aoife'))];
    const t = await world.knex('ticket').where({ status: 'queued' }).whereNotNull('contact_id').first('id');
    const reply = async () =>
      (await deepa.do('replyToTicket', { params: { ticketId: t.id }, body: { text: 'x', cc: [], then: null, seenMessageId: null } })).id;
    const [first, second] = [await reply(), await reply()];
    expect((await sora.ask('takeBackReply', { params: { messageId: first } })).status).toBe(403);
    expect((await deepa.do('takeBackReply', { params: { messageId: first } })).text).toBe('x');
    expect((await aoife.do('takeBackReply', { params: { messageId: second } })).text).toBe('x');
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
