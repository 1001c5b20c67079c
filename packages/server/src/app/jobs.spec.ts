import { fork, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { ownCluster } from '../../testing/own-cluster';
import { STORY, testConfig, until } from '../../testing/test-server';
import { openDatabase } from './database';
import { LANES } from './job-tasks';

const KILLS = 10;
const BACK_MS = 2000;
const FREE_MS = 30_000;

let cluster: Awaited<ReturnType<typeof ownCluster>>;
let folder: string;
let mail: Server;
let mailDoes: 'refuse with NUL' | 'say nothing' = 'refuse with NUL';
const running = new Set<ChildProcess>();
beforeAll(async () => {
  cluster = await ownCluster();
  folder = await mkdtemp(join(tmpdir(), 'drumline-jobs-'));
  mail = createServer((socket) => {
    socket.on('error', () => undefined);
    if (mailDoes === 'refuse with NUL') socket.end('554 no\0thing \ud800 today\r\n');
  });
  await new Promise<void>((done) => mail.listen(0, '127.0.0.1', done));
});
afterAll(async () => {
  for (const child of running) child.kill('SIGKILL');
  mail.close();
  await cluster.remove();
  await rm(folder, { recursive: true, force: true });
});

async function begin(program: 'main' | 'supervisor') {
  const { port } = mail.address() as { port: number };
  const config = testConfig(cluster.url, folder, { MAIL_OUT: `smtp://127.0.0.1:${port}` });
  const child = fork(`dist/server/server/src/app/${program}.js`, [], {
    env: {
      ...process.env,
      ...Object.fromEntries(Object.entries(config).map(([name, value]) => [name, String(value)])),
      DRUMLINE_NOW: '2026-11-24T10:40:00Z',
      NODE_OPTIONS: '',
      LOG_LEVEL: 'warn',
    },
    silent: true,
  });
  running.add(child);
  // What nobody reads would hold it up once the pipe is full.
  for (const stream of [child.stdout, child.stderr]) stream!.resume();
  const ready: { port: number }[] = [];
  child.on('message', (m) => 'port' in (m as object) && ready.push(m as { port: number }));
  await until('it is ready', async () => ready.length > 0);
  return { child, ready };
}

const answers = (port: number) =>
  fetch(`http://127.0.0.1:${port}/readyz`).then(
    (r) => r.status === 200,
    () => false,
  );

const withDatabase = async <T>(use: (knex: Knex) => Promise<T>): Promise<T> => {
  const knex = openDatabase(cluster.url, 1);
  try {
    return await use(knex);
  } finally {
    await knex.destroy();
  }
};
const ask = (knex: Knex, n: number) =>
  knex.raw(`select graphile_worker.add_job('mail-escalation', ?::json, job_key := ?, max_attempts := 25)`, [
    // Every second one fails, so that the queue both finishes and fails jobs while its database dies.
    JSON.stringify({ escalationId: n % 2 ? 'no id' : '00000000-0000-4000-8000-000000000000' }),
    `test-${n}`,
  ]);

describe('the queue', () => {
  it('has each task in one lane', () => {
    const names = LANES.flatMap((lane) => Object.keys(lane.tasks));
    expect(new Set(names).size).toBe(names.length);
    expect(Object.keys(LANES[0].tasks)).toEqual(expect.arrayContaining(['send-message', 'mail-escalation', 'sweep-tickets']));
    expect(Object.keys(LANES[1].tasks)).toEqual(expect.arrayContaining(['deliver-invoice', 'push-invoice']));
  });

  it('lives through PostgreSQL killed ten times while jobs run, and answers at once when it is back', async () => {
    const { child, ready } = await begin('main');
    await withDatabase(async (knex) => {
      const [message] = await knex('message').where({ direction: 'out' }).limit(1).select('ticket_id');
      const [waiting] = await knex('message')
        .insert({
          ticket_id: message.ticket_id,
          at: new Date(STORY * 1000),
          direction: 'out',
          visibility: 'public',
          author_name: 'Deepa',
          text: 'x',
          to_addresses: ['orla.devane@hollin.example'],
          message_id: '<waits@pellworth.example>',
        })
        .returning('id');
      await knex.raw(`select graphile_worker.add_job('send-message', ?::json, job_key := 'waits', max_attempts := 25)`, [
        JSON.stringify({ messageId: waiting.id, then: null }),
      ]);
      const kept = await until('its trouble is kept', () =>
        knex('graphile_worker.jobs')
          .where({ key: 'waits' })
          .first('last_error')
          .then((j) => j?.last_error),
      );
      expect(kept).toContain('nothing');
    });
    for (let n = 0; n < KILLS; n++) {
      await withDatabase((knex) => Promise.all(Array.from({ length: 40 }, (_, i) => ask(knex, n * 100 + i))));
      await new Promise((done) => setTimeout(done, 30 * n));
      await cluster.kill();
      await cluster.begin();
      await until(`it answers after kill ${n}`, () => answers(ready[0]!.port), BACK_MS);
      expect([child.exitCode, child.signalCode]).toEqual([null, null]);
    }
    await withDatabase((knex) =>
      until(
        'the queue is worked',
        async () => (await knex('graphile_worker.jobs').where('key', 'like', 'test-%').whereNull('last_error').first('id')) === undefined,
      ),
    );
    child.kill('SIGKILL');
  });

  it('frees what a killed process held within half a minute', async () => {
    mailDoes = 'say nothing';
    const first = await begin('main');
    await withDatabase(async (knex) => {
      // A kill before may have come while it was sent; for a while after that nobody else sends it, and it is held by none.
      await knex('message').where({ message_id: '<waits@pellworth.example>' }).update({ leaving_since: null });
      await knex.raw(`update graphile_worker._private_jobs set run_at = now() where key = 'waits'`);
      const held = await until('it is held', () =>
        knex('graphile_worker.jobs').where({ key: 'waits' }).whereNotNull('locked_by').first('locked_by'),
      );
      first.child.kill('SIGKILL');
      await begin('main');
      await until(
        'it is free',
        () =>
          knex('graphile_worker.jobs').where({ key: 'waits' }).andWhereRaw('locked_by is distinct from ?', [held.locked_by]).first('id'),
        FREE_MS,
      );
    });
  });

  it('is begun again by its supervisor when its process is killed', async () => {
    const { child, ready } = await begin('supervisor');
    const pid = () => Number(readFileSync(`/proc/${child.pid}/task/${child.pid}/children`, 'utf8').trim().split(' ')[0]);
    const before = pid();
    process.kill(before, 'SIGKILL');
    await until('another is ready', async () => ready.length === 2);
    expect(pid()).not.toBe(before);
    expect(await answers(ready[1]!.port)).toBe(true);
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    expect(await ended).toBe(0);
  });
});
