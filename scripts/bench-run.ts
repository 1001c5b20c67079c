// The measuring itself; started by bench.mjs, which makes the cluster.
import { execFileSync } from 'node:child_process';
import { readFileSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { createTransport } from 'nodemailer';
import puppeteer from 'puppeteer-core';
import { addWorkingSeconds, parseCalendar, parseInstant, parseLocalDate, plusSeconds, workingSeconds } from '@core/ground';
import { solvePlan } from '@core/scheduling';
import { rateEntry, type RateRule } from '@core/time';
import { makeUpProblem } from '../packages/core/src/scheduling/planning/made-up-problems';
import { PLAN_MOST_MS, PLAN_ROUNDS } from '../packages/server/src/scheduling/planning/make-plan';
import { billingRun } from './bench-billing-run';
import { closedPeriods, contractsInCore, largeClient, nextInvoice } from './bench-contracts';
import { writtenDays } from './bench-written-days';
import { fillWeek, weekSheet } from './bench-week-sheet';
import { folder, makeDatabase, say, startBuilt } from './bench-server';
import { openDatabase } from '../packages/server/src/app/database';
import { loadDemo } from '../packages/server/src/app/demo/load-demo';
import { migrate } from '../packages/server/src/app/migrate';

const CONNECTIONS = 8;
const SECONDS = 15;
/** pgbench's simple update: one small durable transaction of four statements. */
async function simpleUpdates(): Promise<number> {
  const url = await makeDatabase('bench_pg');
  const pgbench = join(process.env['PG_BIN']!, 'pgbench');
  const run = (...args: string[]) => execFileSync(pgbench, [...args, url], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
  run('-i', '-s', '10', '-q');
  const out = run('-N', '-c', String(CONNECTIONS), '-j', '2', '-T', String(SECONDS));
  return Number(/tps = ([\d.]+)/.exec(out)![1]);
}

/** Mails over real SMTP, each a new ticket, counted when acknowledged: durable by then. */
async function mailsASecond(smtpPort: number): Promise<number> {
  const end = Date.now() + SECONDS * 1000;
  let taken = 0;
  await Promise.all(
    Array.from({ length: CONNECTIONS }, async (_, c) => {
      const transport = createTransport({
        pool: true,
        maxConnections: 1,
        maxMessages: Infinity,
        host: '127.0.0.1',
        port: smtpPort,
        secure: false,
        ignoreTLS: true,
      } as never);
      for (let n = 0; Date.now() < end; n++) {
        await transport.sendMail({
          from: 'orla.devane@hollin.example',
          to: 'desk@pellworth.example',
          subject: `Printer ${c} ${n}`,
          text: 'It has been putting out blank labels since we opened.\n\nOrla',
          messageId: `<bench-${c}-${n}@hollin.example>`,
        });
        taken++;
      }
      transport.close();
    }),
  );
  return taken / SECONDS;
}

function workingTime(): void {
  const calendar = parseCalendar({
    name: 'bench',
    zone: 'Europe/Dublin',
    week: [...Array<string[]>(5).fill(['08:30-12:30', '13:15-17:30']), [], []],
    dates: { '2026-12-25': [] },
  });
  const start = parseInstant('2026-03-01T00:00:00Z');
  workingSeconds(calendar, start, plusSeconds(start, 86_400 * 400));
  const count = 3_000_000;
  let began = performance.now();
  let sum = 0;
  for (let i = 0; i < count; i++)
    sum += workingSeconds(calendar, plusSeconds(start, (i * 7919) % 20_000_000), plusSeconds(start, ((i * 7919) % 20_000_000) + 250_000));
  say(
    'working seconds over spans of days, evaluations a second',
    Math.round(count / ((performance.now() - began) / 1000)).toLocaleString('en'),
  );
  began = performance.now();
  for (let i = 0; i < count; i++) sum += Number(addWorkingSeconds(calendar, plusSeconds(start, (i * 7919) % 20_000_000), 30_000));
  say('adding working seconds, evaluations a second', Math.round(count / ((performance.now() - began) / 1000)).toLocaleString('en'));
  const ten = plusSeconds(start, 86_400 * 3652);
  workingSeconds(calendar, start, ten);
  began = performance.now();
  for (let i = 0; i < 100_000; i++) sum += workingSeconds(calendar, plusSeconds(start, i), ten);
  say('a span of ten years after the first, microseconds each', (((performance.now() - began) * 1000) / 100_000).toFixed(2));
  if (!Number.isFinite(sum)) throw new Error('nothing was counted');
}

/** Entries of 45 minutes over half a year, some across bands, by two dozen rules. */
function ratedEntries(): void {
  const calendar = parseCalendar({
    name: 'bench',
    zone: 'Europe/Dublin',
    week: [...Array<string[]>(5).fill(['08:30-12:30', '13:15-17:30']), [], []],
    dates: {},
  });
  const rules = Array.from({ length: 24 }, (_, n): RateRule => ({
    id: String(n),
    level: n % 2 ? 'default' : 'client',
    gradeId: `grade ${n % 6}`,
    activityId: n % 3 ? null : 'remote',
    band: null,
    rate: String(70 + n),
    from: parseLocalDate('2025-01-01'),
    to: null,
  }));
  const bands = { 'working hours': { factor: '1' }, 'out of hours': { factor: '1.5' }, holiday: { factor: '2' } };
  const rounding = { increment: 15, mode: 'up' as const, minimum: 15 };
  const activity = { id: 'remote', name: 'remote', rounding, pricing: { factor: '1' }, callOutFee: null };
  const start = parseInstant('2026-03-02T08:30:00Z');
  const count = 300_000;
  let began = performance.now();
  for (let i = -50_000; i < count; i++) {
    if (i === 0) began = performance.now();
    const from = plusSeconds(start, (Math.abs(i) * 7919) % 16_000_000);
    rateEntry(
      { from, to: plusSeconds(from, 2700), minutes: 45, gradeId: `grade ${Math.abs(i) % 6}`, activity },
      { calendar, zone: calendar.zone, currency: 'EUR', rules, bands },
    );
  }
  say('entries rated, a second', Math.round(count / ((performance.now() - began) / 1000)).toLocaleString('en'));
}

/** A day of 50 technicians and 500 pieces of work, with the worker's own rounds and time allowed. */
function planOfTheDay(): void {
  let state = 5 * 2_654_435_761 + 1;
  const random = () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
  const day = makeUpProblem({ technicians: 50, work: 500, booked: 0.5, places: 20, longest: 90 }, random);
  const began = performance.now();
  const plan = solvePlan({ ...day, grid: 300 }, { rounds: PLAN_ROUNDS, seed: 1, goOn: () => performance.now() - began < PLAN_MOST_MS });
  say('a plan of 50 technicians and 500 pieces of work, ms', String(Math.round(performance.now() - began)));
  say('its cost, as a share of what was there', (plan.cost / plan.costNow).toFixed(3));
}

async function firstLoad(port: number): Promise<void> {
  const html = readFileSync('dist/web/browser/index.html', 'utf8');
  const named = [...html.matchAll(/(?:src|href)="([^"]+\.js)"/g)].map(([, file]) => file!);
  const reached = new Set(named);
  for (const file of reached)
    for (const [, next] of readFileSync(join('dist/web/browser', file), 'utf8').matchAll(
      /from"\.\/(chunk-[A-Z0-9]+\.js)"|import"\.\/(chunk-[A-Z0-9]+\.js)"/g,
    ))
      if (next) reached.add(next);
  const bytes = [...reached].reduce((sum, file) => sum + gzipSync(readFileSync(join('dist/web/browser', file))).length, 0);
  say(
    'script of the first load, kB compressed (files of the whole)',
    `${(bytes / 1000).toFixed(0)} (${reached.size} of ${readdirSync('dist/web/browser').filter((f) => f.endsWith('.js')).length})`,
  );
  const browser = await puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  const paints: number[] = [];
  for (let i = 0; i < 5; i++) {
    const context = await browser.createBrowserContext();
    const page = await context.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    await page.evaluateOnNewDocument(() => {
      new PerformanceObserver((list) => ((window as unknown as { paint: number }).paint = list.getEntries().at(-1)!.startTime)).observe({
        type: 'largest-contentful-paint',
        buffered: true,
      });
    });
    await page.goto(`http://127.0.0.1:${port}/enter`, { waitUntil: 'networkidle0' });
    paints.push(await page.evaluate(() => (window as unknown as { paint: number }).paint));
    await context.close();
  }
  const week = await weekSheet(browser, port);
  await browser.close();
  say(`a week of ${week.rows} rows, ms to the answer, 95 of 100`, week.read.toFixed(0));
  say('a figure typed in its grid, ms to the frame with it, 95 of 100', week.typed.toFixed(0));
  say('a key that stores a cell and leaves it, the same', week.left.toFixed(0));
  say('largest paint of the first page, cold, ms (middle of 5)', paints.sort((a, b) => a - b)[2]!.toFixed(0));
}

workingTime();
ratedEntries();
contractsInCore();
planOfTheDay();
const url = await makeDatabase('bench_drumline');
const knex = openDatabase(url, 2);
await migrate(knex, url);
const began = performance.now();
await loadDemo(knex, { real: parseInstant('2026-11-24T10:40:00Z'), days: 90 });
say('the demo of 90 days, seconds to load', ((performance.now() - began) / 1000).toFixed(1));
for (const [what, without] of [
  ['', []],
  [', without bookings', ['booking' as const]],
] as const) {
  const { covered, apart, minutes } = await writtenDays(knex, without);
  say(`of ${minutes} min recorded in four weeks, covered by proposals${what}`, covered.toFixed(2));
  say(`minutes apart by ticket and day, as a share of them${what}`, apart.toFixed(2));
}
await fillWeek(knex);
const { child, port, smtpPort } = await startBuilt(url);
const contractId = await largeClient(knex);
await nextInvoice(knex, port, contractId);
await closedPeriods(knex, port);
await firstLoad(port);
const mails = await mailsASecond(smtpPort);
// Last, as its documents keep the queue busy.
await billingRun(knex, port);
await knex.destroy();
child.kill('SIGTERM');
await new Promise((done) => child.once('exit', done));
const updates = await simpleUpdates();
say(`mails a second to durable tickets, ${CONNECTIONS} connections`, mails.toFixed(0));
say(`pgbench simple updates a second, ${CONNECTIONS} connections`, updates.toFixed(0));
say('mails for each simple update', (mails / updates).toFixed(3));
rmSync(folder, { recursive: true, force: true });
