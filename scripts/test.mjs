// npm test: sets itself up, runs everything, ends with "N passed, N failed".
// npm test -- tickets: only the specs and journeys of that capability. --shard=1/2 splits the journeys.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import {
  CHROMIUM,
  CHROMIUM_SHELL,
  JOURNAL_READERS,
  KHAL,
  needDebian,
  needPackages,
  PDFTOTEXT,
  XMLLINT,
  POSTGRES,
  top,
  VOBJECT,
  wishDebian,
} from './prepare.mjs';
import { startCluster } from './postgres.mjs';

process.chdir(top);
const args = process.argv.slice(2);
const shard = args.find((a) => a.startsWith('--shard='));
const chosen = args.filter((a) => !a.startsWith('--'));
const bin = (name) => join(top, 'node_modules/.bin', name);
let passed = 0;
let failed = 0;
/** Every test with its milliseconds, for the slowest to be named. */
const took = [];
const SLOWEST = 20;
/** What failed, said once more at the end, where it is found even if what stands before it is cut off. */
const failures = [];
const FAILURE_LINES = 25;

needDebian([POSTGRES, CHROMIUM, PDFTOTEXT, XMLLINT, KHAL, VOBJECT, ...JOURNAL_READERS]);
wishDebian([CHROMIUM_SHELL]);
needPackages();

const run = (command, args, env = {}) =>
  new Promise((done) => {
    let out = '';
    const child = spawn(command, args, { env: { ...process.env, FORCE_COLOR: '0', ...env } });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (out += chunk));
    child.on('close', (code) => done({ code, out }));
  });

async function check(name, command, args) {
  const started = Date.now();
  const { code, out } = await run(command, args);
  if (code === 0) passed++;
  else failed++;
  console.log(`${code === 0 ? 'ok    ' : 'FAILED'} ${name} (${((Date.now() - started) / 1000).toFixed(0)} s)`);
  if (code !== 0) console.log(out);
}

async function jest(project, env = {}, more = []) {
  const report = join(top, `.drumline/jest-${project}.json`);
  rmSync(report, { force: true });
  const started = Date.now();
  const { code, out } = await run(
    'node',
    [
      '--experimental-vm-modules',
      '--no-warnings',
      bin('jest'),
      '--selectProjects',
      project,
      '--passWithNoTests',
      '--json',
      `--outputFile=${report}`,
      '--forceExit',
      ...chosen.map((c) => `--testPathPatterns=/${c}/`),
      ...more,
    ],
    env,
  );
  const result = existsSync(report)
    ? JSON.parse(readFileSync(report, 'utf8'))
    : { numPassedTests: 0, numFailedTests: 1, numRuntimeErrorTestSuites: 0 };
  for (const file of result.testResults ?? [])
    for (const test of file.assertionResults) {
      const name = `${relative(top, file.name)}: ${test.fullName}`;
      took.push({ ms: test.duration ?? 0, name });
      if (test.status === 'failed') failures.push([`FAILED ${name}`, ...test.failureMessages].join('\n'));
    }
  for (const file of result.testResults ?? [])
    if (file.status === 'failed' && !file.assertionResults.some((test) => test.status === 'failed'))
      failures.push(`FAILED ${relative(top, file.name)}\n${file.message}`);
  passed += result.numPassedTests;
  failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
  if (code !== 0 && result.numFailedTests + result.numRuntimeErrorTestSuites === 0) failed++;
  console.log(
    `${code === 0 ? 'ok    ' : 'FAILED'} ${project}: ${result.numPassedTests} passed, ${result.numFailedTests} failed (${((Date.now() - started) / 1000).toFixed(0)} s)`,
  );
  if (code !== 0)
    console.log(
      out
        .split('\n')
        .filter((line) => !/^\s+at .*node_modules/.test(line))
        .join('\n')
        .slice(0, 60_000),
    );
}

/** Two processes for two cores. A worker leaves the modules of each file in memory, so it begins anew once it holds much. */
const AT_ONCE = ['--maxWorkers=2', '--workerIdleMemoryLimit=1500MB'];
const ALONE = 'app/(jobs|killed|live)\\.spec';
async function twoAtOnce(all) {
  const left = [...all];
  const work = async () => {
    for (let next; (next = left.shift());) await next();
  };
  await Promise.all([work(), work()]);
}

mkdirSync('.drumline', { recursive: true });
/** Beside what needs no build. */
const build = () => check('build', 'node', ['-e', `import('./scripts/prepare.mjs').then((p) => p.needBuild())`]);
const checks = [
  () => check('format', bin('prettier'), ['--check', '--cache', '--cache-location=.drumline/prettier', '.']),
  () => check('lint', bin('eslint'), ['--cache', '--cache-location=.drumline/eslint', '--cache-strategy=content', '.']),
  () => check('structure', 'node', ['scripts/check-structure.mjs']),
  () => check('types', bin('tsc'), ['-p', '.', '--incremental', '--tsBuildInfoFile', '.drumline/types.json']),
  () =>
    check('types of the server', bin('tsc'), [
      '-p',
      'packages/server',
      '--incremental',
      '--tsBuildInfoFile',
      '.drumline/types-server.json',
    ]),
  () => check('types of the web', bin('tsc'), ['--noEmit', '-p', 'packages/web/tsconfig.spec.json']),
];
await twoAtOnce([build, () => jest('core'), () => jest('web'), ...(chosen.length ? [] : checks)]);

const cluster = await startCluster('.drumline/test', { durable: false });
try {
  const made = await run('node', [bin('tsx'), 'scripts/make-template.ts'], {
    DRUMLINE_TEST_URL: cluster.url,
    DRUMLINE_NOW: '2026-11-24T10:40:00Z',
  });
  if (made.code !== 0) {
    failed++;
    console.log(`FAILED the test database\n${made.out}`);
  } else {
    const env = { DRUMLINE_TEST_URL: cluster.url };
    // These kill processes or PostgreSQL and bound how soon all is well again: nothing runs beside them.
    if (!chosen.length) await jest('server', env, ['--runInBand', `--testPathPatterns=${ALONE}`]);
    await jest('server', env, [...AT_ONCE, ...(chosen.length ? [] : [`--testPathIgnorePatterns=${ALONE}`])]);
    await jest('e2e', env, [...AT_ONCE, ...(shard ? [shard] : [])]);
  }
} finally {
  cluster.stop();
}
took.sort((a, b) => b.ms - a.ms);
if (!chosen.length)
  console.log(['the slowest:', ...took.slice(0, SLOWEST).map((t) => `${(t.ms / 1000).toFixed(0).padStart(5)} s ${t.name}`)].join('\n'));
for (const failure of failures)
  console.log(
    failure
      .split('\n')
      .filter((line) => !/^\s+at .*node_modules/.test(line))
      .slice(0, FAILURE_LINES)
      .join('\n'),
  );
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
