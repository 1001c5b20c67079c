import fc from 'fast-check';
import { startWorld, type Script, type World } from '../../../testing/test-server';
import { rateByContract } from './rate-by-contract';
import { readEffects } from './stored-effects';

let world: World;
let deepa: Script;
let activities: readonly { readonly id: string; readonly name: string }[];
beforeAll(async () => {
  world = await startWorld();
  deepa = await world.as('Deepa');
  ({ activities } = await deepa.do('getHouse'));
});
afterAll(() => world.stop());

/** An entry as it should end: on the first or second ticket of a pair, at a quarter hour of some days. */
interface Wanted {
  readonly slot: number;
  readonly minutes: number;
  readonly activity: number;
  readonly second: boolean;
  readonly billable: boolean;
}
/** The way it gets there: wrong at first in these, then edited right. */
interface Detour {
  readonly minutes: number;
  readonly activity: number;
  readonly second: boolean;
  readonly billable: boolean;
}

const DAY_STARTS = ['2026-11-17T06:30:00Z', '2026-11-18T16:45:00Z', '2026-11-21T10:00:00Z'];

/** Slots of a quarter hour: some early, some across the end of the working day, some at the weekend. */
function startOf(slot: number): string {
  const day = Date.parse(DAY_STARTS[slot % DAY_STARTS.length]!);
  return new Date(day + Math.floor(slot / DAY_STARTS.length) * 15 * 60_000).toISOString().replace('.000', '');
}

function formOf(slot: number, { minutes, activity, second, billable }: Detour, tickets: readonly [string, string]) {
  return {
    workId: tickets[second ? 1 : 0],
    startsAt: startOf(slot),
    duration: String(minutes),
    activityId: activities[activity % activities.length]!.id,
    note: 'as worked',
    billable,
    reason: billable ? null : 'goodwill',
  };
}

/** Two fresh tickets of one client, alike in everything that rating looks at. */
async function pair(): Promise<[string, string]> {
  const t = await world.knex('ticket').where({ kind: 'incident' }).whereNotNull('client_id').orderBy('number').first();
  const copy = async () => {
    const { id: _i, number: _n, search: _s, ...rest } = t;
    const [row] = await world
      .knex('ticket')
      .insert({
        ...rest,
        number: world.knex.raw(`nextval('ticket_number')`),
        received_at: '2026-11-16T09:00:00Z',
        changed_at: '2026-11-16T09:00:00Z',
        threading_why: null,
        resolved_at: null,
        closed_at: null,
        closes_at: null,
        due_at: null,
        reply_owed_since: null,
        status: 'queued',
        outcome: null,
        hold_reason: null,
      })
      .returning('id');
    return row.id as string;
  };
  return [await copy(), await copy()];
}

/** What the tickets of a pair charge, as a person would compare it: no ids, in order. */
async function charged(tickets: readonly [string, string]): Promise<unknown[]> {
  const rows = await world
    .knex('charge as c')
    .join('time_entry as e', 'e.id', 'c.time_entry_id')
    .whereIn('c.ticket_id', tickets)
    .orderByRaw('e.starts_at, c.part, c.kind')
    .select(
      'c.ticket_id',
      'e.starts_at',
      'c.kind',
      'c.part',
      'c.quantity',
      'c.unit',
      'c.unit_price',
      'c.net_minor',
      'c.tax_percent',
      'c.odd',
    );
  return rows.map(({ ticket_id, ...row }) => ({ second: ticket_id === tickets[1], ...row }));
}

const entriesOf = (tickets: readonly string[]) =>
  world
    .knex('time_entry as e')
    .join('ticket as t', 't.id', 'e.ticket_id')
    .whereIn('e.ticket_id', [...tickets])
    .orderBy('e.id')
    .select('e.*', 't.kind');

/** What the entries of some tickets do, as it is stored. */
async function stored(tickets: readonly string[]): Promise<unknown[]> {
  const ids = (await entriesOf(tickets)).map((e) => e.id);
  const effects = await readEffects(world.knex, ids);
  return ids.map((id) => effects.get(id));
}

/** The same, rated from nothing by what entries, rates and Setup say now. */
async function ratedAnew(tickets: readonly string[]): Promise<unknown[]> {
  const { byRate } = await rateByContract(world.knex, world.running.app.house, await entriesOf(tickets));
  return byRate.map((effect) => JSON.parse(JSON.stringify(effect)));
}

const detour = fc.record({
  minutes: fc.integer({ min: 5, max: 200 }),
  activity: fc.nat(3),
  second: fc.boolean(),
  billable: fc.boolean(),
});
const wanted = fc.record({
  slot: fc.nat(29),
  minutes: fc.integer({ min: 5, max: 200 }),
  activity: fc.nat(3),
  second: fc.boolean(),
  billable: fc.boolean(),
}) satisfies fc.Arbitrary<Wanted>;

describe('what entries charge', () => {
  it('depends on what they are in the end, not on the order or the way they got there', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(wanted, { minLength: 1, maxLength: 5, selector: (w) => w.slot }),
        fc.array(detour, { minLength: 5, maxLength: 5 }),
        fc.array(fc.nat(100), { minLength: 5, maxLength: 5 }),
        fc.nat(2),
        async (entries, detours, order, extras) => {
          const straight = await pair();
          for (const w of [...entries].sort((a, b) => startOf(a.slot).localeCompare(startOf(b.slot))))
            await deepa.do('addEntry', { body: formOf(w.slot, w, straight) });

          const winding = await pair();
          const shuffled = entries.map((w, i) => ({ w, key: order[i]! })).sort((a, b) => a.key - b.key);
          const added: { id: string; version: number; w: Wanted }[] = [];
          for (const { w } of shuffled) {
            const done = await deepa.do('addEntry', { body: formOf(w.slot, detours[added.length]!, winding) });
            added.push({ ...done, w });
          }
          for (let i = 0; i < extras; i++) {
            const extra = await deepa.do('addEntry', { body: formOf(30 + i, detours[i]!, winding) });
            await deepa.do('removeEntry', { params: { entryId: extra.id }, version: extra.version });
          }
          for (const { id, version, w } of [...added].reverse())
            await deepa.do('editEntry', { params: { entryId: id }, version, body: formOf(w.slot, w, winding) });

          expect(await charged(winding)).toEqual(await charged(straight));
          for (const tickets of [winding, straight]) expect(await stored(tickets)).toEqual(await ratedAnew(tickets));
          expect((await charged(straight)).length).toBeGreaterThanOrEqual(entries.filter((w) => w.billable).length);
        },
      ),
      { numRuns: 25, endOnFailure: true },
    );
  }, 150_000);

  it('leaves the call-out fee with the visit that an entry leaves', async () => {
    const tickets = await pair();
    const visit = activities.findIndex((a) => a.name === 'on site');
    const at = (slot: number, second: boolean) => formOf(slot, { minutes: 30, activity: visit, second, billable: true }, tickets);
    const first = await deepa.do('addEntry', { body: at(0, false) });
    await deepa.do('addEntry', { body: at(9, false) });
    const fees = async () =>
      (await charged(tickets)).filter((c) => (c as { kind: string }).kind === 'fee').map((c) => (c as { second: boolean }).second);
    expect(await fees()).toEqual([false]);
    const moved = await deepa.do('editEntry', { params: { entryId: first.id }, version: first.version, body: at(0, true) });
    expect(await fees()).toEqual([true, false]);
    await deepa.do('editEntry', { params: { entryId: first.id }, version: moved.version, body: at(0, false) });
    expect(await fees()).toEqual([false]);
  });

  it('is stored as it was rated, and is not rated anew when rates change', async () => {
    const tickets = await pair();
    const { id } = await deepa.do('addEntry', { body: formOf(0, { minutes: 30, activity: 0, second: false, billable: true }, tickets) });
    const shown = async () =>
      (await deepa.do('listTicketEntries', { params: { ticketId: tickets[0] } })).entries.find((e) => e.entry.id === id)!.entry.effect;
    const before = await shown();
    const rules = await world.knex('rate_rule').select('id', 'rate');
    await world.knex('rate_rule').update({ rate: world.knex.raw('rate * 2') });
    expect(await shown()).toEqual(before);
    expect((await world.knex('charge').where({ time_entry_id: id, cause: 'entry' }).sum('net_minor as n').first())!['n']).toBe(
      String(before.amount!.minor),
    );
    for (const { id: ruleId, rate } of rules) await world.knex('rate_rule').where({ id: ruleId }).update({ rate });
    const columns = 'person_id, work_id, client_id, starts_at, ends_at, minutes, grade_id, activity_id, billable';
    const silently = world.knex.raw(`insert into time_entry (${columns}) select ${columns} from time_entry where id = ?`, [id]);
    await expect(silently).rejects.toThrow('was never rated');
  });
});
