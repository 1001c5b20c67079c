// How fast a billing run is: worked out and issued without documents, beside bare inserts of the same rows.
import type { Knex } from 'knex';
import { say } from './bench-server';
import { signedIn } from './bench-contracts';

const CLIENTS = 200;
const SEATS = 100;
const ON = '2026-11-30';
const AT_ONCE = 1000;
/** What a run writes, by the column that says whose it is. */
const WRITTEN = ['charge', 'charge_decision', 'invoice', 'invoice_line', 'invoice_tax', 'billing_link', 'invoice_standing'] as const;

/** Clients of one seat line each. */
async function fill(knex: Knex): Promise<void> {
  const { id: _id, number: _number, ...like } = await knex('client').where('name', 'like', 'Brackwater%').first();
  const since = { starts_on: '2026-11-01', ends_on: null, notice_told_at: null };
  const { id: _k, number: _n, agreed_at: _a, made_at: _m, ...contract } = await knex('contract').whereNotNull('agreed_at').first();
  const named = Array.from({ length: CLIENTS }, (_, n) => ({
    ...{ ...like, fields: JSON.stringify(like.fields) },
    ...{ number: 5000 + n, name: `Bench client ${n}` },
  }));
  const clients: { id: string }[] = await knex.batchInsert('client', named, AT_ONCE).returning('id');
  const agreed = clients.map(({ id }, n) => ({
    ...{ ...contract, ...since, client_id: id, name: `Bench contract ${n}`, number: 50_000 + n },
    ...{ agreed_at: '2026-11-01T08:00:00Z', made_at: '2026-11-01T08:00:00Z' },
  }));
  const contracts: { id: string }[] = await knex.batchInsert('contract', agreed, AT_ONCE).returning('id');
  const usual = { position: 1, counted: 'seat', frequency: 'monthly', anchor_on: '2000-01-01', paid: 'in advance', lead_days: 0 };
  const seatLines = contracts.map(({ id }) => ({ ...usual, contract_id: id, name: 'Seat', proration: 'daily', starts_on: '2026-11-01' }));
  const lines: { id: string }[] = await knex.batchInsert('contract_line', seatLines as never, AT_ONCE).returning('id');
  await knex.batchInsert(
    'contract_price',
    lines.map(({ id }) => ({ line_id: id, from_on: '2026-11-01', price: '32' })),
    AT_ONCE,
  );
  const people = clients.flatMap(({ id }, c) =>
    Array.from({ length: SEATS }, (_, n) => ({ client_id: id, name: `Seat ${n}`, email: `s${n}@c${c}.bench.example` })),
  );
  const contacts: { id: string }[] = await knex.batchInsert('contact', people as never, AT_ONCE).returning('id');
  await knex.batchInsert(
    'contract_seat',
    contacts.map(({ id }, n) => ({ line_id: lines[Math.floor(n / SEATS)]!.id, contact_id: id, starts_on: '2026-11-01', ends_on: null })),
    AT_ONCE,
  );
}

/** The rows that the run wrote once more, a transaction a client, into tables that only keep them. */
async function bareInserts(knex: Knex): Promise<number> {
  const mine = knex('client').where('name', 'like', 'Bench client%').select('id');
  const invoices = knex('invoice').whereIn('client_id', mine.clone()).select('id');
  const charges = knex('charge').whereIn('client_id', mine.clone()).select('id');
  const whose: Readonly<Record<(typeof WRITTEN)[number], [string, Knex.QueryBuilder]>> = {
    charge: ['client_id', mine],
    charge_decision: ['charge_id', charges],
    invoice: ['client_id', mine],
    invoice_line: ['invoice_id', invoices],
    invoice_tax: ['invoice_id', invoices],
    billing_link: ['invoice_id', invoices],
    invoice_standing: ['invoice_id', invoices],
  };
  const parts: { table: string; rows: Record<string, unknown>[] }[] = [];
  for (const table of WRITTEN) {
    await knex.raw(`create table bare_${table} as select * from ${table} where false`);
    const [column, ids] = whose[table];
    const { rows } = await knex.raw<{ rows: { row: string }[] }>(
      knex.raw('select row_to_json(t)::text as row from ?? t where ?? in (?)', [table, column, ids]).toString(),
    );
    parts.push({ table, rows: rows.map(({ row }) => JSON.parse(row)) });
  }
  const began = performance.now();
  for (let n = 0; n < CLIENTS; n++)
    await knex.transaction(async (tx) => {
      for (const { table, rows } of parts) {
        const each = Math.ceil(rows.length / CLIENTS);
        const some = rows.slice(n * each, (n + 1) * each);
        if (some.length)
          await tx.raw(`insert into bare_${table} select * from json_populate_recordset(null::bare_${table}, ?::json)`, [
            JSON.stringify(some),
          ]);
      }
    });
  return performance.now() - began;
}

/** A run over many clients by the built server, from the press to the last invoice. */
export async function billingRun(knex: Knex, port: number): Promise<void> {
  await knex('billing_run').update({ state: 'done' });
  await fill(knex);
  const headers = await signedIn(knex, port, 'Ngozi');
  const call = async (method: string, path: string, body?: object): Promise<never> => {
    const given = { method, headers: { ...headers, 'idempotency-key': crypto.randomUUID() }, ...(body && { body: JSON.stringify(body) }) };
    const answer = await fetch(`http://127.0.0.1:${port}/api/${path}`, given);
    if (!answer.ok) throw new Error(`${path} answered ${answer.status}: ${await answer.text()}`);
    return answer.json() as Promise<never>;
  };
  const until = async (state: string) => {
    for (;;) {
      if (await knex('billing_run').where({ on_date: ON, state }).first('id')) return;
      await new Promise((later) => setTimeout(later, 20));
    }
  };
  const timed = async (what: () => Promise<unknown>) => {
    const began = performance.now();
    await what();
    return performance.now() - began;
  };
  let runId = '';
  const prepared = await timed(async () => {
    ({ id: runId } = await call('POST', 'billing-runs', { on: ON }));
    await until('ready');
  });
  const shown: number[] = [];
  for (let n = 0; n < 20; n++) shown.push(await timed(() => call('GET', `billing-runs/${runId}/invoices?most=200`)));
  const { toIssue } = (await call('GET', `billing-runs/${runId}`)) as { toIssue: { invoices: number; net: { minor: number } } };
  const issued = await timed(async () => {
    await call('POST', `billing-runs/${runId}/issue`, { ids: null, invoices: toIssue.invoices, netMinor: toIssue.net.minor });
    await until('done');
  });
  const bare = await bareInserts(knex);
  say(`a run over ${CLIENTS} clients of ${SEATS} seats worked out, s`, (prepared / 1000).toFixed(1));
  say(`${toIssue.invoices} invoices of it issued while documents follow, s`, (issued / 1000).toFixed(1));
  say('both beside bare inserts of the same rows', `${((prepared + issued) / bare).toFixed(0)} : 1`);
  say('a page of 200 of its invoices over HTTP, ms, 95 of 100', shown.sort((a, b) => a - b)[18]!.toFixed(0));
}
