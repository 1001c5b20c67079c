import { ASSET_SORTS, CLIENT_SORTS } from '@core/clients';
import { ITEM_SORTS } from '@core/goods';
import { INVOICE_SORTS, INVOICE_STATES } from '@core/billing';
import { TICKET_SORTS } from '@core/desk';
import { startWorld, type Script, type World } from '../../testing/test-server';

let world: World;
let person: Script;
beforeAll(async () => {
  world = await startWorld();
  person = await world.as('Hanna');
  await issueSome();
});
afterAll(() => world.stop());

type ListRoute = 'listTickets' | 'listClients' | 'listAssets' | 'listItems' | 'listInvoices';
interface AnyPage {
  readonly rows: readonly Record<string, unknown>[];
  readonly count: number;
  readonly countCapped: boolean;
  readonly next: string | null;
}
const read = async (route: ListRoute, query: Record<string, string>) => (await person.do(route, { query })) as unknown as AnyPage;

/** All rows of a list, by pages of so many. */
async function walk(route: ListRoute, query: Record<string, string>, most: number): Promise<Record<string, unknown>[]> {
  const rows: Record<string, unknown>[] = [];
  let after: string | null = null;
  do {
    const page: AnyPage = await read(route, { ...query, most: String(most), ...(after ? { after } : {}) });
    rows.push(...page.rows);
    after = page.next;
  } while (after);
  return rows;
}

/** What a sort goes by in an answer; undefined comes last in time, as nothing is due. */
const KEY: Readonly<Record<string, (row: Record<string, unknown>) => string | number>> = {
  'listTickets due': (r) => (r['dueAt'] as string | null) ?? '9999',
  'listTickets received': (r) => r['receivedAt'] as string,
  'listTickets changed': (r) => r['changedAt'] as string,
  'listTickets owed': (r) => (r['replyOwedSince'] as string | null) ?? '9999',
  'listClients name': (r) => r['name'] as string,
  'listClients number': (r) => r['number'] as number,
  'listClients tickets': (r) => r['openTickets'] as number,
  'listClients contacts': (r) => r['contacts'] as number,
  'listAssets number': (r) => r['number'] as string,
  'listAssets name': (r) => r['name'] as string,
  'listAssets client': (r) => r['client'] as string,
  'listAssets tickets': (r) => r['openTickets'] as number,
  'listItems name': (r) => r['name'] as string,
  'listItems number': (r) => r['number'] as string,
  'listItems category': (r) => r['category'] as string,
  'listItems price': (r) => Number(r['price']),
  'listInvoices issued': (r) => r['issuedOn'] as string,
  'listInvoices due': (r) => r['dueOn'] as string,
  'listInvoices number': (r) => r['number'] as string,
  'listInvoices client': (r) => r['client'] as string,
  'listInvoices gross': (r) => (r['gross'] as { minor: number }).minor,
};
const lists: [ListRoute, readonly string[], number][] = [
  ['listTickets', TICKET_SORTS, 17],
  ['listClients', CLIENT_SORTS, 3],
  ['listAssets', ASSET_SORTS, 90],
  ['listItems', ITEM_SORTS, 7],
  ['listInvoices', INVOICE_SORTS, 4],
];
const cases = lists.flatMap(([route, sorts, most]) =>
  sorts.flatMap((sort) => [false, true].map((falls) => ({ route, sort: sort.replace('-', ''), most, falls }))),
);

describe('a list in pages', () => {
  it.each(cases)('$route by $sort (falls: $falls) misses none and repeats none, in order', async ({ route, sort, most, falls }) => {
    const filter: Record<string, string> = route === 'listTickets' ? { state: 'all', clientId: await busyClient() } : {};
    const query = { ...filter, sort: falls ? `-${sort}` : sort };
    const whole = (await read(route, { ...query, most: '1000' })).rows;
    const walked = await walk(route, query, most);
    expect(walked.map((r) => r['id'])).toEqual(whole.map((r) => r['id']));
    expect(new Set(walked.map((r) => r['id'])).size).toBe(walked.length);
    expect(walked.length).toBeGreaterThan(most);
    const keys = walked.map(KEY[`${route} ${sort}`]!);
    for (let i = 1; i < keys.length; i++) {
      const [before, now] = [keys[i - 1]!, keys[i]!];
      if (typeof before === 'number') expect(falls ? before >= (now as number) : before <= (now as number)).toBe(true);
      else expect([i, before, now, bytewise(before, String(now), falls)]).toEqual([i, before, now, true]);
    }
  });

  it('counts what fits, and no further than a thousand', async () => {
    const page = await read('listAssets', { most: '5' });
    expect([page.rows.length, page.count, page.countCapped]).toEqual([5, 420, false]);
    await world.knex.raw(`insert into asset (client_id, number, name) select id, 'ZZ-' || n, 'Sensor' from client, generate_series(1, 120) n
      on conflict do nothing`);
    await world.knex.raw(`insert into asset (client_id, number, name) select (select id from client limit 1), 'ZY-' || n, 'Sensor'
      from generate_series(1, 1000) n`);
    const more = await read('listAssets', { q: 'Sensor', most: '5' });
    expect([more.count, more.countCapped]).toEqual([1000, true]);
    await world.knex('asset').where({ name: 'Sensor' }).delete();
  });

  it('refuses a place that this list did not give, in words and without a fault', async () => {
    const { next } = await read('listAssets', { most: '5', sort: 'name' });
    const forged = (value: unknown) => Buffer.from(JSON.stringify(value)).toString('base64url');
    for (const after of [
      'nonsense',
      forged('due'),
      forged(['number', 'x']),
      forged(['number', "'; drop table asset", 'not an id']),
      forged(['name', '\0', '00000000-0000-4000-8000-000000000000']),
      next!,
    ]) {
      const { status, body } = await person.ask('listAssets', { query: { sort: 'number', after } });
      expect([after, status, (body as { fields?: object }).fields]).toEqual([after, 422, { after: 'the "next" of the page before' }]);
    }
    for (const [after, sort] of [
      [forged(['received', 'yesterday', '00000000-0000-4000-8000-000000000000']), 'received'],
      [forged(['due', '2026-13-45 99:99:99+00', 'x']), 'due'],
    ] as const)
      expect((await person.ask('listTickets', { query: { sort, after } })).status).toBe(422);
  });

  it('refuses a sort and a length that it does not know, naming what is allowed', async () => {
    const wrong = await person.ask('listClients', { query: { sort: 'colour', most: '5000' } });
    expect([wrong.status, (wrong.body as { fields: object }).fields]).toEqual([
      422,
      { sort: expect.stringContaining('sort by one of name, -name'), most: 'at most 1000 rows' },
    ]);
  });

  it('takes words as they are written, signs and all', async () => {
    const at = (q: string) => read('listItems', { q }).then((p) => p.count);
    expect([await at('%'), await at('_'), await at('\\'), await at('cable')]).toEqual([0, 0, 0, expect.any(Number)]);
    expect(await at('CABLE')).toBe(await at('cable'));
  });

  it('narrows invoices by the same states that core names', async () => {
    const all = await walk('listInvoices', {}, 100);
    for (const state of INVOICE_STATES) {
      const some = await walk('listInvoices', { state }, 100);
      expect(some.map((i) => i['id'])).toEqual(all.filter((i) => i['state'] === state).map((i) => i['id']));
    }
    expect(new Set(all.map((i) => i['state'])).size).toBeGreaterThan(3);
  });
});

/** Invoices of many dates and payments; the demo of tests is too short to have issued any. */
async function issueSome(): Promise<void> {
  const clients = await world.knex('client').orderBy('number').limit(3);
  const series = await world.knex('invoice_series').first();
  for (let n = 1; n <= 13; n++) {
    const client = clients[n % 3]!;
    const day = (d: number) => `2026-11-${String(d).padStart(2, '0')}`;
    const [{ id }] = await world
      .knex('invoice')
      .insert({
        kind: n % 5 === 0 ? 'credit note' : 'invoice',
        division_id: series.division_id,
        series_id: series.id,
        sequence: 900 + n,
        number: `PH-9${String((n * 7) % 13).padStart(2, '0')}`,
        client_id: client.id,
        issued_at: '2026-11-01T09:00:00Z',
        issued_on: day(1 + (n % 5)),
        due_on: day(17 + n),
        currency: 'EUR',
        seller: '{}',
        buyer: '{}',
        net_minor: 100 * (n % 4),
        tax_minor: 23 * (n % 4),
        gross_minor: 123 * (n % 4),
      })
      .returning('id');
    await world.knex('invoice_standing').insert({ invoice_id: id, settled_minor: [0, 0, 50, 123 * (n % 4)][n % 4] });
  }
}

/** Whether two texts stand in the order that PostgreSQL's C collation gives. */
function bytewise(a: string, b: string, descending: boolean): boolean {
  const order = Buffer.compare(Buffer.from(a), Buffer.from(b));
  return descending ? order >= 0 : order <= 0;
}

/** The client with the most tickets, so that pages are worth walking. */
async function busyClient(): Promise<string> {
  const row = await world.knex('ticket').whereNotNull('client_id').groupBy('client_id').orderByRaw('count(*) desc').first('client_id');
  return row.client_id;
}
