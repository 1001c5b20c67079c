// How quick a week of forty rows is: read by the server, and typed in at a browser, twenty keys a second at most.
import type { Knex } from 'knex';
import type { Browser } from 'puppeteer-core';
import { formatInstant, parseInstant, plusSeconds } from '@core/ground';
import { HouseBook } from '../packages/server/src/house/house/house-book';
import { rateUnrated } from '../packages/server/src/time/time-entries/stored-effects';

const ROWS = 40;
const READS = 40;
const WHO = 'Deepa Raghunathan';
const MONDAY = parseInstant('2026-11-23T08:00:00Z');
const p95 = (all: number[]) => all.sort((a, b) => a - b)[Math.ceil(all.length * 0.95) - 1]!;

/** A quarter of an hour on forty tickets, one after the other from Monday morning on. */
export async function fillWeek(knex: Knex): Promise<void> {
  const book = new HouseBook();
  await book.load(knex);
  const person = await knex('person').where({ name: WHO }).first('id', 'grade_id');
  const activity = await knex('activity').orderBy('position').first('id');
  const tickets = await knex('ticket').whereNotNull('client_id').orderBy('number', 'desc').limit(ROWS).select('id', 'client_id');
  await knex.transaction(async (tx) => {
    await tx('time_entry').insert(
      tickets.map((t, n) => {
        const from = plusSeconds(MONDAY, n * 900);
        const times = { starts_at: formatInstant(from), ends_at: formatInstant(plusSeconds(from, 900)), minutes: 15 };
        return {
          ...times,
          person_id: person.id,
          grade_id: person.grade_id,
          work_id: t.id,
          client_id: t.client_id,
          activity_id: activity.id,
          note: 'round',
          billable: false,
          reason: 'in the monthly fee',
        };
      }),
    );
    await rateUnrated(tx, book);
  });
}

/** @returns 95th percentiles in ms: of the answer with the week, and from a key to the frame with it, of figures and of keys that store a cell and leave it */
export async function weekSheet(browser: Browser, port: number): Promise<{ rows: number; read: number; typed: number; left: number }> {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  const base = `http://127.0.0.1:${port}`;
  await page.goto(`${base}/enter?to=${encodeURIComponent('/my-time/sheet?day=2026-11-23')}`, { waitUntil: 'load' });
  const handle = await page.waitForFunction(
    (who) => [...document.querySelectorAll('button')].find((b) => b.innerText.includes(who)),
    {},
    WHO,
  );
  await (handle as unknown as { click(): Promise<void> }).click();
  await page.waitForSelector('.cell');
  const rows = await page.$$eval('tbody tr', (all) => all.length);
  const reads = await page.evaluate(async (count) => {
    const took: number[] = [];
    for (let n = 0; n < count; n++) {
      const began = performance.now();
      await (await fetch('/api/week-sheet?day=2026-11-23')).json();
      took.push(performance.now() - began);
    }
    return took;
  }, READS);
  await page.evaluate(() => {
    const paints: [string, number][] = [];
    (window as unknown as { paints: typeof paints }).paints = paints;
    // A frame with it has been drawn once a message sent from within that frame arrives.
    document.addEventListener(
      'keydown',
      (event) =>
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => paints.push([event.key, performance.now() - event.timeStamp]);
          port2.postMessage(0);
        }),
      { capture: true },
    );
  });
  await page.focus('[data-at="0 1"]');
  for (let row = 0; row < ROWS; row++)
    for (const key of ['0', ':', '2', '0', 'ArrowDown']) await page.keyboard.press(key as never, { delay: 40 });
  const paints = await page.evaluate(() => (window as unknown as { paints: [string, number][] }).paints);
  await context.close();
  const of = (leaves: boolean) => p95(paints.filter(([key]) => (key === 'ArrowDown') === leaves).map(([, ms]) => ms));
  return { rows, read: p95(reads), typed: of(false), left: of(true) };
}
