// npm start: everything from a fresh machine to a running demo. Uses no installed package.
import { fork, execFileSync, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, watch, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { needBuild, needDebian, needPackages, POSTGRES, top } from './prepare.mjs';
import { clusterFolder, startCluster } from './postgres.mjs';

const args = process.argv.slice(2);
const dev = args.includes('--dev');
const state = join(top, '.drumline');
process.chdir(top);

if (Number(process.versions.node.split('.')[0]) < 20) fail(`Drumline needs Node 20 or newer; this is ${process.version}.`);
const unknown = args.filter((a) => !['--reset', '--dev'].includes(a));
if (unknown.length) fail(`Unknown: ${unknown.join(' ')}. There are --reset (make the demo anew).`);

function fail(why) {
  console.error(why);
  process.exit(2);
}

const free = (port) =>
  new Promise((done) => {
    const server = createServer();
    server.once('error', () => done(false));
    server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
  });
for (const port of [4600, 4625, 4626, 4630, 4640, 4650])
  if (!(await free(port))) fail(`Port ${port} on 127.0.0.1 is taken. Is Drumline running already? Stop that first.`);

const outside = process.env.DATABASE_URL;
if (!outside) needDebian([POSTGRES]);
needPackages();
needBuild();
mkdirSync(state, { recursive: true });

const clusterDir = join(state, 'postgres');
let cluster;
if (!outside) {
  if (args.includes('--reset')) await dropCluster();
  cluster = await startCluster(clusterDir, { durable: true });
  if (!cluster.folder.startsWith(top)) console.log(`The checkout is closed to user postgres; its cluster is in ${cluster.folder}.`);
} else if (args.includes('--reset')) fail('--reset makes the private database anew. With DATABASE_URL, empty that database yourself.');

async function dropCluster() {
  if (existsSync(join(clusterFolder(clusterDir), 'data/PG_VERSION'))) (await startCluster(clusterDir, { durable: true })).stop();
  for (const path of [clusterFolder(clusterDir), join(state, 'files'), join(state, 'mailbox'), join(state, 'ledger.json')])
    rmSync(path, { recursive: true, force: true });
}

const secretFile = join(state, 'session-secret');
if (!existsSync(secretFile)) writeFileSync(secretFile, randomBytes(24).toString('base64url'), { mode: 0o600 });
const databaseUrl = outside ?? `${cluster.url}/postgres`;
writeFileSync(join(state, 'database-url'), databaseUrl, { mode: 0o600 });
const env = {
  ...process.env,
  DATABASE_URL: databaseUrl,
  SESSION_SECRET: readFileSync(secretFile, 'utf8'),
  FILES_DIR: join(state, 'files'),
  MAILBOX_DIR: join(state, 'mailbox'),
  LEDGER_FILE: join(state, 'ledger.json'),
  // The calendar stand-in is on this machine; nothing else of it may be asked for.
  OUTSIDE_ALLOWED: process.env.OUTSIDE_ALLOWED ?? '127.0.0.1:4650',
  LEDGER_KEY: process.env.LEDGER_KEY ?? 'demo-ledger-key',
  LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
  NODE_ENV: 'production',
};

process.stdout.write(
  execFileSync('node', ['--enable-source-maps', 'dist/server/server/src/app/seed-command.js'], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  }),
);

const children = [];
let stopping = false;
const expected = new Set();
function begin(name, file) {
  const child = fork(file, [], { env, execArgv: ['--enable-source-maps'], detached: true });
  children.push(child);
  return new Promise((ready, failed) => {
    child.once('message', ready);
    child.once('exit', (code) => {
      if (stopping || expected.has(child)) return;
      failed(new Error(`${name} ended with code ${code}`));
      console.error(`${name} ended with code ${code}; stopping.`);
      void stop(1);
    });
  });
}

async function stop(code) {
  if (stopping) return;
  stopping = true;
  await Promise.all(
    children.map(
      (child) =>
        new Promise((done) => {
          if (child.exitCode !== null || child.signalCode !== null) return done();
          child.once('exit', done);
          child.kill('SIGTERM');
          setTimeout(() => child.kill('SIGKILL'), 15_000).unref();
        }),
    ),
  );
  cluster?.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));

await Promise.all([
  begin('the mail stand-in', 'dist/server/standins/src/mail/main.js'),
  begin('the ledger stand-in', 'dist/server/standins/src/ledger/main.js'),
  begin('the calendar stand-in', 'dist/server/standins/src/calendar/main.js'),
]);
const SERVER = 'dist/server/server/src/app/supervisor.js';
await begin('the server', SERVER);
const people = await fetch('http://127.0.0.1:4600/api/demo/people').then((r) => r.json());
console.log(`
Drumline   http://127.0.0.1:4600
Mailbox    http://127.0.0.1:4640   write as any client, read what Drumline sent
Ledger     http://127.0.0.1:4630   see what was booked, mark it paid
Calendars  http://127.0.0.1:4650   appointments from outside, such as /deepa.ics
`);
if (people.people.length)
  console.log(
    `Enter as any of these on the first page; by mail address the password is drumline-demo:\n${people.people.map((p) => `  ${p.name.padEnd(24)} ${p.role}`).join('\n')}\n`,
  );
console.log('Ctrl-C stops everything.');
if (dev) await develop();

/** Rebuilds while somebody writes: the web by its own watcher, the server with a restart. */
async function develop() {
  const { buildServer } = await import('./prepare.mjs');
  const ng = spawn('node_modules/.bin/ng', ['build', '--watch'], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
  });
  children.push(ng);
  let timer;
  let server = children.find((child) => child.spawnargs?.some((arg) => arg.endsWith('server/src/app/supervisor.js')));
  const restart = async () => {
    try {
      buildServer();
    } catch {
      return;
    }
    expected.add(server);
    await new Promise((done) => (server.once('exit', done), server.kill('SIGTERM')));
    await begin('the server', SERVER).catch((fault) => console.error(String(fault)));
    server = children.at(-1);
    console.log('The server runs anew.');
  };
  for (const folder of ['packages/core/src', 'packages/server/src', 'packages/server/migrations'])
    watch(folder, { recursive: true }, (_event, file) => {
      if (!file || /\.spec\.ts$/.test(file)) return;
      clearTimeout(timer);
      timer = setTimeout(() => void restart(), 300);
    });
  console.log('Development: sources are watched; the server restarts and the web rebuilds by themselves.');
}
