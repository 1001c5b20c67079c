// How fast contracts are worked out: cover and recurring lines in core, and what the next invoice says over HTTP.
import { billLine, type CoverTerms, type Measure, type RecurringLine, type WorkToCover, coverWork } from '@core/contracts';
import { type Instant, type LocalDate, plusDays } from '@core/ground';
import type { Knex } from 'knex';
import { HOURS, HOURS_A_MONTH, SEAT_LINE } from '../packages/core/testing/contract-samples';
import { at } from '../packages/server/src/app/database';
import { say } from './bench-server';

const day = (text: string) => text as LocalDate;
const START = day('2025-01-01');
const ENTRIES = 20_000;
const SEATS = 200;
const CLIENTS = 1000;
const ROUNDS = 40;
const PAST = 5000;
const SAVES = 15;
const AT_ONCE = 500;

/** Open entries of one contract, 28 a day. */
function openEntries(): WorkToCover[] {
  const begins = Date.parse(START) / 1000;
  return Array.from({ length: ENTRIES }, (_, n): WorkToCover => {
    const [days, minutes] = [Math.floor(n / 28), 15 + (n % 40)];
    return {
      id: `e${String(n).padStart(6, '0')}`,
      startsAt: (begins + days * 86_400 + 30_000 + (n % 28) * 600) as Instant,
      on: plusDays(START, days),
      gradeId: 'g',
      activityId: 'a',
      ticketId: `t${n % 5000}`,
      deskId: null,
      kind: null,
      stretches: [{ band: 'working hours', minutes, rate: '90', net: { minor: minutes * 150, currency: 'EUR' } }],
    };
  });
}

function termsOf(measure: Measure): CoverTerms {
  const grant = measure === 'money' ? 4_000_000 : 25_000;
  const allowances = [{ ...HOURS, measure, grant, carryDays: 45, borrowPercent: 25 }];
  return { ...HOURS_A_MONTH, from: START, allowances, overageFactor: '1.2' };
}

function lineOf(seats: number): RecurringLine {
  const units = Array.from({ length: seats }, (_, n) => ({
    of: `u${n}`,
    name: `u${n}`,
    from: plusDays(day('2026-01-01'), (n * 7) % 250),
    to: n % 7 ? null : day('2026-11-20'),
  }));
  return { ...SEAT_LINE, units };
}

/** Cover of 20,000 open entries of one contract, and a run of 200,000 seats over twelve periods each. */
export function contractsInCore(): void {
  const entries = openEntries();
  for (const measure of ['hours', 'money', 'incidents'] as const) {
    coverWork(termsOf(measure), entries, { currency: 'EUR' });
    const began = performance.now();
    coverWork(termsOf(measure), entries, { currency: 'EUR' });
    const ms = performance.now() - began;
    say(`${ENTRIES.toLocaleString('en')} open entries of one contract by ${measure}, ms`, ms.toFixed(0));
    say('the same, entries a second', Math.round((ENTRIES * 1000) / ms).toLocaleString('en'));
  }
  const line = lineOf(SEATS);
  const run = () => billLine(line, { at: day('2026-11-24'), billed: [], currency: 'EUR' });
  run();
  const began = performance.now();
  for (let n = 0; n < CLIENTS; n++) run();
  say(`a run over ${(CLIENTS * SEATS).toLocaleString('en')} seats, twelve periods each, ms`, (performance.now() - began).toFixed(0));
}

type Headers = Readonly<Record<string, string>>;

/** Headers of somebody who is signed in. */
export async function signedIn(knex: Knex, port: number, name: string): Promise<Headers> {
  const json = { 'content-type': 'application/json' };
  const person = await knex('person').where('name', 'like', `${name}%`).first('email');
  const signIn = { method: 'POST', headers: json, body: JSON.stringify({ email: person.email, password: 'drumline-demo' }) };
  const session = await fetch(`http://127.0.0.1:${port}/api/session`, signIn);
  const cookie = session.headers.get('set-cookie')!.split(';')[0]!;
  const me = (await (await fetch(`http://127.0.0.1:${port}/api/session`, { headers: { cookie } })).json()) as { csrf: string };
  return { ...json, cookie, 'x-csrf-token': me.csrf };
}

/** How long it takes to save time of a contract with many entries of last month, open and then closed. */
export async function closedPeriods(knex: Knex, port: number): Promise<void> {
  const people = ['Leif', 'Deepa', 'Ngozi'].map((name) => signedIn(knex, port, name));
  const [leif, deepa, ngozi] = (await Promise.all(people)) as [Headers, Headers, Headers];
  const call = async (headers: Headers, path: string, body: object): Promise<{ id: string }> => {
    const more = { 'idempotency-key': crypto.randomUUID(), 'if-match': '"1"' };
    const given = { method: 'POST', headers: { ...headers, ...more }, body: JSON.stringify(body) };
    const answer = await fetch(`http://127.0.0.1:${port}/api/${path}`, given);
    if (!answer.ok) throw new Error(`${path} answered ${answer.status}: ${await answer.text()}`);
    return answer.json() as Promise<{ id: string }>;
  };
  // A client that has no contract yet.
  const { id: clientId } = await knex('client').where('name', 'like', 'Saltmarsh%').first('id');
  const terms = { clientId, name: 'Bench', startsOn: '2026-10-01', lastDay: null, preset: 'hours each month', grant: '900', price: '1' };
  const { id: contractId } = await call(leif, 'contracts', terms);
  await call(leif, `contracts/${contractId}/agree`, {});
  const { id: workId } = await knex('ticket').where({ client_id: clientId, kind: 'incident' }).first('id');
  const { id: activityId } = await knex('activity').where({ name: 'remote' }).first('id');
  const time = (startsAt: number) => ({
    ...{ workId, activityId, duration: '2', note: 'bench', billable: true, reason: null },
    startsAt: new Date(startsAt).toISOString().replace('.000', ''),
  });
  const { id: first } = await call(deepa, 'time-entries', time(Date.UTC(2026, 9, 2, 6)));
  const { id: _, ticket_id: _t, ...own } = await knex('time_entry').where({ id: first }).first();
  // Of somebody else: what one person recorded on one ticket is charged together.
  const other = await knex('person').where('name', 'like', 'Sora%').first('id');
  const row = { ...own, person_id: other.id };
  const { effect } = await knex('entry_effect').where({ time_entry_id: first }).first('effect');
  const rows = Array.from({ length: PAST }, (_, n) => {
    const startsAt = (Date.UTC(2026, 9, 1 + (n % 28), 8, n % 480) / 1000) as Instant;
    return { ...row, starts_at: at(startsAt), ends_at: at((startsAt + row.minutes * 60) as Instant) };
  });
  const saved = async (what: string, hour: number) => {
    const took: number[] = [];
    for (let n = 0; n < SAVES; n++) {
      const began = performance.now();
      await call(deepa, 'time-entries', time(Date.UTC(2026, 10, 2 + n, hour)));
      took.push(performance.now() - began);
    }
    say(`${what}, ms, 50 of 100`, took.sort((a, b) => a - b)[Math.floor(SAVES / 2)]!.toFixed(0));
  };
  await saved('saving time of a contract that has next to none', 4);
  await addEntries(knex, rows, effect);
  await saved(`the same, with ${PAST.toLocaleString('en')} open entries of last month`, 5);
  await call(ngozi, `contracts/${contractId}/closings`, { to: '2026-11-01' });
  await saved('the same, last month closed', 6);
}

/** A client of 200 seats and 500 entries under an allowance, and how long their next invoice takes to be said. */
export async function nextInvoice(knex: Knex, port: number, contractId: string): Promise<void> {
  const headers = await signedIn(knex, port, 'Leif');
  for (const [what, path] of [
    ['next invoice of 200 seats and 500 entries', `contracts/${contractId}/next-invoice?on=2026-12-31`],
    ['what was drawn of it', `contracts/${contractId}/time?on=2026-11-24`],
  ] as const) {
    const took: number[] = [];
    for (let n = 0; n < ROUNDS; n++) {
      const began = performance.now();
      const answer = await fetch(`http://127.0.0.1:${port}/api/${path}`, { headers });
      await answer.text();
      if (!answer.ok) throw new Error(`${path} answered ${answer.status}`);
      took.push(performance.now() - began);
    }
    say(`${what}, ms, 95 of 100`, took.sort((a, b) => a - b)[Math.floor(ROUNDS * 0.95)]!.toFixed(0));
  }
}

export async function largeClient(knex: Knex): Promise<string> {
  const contract = await knex('contract as c')
    .join('contract_allowance as a', 'a.contract_id', 'c.id')
    .where('c.name', 'Support hours')
    .first('c.id', 'c.client_id');
  const people = Array.from({ length: SEATS }, (_, n) => ({
    client_id: contract.client_id,
    name: `Seat ${n}`,
    email: `seat${n}@bench.example`,
  }));
  const ids: string[] = (await knex('contact').insert(people).returning('id')).map((r) => r.id);
  const usual = {
    frequency: 'monthly',
    anchor_on: '2000-01-01',
    paid: 'in advance',
    lead_days: 10,
    proration: 'daily',
    starts_on: '2026-01-01',
  };
  const [line] = await knex('contract_line')
    .insert({ contract_id: contract.id, name: 'Bench', position: 9, counted: 'seat', ...usual })
    .returning('id');
  await knex('contract_price').insert({ line_id: line.id, from_on: '2026-01-01', price: '32' });
  await knex('contract_seat').insert(
    ids.map((id, n) => ({ line_id: line.id, contact_id: id, starts_on: plusDays(day('2026-01-01'), n), ends_on: null })),
  );
  const entry = await knex('time_entry as e')
    .join('entry_effect as x', 'x.time_entry_id', 'e.id')
    .where({ 'e.contract_id': contract.id })
    .whereNull('e.corrects')
    .first('e.*', 'x.effect');
  const { id: _id, ticket_id: _t, effect, ...as } = entry;
  const row = { ...as, starts_at: at(as.starts_at), ends_at: at(as.ends_at) };
  const rows = Array.from({ length: 500 }, () => row);
  await addEntries(knex, rows, effect);
  return contract.id;
}

/** An entry has its effect when its transaction ends. */
async function addEntries(knex: Knex, rows: readonly object[], effect: unknown): Promise<void> {
  await knex.transaction(async (tx) => {
    const made: { id: string }[] = await tx.batchInsert('time_entry', rows as never, AT_ONCE).returning('id');
    const effects = made.map(({ id }) => ({ time_entry_id: id, effect: JSON.stringify(effect) }));
    await tx.batchInsert('entry_effect', effects, AT_ONCE);
  });
}
