// npm run bench -- live: a ticket open on two hundred screens while others change, by what a screen is read anew for. Started by bench.mjs.
import { rmSync } from 'node:fs';
import { type Interest, type LiveEvent, parseInstant, touches } from '@core/ground';
import { createToken } from '../packages/server/src/house/access/tokens';
import { openDatabase } from '../packages/server/src/app/database';
import { loadDemo } from '../packages/server/src/app/demo/load-demo';
import { migrate } from '../packages/server/src/app/migrate';
import { folder, makeDatabase, percentile, say, startBuilt } from './bench-server';

const STORY = parseInstant('2026-11-24T10:40:00Z');
const SCREENS = 200;
const SECONDS = 10;
const CHANGES_A_SECOND = 20;
const GATHER_MS = 120;
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

const url = await makeDatabase('bench_live');
const knex = openDatabase(url, 4);
await migrate(knex, url);
await loadDemo(knex, { real: STORY, days: 45 });
const [manager] = await knex('person').where('name', 'like', 'Aoife%').select('id');
const token = (await createToken(knex, { personId: manager.id, label: 'bench', now: STORY })).secret;
const [shown, ...others]: string[] = await knex('ticket').where({ status: 'queued' }).orderBy('number').limit(40).pluck('id');
const { child, port } = await startBuilt(url);
const base = `http://127.0.0.1:${port}/api`;
const headers = { authorization: `Bearer ${token}`, 'content-type': 'application/json' };
let reads = 0;

const read = async (path: string) => {
  reads++;
  await (await fetch(base + path, { headers })).arrayBuffer();
};

/** One screen: the events that count for it are gathered, then it is read anew, one reading at a time. */
async function open(rule: (e: LiveEvent) => boolean, paths: readonly string[], stop: AbortSignal): Promise<void> {
  let due = false;
  let busy = false;
  const again = async (): Promise<void> => {
    if (busy) return;
    busy = true;
    while (due && !stop.aborted) {
      due = false;
      await wait(GATHER_MS);
      await Promise.all(paths.map(read)).catch(() => undefined);
    }
    busy = false;
  };
  const stream = await fetch(`${base}/live`, { headers, signal: stop });
  let rest = '';
  for await (const chunk of stream.body as unknown as AsyncIterable<Uint8Array>) {
    rest += Buffer.from(chunk).toString();
    const blocks = rest.split('\n\n');
    rest = blocks.pop()!;
    for (const block of blocks) {
      const data = /^data: (.*)$/m.exec(block)?.[1];
      if (!data || /^event: /m.test(block) || !rule(JSON.parse(data) as LiveEvent)) continue;
      due = true;
      void again();
    }
  }
}

const transactions = async (): Promise<number> =>
  Number((await knex.raw('select xact_commit as n from pg_stat_database where datname = current_database()')).rows[0].n);

async function measure(what: string, rule: (e: LiveEvent) => boolean, paths: readonly string[]): Promise<void> {
  const stop = new AbortController();
  const screens = Array.from({ length: SCREENS }, () => open(rule, paths, stop.signal).catch(() => undefined));
  await wait(1500);
  const [before, readsBefore, took] = [await transactions(), reads, [] as number[]];
  const began = performance.now();
  const changes: Promise<void>[] = [];
  for (let n = 0; n < SECONDS * CHANGES_A_SECOND; n++) {
    await wait(Math.max(0, began + (n * 1000) / CHANGES_A_SECOND - performance.now()));
    const sent = performance.now();
    const body = JSON.stringify({ text: `change ${n}` });
    const asked = { method: 'POST', body, headers: { ...headers, 'idempotency-key': crypto.randomUUID() } };
    changes.push(
      fetch(`${base}/tickets/${others[n % others.length]}/notes`, asked).then(async (answer) => {
        await answer.arrayBuffer();
        if (!answer.ok) throw new Error(`a change answered ${answer.status}`);
        took.push(performance.now() - sent);
      }),
    );
  }
  await Promise.all(changes);
  const seconds = (performance.now() - began) / 1000;
  const [read, committed] = [(reads - readsBefore) / seconds, ((await transactions()) - before) / seconds];
  say(
    what,
    `${read.toFixed(0)} reads and ${committed.toFixed(0)} transactions a second, a change ${percentile(took, 99).toFixed(0)} ms at 99 of 100`,
  );
  stop.abort();
  await Promise.all(screens);
  await wait(3000);
}

const page = [`/tickets/${shown}`, `/tickets/${shown}/time-entries`];
const topics = ['ticket', 'booking', 'charge', 'entry'];
const interest: Interest = { topics, records: new Set([shown!]) };
say('', `${SCREENS} screens with one ticket, ${CHANGES_A_SECOND} changes a second of others`);
await measure('read anew for its topics, and for the figures of the rail', (e) => topics.includes(e.topic), [...page, '/counts']);
await measure('read anew for what it shows, the figures sent', (e) => touches(e, interest), page);
child.kill();
await knex.destroy();
rmSync(folder, { recursive: true, force: true });
process.exit(0);
