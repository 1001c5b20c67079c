import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beginBuilt, killed, type BuiltServer } from '../../testing/built-server';
import { makeTestDatabase, Script, until } from '../../testing/test-server';

let database: Awaited<ReturnType<typeof makeTestDatabase>>;
let folder: string;
beforeAll(async () => {
  database = await makeTestDatabase();
  folder = await mkdtemp(join(tmpdir(), 'drumline-proxy-'));
});
afterAll(async () => {
  await database.drop();
  await rm(folder, { recursive: true, force: true });
});

const wrong = (server: BuiltServer, forwarded: string) =>
  new Script(`http://127.0.0.1:${server.port}`, undefined).ask('signIn', {
    body: { email: `${forwarded}@nobody.example`, password: 'not the password' },
    headers: { 'x-forwarded-for': forwarded },
  });
const triedFrom = async (who: string) =>
  (
    await database
      .knex('sign_in')
      .where({ email: `${who}@nobody.example` })
      .first('address')
  )?.address;

describe('a server', () => {
  it('takes the address of a person from its proxy where there is one, and from nobody else', async () => {
    const behind = await beginBuilt(database.url, folder, { TRUST_PROXY: '1', SECURE_COOKIES: true });
    await wrong(behind, '198.51.100.7');
    expect(await triedFrom('198.51.100.7')).toBe('198.51.100.7');
    const right = await new Script(`http://127.0.0.1:${behind.port}`, undefined).ask('signIn', {
      body: { email: 'aoife.brannigan@pellworth.example', password: 'drumline-demo' },
      headers: { 'x-forwarded-for': '198.51.100.8', 'x-forwarded-proto': 'https' },
    });
    expect([right.status, right.headers.get('set-cookie')]).toEqual([200, expect.stringMatching(/; Secure/)]);
    await killed(behind.child);
    const open = await beginBuilt(database.url, folder);
    await wrong(open, '198.51.100.9');
    expect(await triedFrom('198.51.100.9')).toMatch(/127\.0\.0\.1$/);
    await killed(open.child);
  });

  it('writes a fault into its log with message, stack and request id, and tells the person the id alone', async () => {
    const server = await beginBuilt(database.url, folder, { LOG_LEVEL: 'error' });
    await database.knex.raw('alter table sign_in rename to sign_in_away');
    const { status, body } = await wrong(server, '203.0.113.5');
    await database.knex.raw('alter table sign_in_away rename to sign_in');
    const said = JSON.stringify(body);
    expect([status, said.includes('sign_in')]).toEqual([500, false]);
    const id = /in the log as request ([^;]+);/.exec(said)![1];
    const line = await until('it is in the log', async () =>
      server
        .log()
        .split('\n')
        .find((each) => each.includes(id!)),
    );
    const written = JSON.parse(line);
    expect(written).toMatchObject({ requestId: id, method: 'POST', fault: { message: expect.stringContaining('sign_in') } });
    expect(written.fault.stack).toMatch(/\n\s+at /);
    await killed(server.child);
  });
});
