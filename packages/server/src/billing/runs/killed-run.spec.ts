import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beginBuilt, killed } from '../../../testing/built-server';
import { makeTestDatabase, Script, STORY, until } from '../../../testing/test-server';
import { createToken } from '../../house/access/tokens';
import { checkBooks } from '../books/check-books';

const CLIENTS = 40;
/** How often the server is killed in the middle; a job has 25 tries, so KILLS goes up to 20. */
const KILLS = Number(process.env['KILLS'] ?? 6);
const SECONDS = 40_000;

let database: Awaited<ReturnType<typeof makeTestDatabase>>;
let folder: string;
beforeAll(async () => {
  database = await makeTestDatabase();
  folder = await mkdtemp(join(tmpdir(), 'drumline-killed-run-'));
});
afterAll(async () => {
  await database.drop();
  await rm(folder, { recursive: true, force: true });
});

/** Clients of their own, each with a flat line that is due and something approved. */
async function fill(): Promise<void> {
  const { knex } = database;
  await knex('billing_run').update({ state: 'done' });
  const { id: _id, number: _number, ...like } = await knex('client').where('name', 'like', 'Brackwater%').first();
  const { id: _k, number: _n, ...contract } = await knex('contract').whereNotNull('agreed_at').first();
  for (let n = 0; n < CLIENTS; n++) {
    const [client] = await knex('client')
      .insert({ ...like, number: 2000 + n, name: `Pier ${n}`, fields: JSON.stringify(like.fields) })
      .returning('id');
    const since = { agreed_at: '2026-11-01T08:00:00Z', made_at: '2026-11-01T08:00:00Z', notice_told_at: null };
    const of = { ...since, client_id: client.id, name: `Care ${n}`, starts_on: '2026-11-01', ends_on: null, number: 9000 + n };
    const [agreed] = await knex('contract')
      .insert({ ...contract, ...of })
      .returning('id');
    const [line] = await knex('contract_line')
      .insert({
        ...{ contract_id: agreed.id, name: 'Care', position: 1, counted: 'flat', frequency: 'monthly', anchor_on: '2000-01-01' },
        ...{ paid: 'in advance', lead_days: 0, proration: 'daily', starts_on: '2026-11-01' },
      })
      .returning('id');
    await knex('contract_price').insert({ line_id: line.id, from_on: '2026-11-01', price: '50' });
  }
}

/** What a process that died had begun is free again half a minute later; here at once. */
const freeJobs = () => database.knex.raw('update graphile_worker._private_jobs set locked_at = null, locked_by = null, run_at = now()');

describe('a server killed with -9 in a billing run', () => {
  it('goes on where it was: everything is billed once, and the books agree', async () => {
    await fill();
    const { knex } = database;
    const billing = await knex('person').where({ role: 'billing' }).first('id');
    const { secret } = await createToken(knex, { personId: billing.id, label: 'kill', now: STORY });
    let server = await beginBuilt(database.url, folder);
    const script = () => new Script(`http://127.0.0.1:${server.port}`, secret);
    const { id: runId } = await script().do('prepareRun', { body: { on: '2026-11-30' } });
    const state = async () => (await knex('billing_run').where({ id: runId }).first('state')).state as string;
    /** How many invoices were looked at, and how many issued. */
    const steps = async () => {
      const rows: { state: string }[] = await knex('billing_run_invoice').where({ run_id: runId }).select('state');
      return rows.length + rows.filter((r) => r.state === 'issued').length;
    };
    let kills = 0;
    for (let now = await state(); now !== 'done'; now = await state()) {
      if (now === 'ready') {
        const { toIssue } = await script().do('getRun', { params: { runId } });
        await script().do('issueRun', { params: { runId }, body: { ids: null, invoices: toIssue.invoices, netMinor: toIssue.net.minor } });
      }
      // From the state that was acted on: it may have got on since.
      const [before, was] = [await steps(), now];
      await until('it got on', async () => (await steps()) > before || (await state()) !== was, SECONDS);
      if (kills === KILLS) continue;
      await new Promise((later) => setTimeout(later, Math.random() * 60));
      await killed(server.child);
      kills++;
      await freeJobs();
      server = await beginBuilt(database.url, folder);
    }
    await killed(server.child);
    expect(kills).toBe(KILLS);
    const mine = () => knex('client').where('name', 'like', 'Pier %').select('id');
    expect(await knex('invoice').whereIn('client_id', mine()).pluck('net_minor')).toEqual(Array(CLIENTS).fill(5000));
    expect(await knex('billing_run_invoice').where({ run_id: runId }).whereNot({ state: 'issued' })).toEqual([]);
    expect((await checkBooks(knex)).findings).toEqual([]);
  });
});
