// Measures lists, search and sweep at a million tickets, against hand-written SQL for the same rows; started by bench.mjs.
import { parseInstant } from '@core/ground';
import type { TicketFilter } from '@core/desk';
import { openDatabase } from '../packages/server/src/app/database';
import { loadDemo } from '../packages/server/src/app/demo/load-demo';
import { migrate } from '../packages/server/src/app/migrate';
import { loadScale } from '../packages/server/src/app/scale/load-scale';
import { HouseBook } from '../packages/server/src/house/house/house-book';
import { searchTickets } from '../packages/server/src/house/search/search-tickets';
import { listTickets } from '../packages/server/src/desk/tickets/ticket-list-read-model';

const NOW = parseInstant('2026-11-24T10:40:00Z');
const TIMES = 25;
const base = process.env['BENCH_URL']!;
const say = (what: string, figure: string) => console.log(`${what.padEnd(64)} ${figure}`);

const admin = openDatabase(`${base}/postgres`, 1);
const there = await admin('pg_database').where({ datname: 'bench_scale' }).first('datname');
if (!there) await admin.raw('create database bench_scale');
await admin.destroy();
const url = `${base}/bench_scale`;
const knex = openDatabase(url, 2);
await migrate(knex, url);
if (!(await knex('house').first('id'))) {
  await loadDemo(knex, { real: NOW, days: 16 });
  const began = performance.now();
  await loadScale(knex, { tickets: 1_000_000, open: 100_000, real: NOW });
  say('1,000,000 tickets and 3,000,000 messages by COPY, seconds', ((performance.now() - began) / 1000).toFixed(0));
}
const book = new HouseBook();
await book.load(knex);

async function p95(run: () => Promise<unknown>): Promise<number> {
  await run();
  const took: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const began = performance.now();
    await run();
    took.push(performance.now() - began);
  }
  return took.sort((a, b) => a - b)[Math.floor(TIMES * 0.95)]!;
}

const ids = {
  deskId: (await knex('desk').where({ name: 'Support' }).first('id')).id as string,
  assigneeId: (await knex('person').where({ name: 'Deepa Raghunathan' }).first('id')).id as string,
  teamId: (await knex('team').where({ name: 'First line' }).first('id')).id as string,
  clientId: (await knex('client').where({ name: 'Quillfeather Press' }).first('id')).id as string,
};
const LISTS: Readonly<Record<string, { filter: Partial<TicketFilter>; where: string }>> = {
  open: { filter: {}, where: 'true' },
  desk: { filter: { deskId: ids.deskId }, where: `t.desk_id = '${ids.deskId}'` },
  assignee: { filter: { assigneeId: ids.assigneeId }, where: `t.assignee_id = '${ids.assigneeId}'` },
  team: { filter: { teamId: ids.teamId }, where: `t.assignee_id in (select id from person where team_id = '${ids.teamId}')` },
  client: { filter: { clientId: ids.clientId }, where: `t.client_id = '${ids.clientId}'` },
  status: { filter: { status: 'underway' }, where: `t.status = 'underway'` },
  priority: { filter: { priority: 'P1' }, where: `t.priority = 'P1'` },
  kind: { filter: { kind: 'service request' }, where: `t.kind = 'service request'` },
  'due within 60 min': { filter: { missWithin: 60 }, where: `t.due_at <= '2026-11-24T11:40:00Z'` },
  'due span': {
    filter: { dueFrom: '2026-11-24T12:00:00Z', dueTo: '2026-11-25T12:00:00Z' },
    where: `t.due_at >= '2026-11-24T12:00:00Z' and t.due_at < '2026-11-25T12:00:00Z'`,
  },
};
const SORTS = { due: `coalesce(t.due_at, 'infinity'::timestamptz)`, '-received': 't.received_at desc', '-changed': 't.changed_at desc' };
let [worst, slowest] = [0, ''];
for (const [name, { filter, where }] of Object.entries(LISTS)) {
  const figures: string[] = [];
  for (const [sort, order] of Object.entries(SORTS)) {
    const ours = await p95(() =>
      listTickets(knex, book, { filter: { state: 'open', sort, most: 100, ...filter } as TicketFilter, now: NOW }),
    );
    const sql = await p95(() =>
      knex.raw(
        `select t.*, c.name as client, p.name as assignee, d.name as desk from ticket t left join client c on c.id = t.client_id
         left join person p on p.id = t.assignee_id left join desk d on d.id = t.desk_id
         where t.status not in ('resolved','closed') and ${where} order by ${order}, t.id limit 100`,
      ),
    );
    figures.push(`${sort} ${ours.toFixed(0)} (${(ours / sql).toFixed(1)} x)`);
    if (ours > worst) [worst, slowest] = [ours, `${name} by ${sort}`];
  }
  say(`open tickets by ${name}, p95 ms (times hand-written SQL)`, figures.join(', '));
}
say('the slowest of these lists, p95 ms', `${worst.toFixed(0)}, ${slowest}`);
for (const words of ['printer', 'label printer', 'wireless drops', 'gift vouchers', 'camera north mast'])
  say(`search "${words}", ranked over the newest 1,000, p95 ms`, (await p95(() => searchTickets(knex, words, 6))).toFixed(0));
const at = '2026-11-24T10:40:00Z';
const sweep = () =>
  Promise.all([
    knex('ticket').where({ status: 'resolved' }).where('closes_at', '<=', at).limit(200).pluck('id'),
    knex('ticket_clock').where('warn_at', '<=', at).limit(200).select('ticket_id', 'clock'),
  ]);
say('the sweep for what falls due, p95 ms', (await p95(sweep)).toFixed(1));
await knex.destroy();
