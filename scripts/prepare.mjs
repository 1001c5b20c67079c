// What a checkout needs before it runs: Debian's packages, npm's packages, the build. No installed package is used here.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { postgresBin } from './postgres.mjs';

export const top = new URL('..', import.meta.url).pathname;

/** Installs Debian's packages as root; as anybody else prints the command and stops. */
export function needDebian(wanted) {
  const missing = wanted.filter(({ there }) => !there()).map(({ name }) => name);
  if (!missing.length) return;
  const command = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (process.getuid?.() !== 0) {
    console.error(`Drumline needs Debian's ${missing.join(' and ')}. As root run:\n\n  ${command}\n\nand start again.`);
    process.exit(2);
  }
  console.log(`Installing ${missing.join(' and ')} …`);
  // The package would start a cluster of its own; ours is private.
  mkdirSync('/etc/postgresql-common', { recursive: true });
  if (!existsSync('/etc/postgresql-common/createcluster.conf'))
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  execFileSync('bash', ['-c', command], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
}
export const POSTGRES = { name: 'postgresql', there: () => postgresBin() !== undefined };
/** Installs what makes things faster, and goes on without it where it cannot be had. */
export function wishDebian(wanted) {
  if (process.getuid?.() !== 0) return;
  try {
    needDebian(wanted);
  } catch {
    console.log('… could not be installed; going on without.');
  }
}
/** The browser without a window: half the work for the machine. */
export const CHROMIUM_SHELL = { name: 'chromium-headless-shell', there: () => existsSync('/usr/bin/chromium-headless-shell') };
export const CHROMIUM = { name: 'chromium', there: () => existsSync('/usr/bin/chromium') };
/** Readers of calendars that nobody here wrote; for tests alone. */
export const KHAL = { name: 'khal', there: () => existsSync('/usr/bin/khal') };
export const VOBJECT = { name: 'python3-vobject', there: () => existsSync('/usr/lib/python3/dist-packages/vobject') };
/** Readers of journals in plain text that nobody here wrote; for tests alone. */
export const JOURNAL_READERS = ['hledger', 'ledger', 'beancount'].map((name) => ({
  name,
  there: () => existsSync(`/usr/bin/${name === 'beancount' ? 'bean-check' : name}`),
}));
/** Holds XML against a schema; for tests alone. */
export const XMLLINT = { name: 'libxml2-utils', there: () => existsSync('/usr/bin/xmllint') };
export const PDFTOTEXT = { name: 'poppler-utils', there: () => existsSync('/usr/bin/pdftotext') };

/** npm ci where the lock file is not what was installed last. */
export function needPackages() {
  const stamp = join(top, 'node_modules/.drumline-lock');
  const lock = createHash('sha256')
    .update(readFileSync(join(top, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing packages …');
  execFileSync('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund'], { cwd: top, stdio: ['ignore', 'ignore', 'inherit'] });
  writeFileSync(stamp, lock);
}

const SOURCES = [
  'packages/core/src',
  'packages/server/src',
  'packages/server/migrations',
  'packages/standins/src',
  'scripts/prepare.mjs',
  'packages/web',
  'package-lock.json',
  'angular.json',
  'tsconfig.json',
];

function* filesBelow(path) {
  if (statSync(path).isFile()) return yield path;
  for (const name of readdirSync(path).sort()) yield* filesBelow(join(path, name));
}

/** Builds server and web where a source is not what was built last. */
export function needBuild() {
  const hash = createHash('sha256');
  for (const source of SOURCES)
    for (const file of filesBelow(join(top, source)))
      if (!/\.(spec|test)\.ts$/.test(file)) hash.update(file.slice(top.length)).update(readFileSync(file));
  const print = hash.digest('hex');
  const stamp = join(top, 'dist/built');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === print) return;
  console.log('Building …');
  buildServer();
  const web = spawnSync('node_modules/.bin/ng', ['build'], {
    cwd: top,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, NG_CLI_ANALYTICS: 'false', CI: '1' },
  });
  if (web.status !== 0) throw new Error(`the web build failed:\n${web.stdout}${web.stderr}`);
  writeFileSync(stamp, print);
}

export function buildServer() {
  execFileSync(
    'node_modules/.bin/esbuild',
    [
      'packages/server/src/app/main.ts',
      'packages/server/src/app/supervisor.ts',
      'packages/server/src/app/seed-command.ts',
      'packages/server/src/house/access/token-command.ts',
      'packages/server/src/app/integrity-command.ts',
      'packages/server/src/app/documents/document-worker.ts',
      'packages/server/src/scheduling/planning/plan-worker.ts',
      'packages/server/src/billing/would-cost/would-cost-worker.ts',
      'packages/server/src/scheduling/outside-calendars/calendar-worker.ts',
      'packages/server/src/billing/bank/bank-file-worker.ts',
      'packages/server/src/desk/messages/mail-worker.ts',
      'packages/standins/src/mail/main.ts',
      'packages/standins/src/ledger/main.ts',
      'packages/standins/src/calendar/main.ts',
      '--bundle',
      '--platform=node',
      '--format=esm',
      '--target=node20',
      '--packages=external',
      '--sourcemap',
      '--outdir=dist/server',
      '--outbase=packages',
      '--log-level=warning',
    ],
    { cwd: top, stdio: 'inherit' },
  );
}
