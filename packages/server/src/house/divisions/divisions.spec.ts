import fc from 'fast-check';
import { apiRoutes } from '@core/api';
import type { Route } from '@core/ground';
import { inputOf } from '../../../testing/generate-input';
import { detailOf, postMail, startWorld, until, type Script, type World } from '../../../testing/test-server';

let world: World;
let [hanna, callum]: Script[] = [];
let callumId: string;
let [services, workshop]: string[] = [];
/** Ids of all that belongs to managed services. */
const theirs = new Set<string>();
const EACH = 10;
const SEED = 14;

beforeAll(async () => {
  world = await startWorld();
  [hanna, callum] = [await world.as('Hanna'), await world.as('Callum')];
  callumId = (await world.knex('person').where('name', 'like', 'Callum%').first('id')).id;
  const { divisions } = await hanna.do('listDivisions');
  [services, workshop] = ['Managed services', 'Workshop'].map((name) => divisions.find((d) => d.name === name)!.id);
  const own = world.knex('client').where({ division_id: services }).select('id');
  const tickets = world.knex('ticket').where({ division_id: services }).select('id');
  for (const query of [
    own.clone(),
    tickets.clone(),
    ...['site', 'contact', 'asset', 'time_entry', 'charge', 'invoice', 'payment'].map((t) =>
      world.knex(t).whereIn('client_id', own).select('id'),
    ),
    ...['message', 'booking', 'checklist_item', 'timer'].map((t) => world.knex(t).whereIn('ticket_id', tickets).select('id')),
  ])
    for (const { id } of (await query) as { id: string }[]) theirs.add(id);
  const body = { role: 'administrator', exceptions: [{ divisionId: services, role: null }] };
  await hanna.do('setAccess', { params: { personId: callumId }, body: body });
});
afterAll(() => world.stop());

const ID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g;
const of = (name: string) => world.knex('ticket as t').join('client as c', 'c.id', 't.client_id').where('c.name', 'like', name);

/** What stands in the tables of a division, so that any change of it is seen. */
async function standing(): Promise<string> {
  const tables = [
    'client',
    'ticket',
    'charge',
    'invoice',
    'site',
    'contact',
    'asset',
    'message',
    'time_entry',
    'booking',
    'expense',
    'payment',
  ];
  const rows = await Promise.all(
    tables.map(async (table) => {
      const where = ['client', 'ticket', 'charge', 'invoice'].includes(table)
        ? `division_id = '${services}'`
        : ['message', 'booking'].includes(table)
          ? `ticket_id in (select id from ticket where division_id = '${services}')`
          : `client_id in (select id from client where division_id = '${services}')`;
      const { rows: found } = await world.knex.raw(
        `select count(*) as n, md5(string_agg(t::text, '|' order by t.id)) as h from ${table} t where ${where}`,
      );
      return `${table} ${found[0].n} ${found[0].h}`;
    }),
  );
  return rows.join('\n');
}

describe('somebody with a role in one division', () => {
  it('sees its clients, tickets and money, and of the other nothing, by list, search, number or id', async () => {
    const clients = (await callum!.do('listClients', { query: {} })).rows.map((c) => c.name);
    expect(clients).toEqual(['Tallow & Wick Chandlery']);
    const [mine, foreign] = [await of('Tallow%').first('t.id', 't.number'), await of('Hollin%').first('t.id', 't.number', 't.subject')];
    expect((await callum!.do('getTicket', { params: { ticketId: mine.id } })).number).toBe(mine.number);
    for (const ticketId of [foreign.id, String(foreign.number)])
      expect((await callum!.ask('getTicket', { params: { ticketId } })).status).toBe(404);
    const { rows: tickets } = await callum!.do('listTickets', { query: { state: 'all' } });
    expect(tickets.length).toBeGreaterThan(0);
    expect(new Set(tickets.map((t) => t.client))).toEqual(new Set(['Tallow & Wick Chandlery']));
    expect((await callum!.do('search', { query: { q: foreign.subject } })).hits.filter((h) => theirs.has(h.id))).toEqual([]);
    const lanes = (await callum!.do('getDispatch', { query: {} })).lanes.flatMap((l) => l.bookings);
    expect(lanes.filter((b) => theirs.has(b.workId))).toEqual([]);
    // That somebody is booked for the other is seen, so that nobody books them twice.
    const hidden = await world
      .knex('booking as b')
      .join('ticket as t', 't.id', 'b.ticket_id')
      .where({ 't.division_id': services, 'b.state': 'planned' })
      .whereBetween('b.starts_at', ['2026-11-24T11:00:00Z', '2026-11-24T18:00:00Z'])
      .whereNotNull('b.person_id')
      .first('b.person_id', 'b.starts_at');
    const lane = (await callum!.do('getDispatch', { query: {} })).lanes.find((l) => l.personId === hidden.person_id)!;
    const busy = lane.days.flatMap((d) => d.away).filter((a) => a.what === 'busy: another division');
    expect(busy.map((a) => Date.parse(a.from) / 1000)).toContain(hidden.starts_at);
    expect(
      (await hanna!.do('getDispatch', { query: {} })).lanes
        .flatMap((l) => l.days.flatMap((d) => d.away))
        .some((a) => a.what.includes('another division')),
    ).toBe(false);
    // What they write down is theirs too.
    const contact = await world
      .knex('contact as k')
      .join('client as c', 'c.id', 'k.client_id')
      .where('c.name', 'like', 'Tallow%')
      .first('k.id', 'c.id as client_id');
    const call = { clientId: contact.client_id, contactId: contact.id, subject: 'Laptop with a cracked screen', text: 'Brought in' };
    const made = await callum!.ask('createTicket', {
      body: { ...call, byCall: true, feeId: null, feeQuantity: 1, templateId: null, fields: [] },
    });
    expect([made.status, JSON.stringify(made.body)]).toEqual([200, expect.any(String)]);
    const opened = await world
      .knex('ticket')
      .where({ id: (made.body as { id: string }).id })
      .first('division_id');
    expect(opened.division_id).toBe(workshop);
    // Others see all of it as before.
    expect((await hanna!.do('getTicket', { params: { ticketId: foreign.id } })).number).toBe(foreign.number);
  });

  it('reads and changes nothing of the other on any route, whatever is sent', async () => {
    const before = await standing();
    const ids = [...theirs].filter((_, n) => n % Math.ceil(theirs.size / 60) === 0);
    const mine = (await of('Tallow%').limit(2)).map((t) => t.id as string);
    const token = (callum as unknown as { token: string }).token;
    const leaks: string[] = [];
    for (const route of Object.values(apiRoutes) as Route[]) {
      if (route.permission === 'open') continue;
      const sent = fc.record({
        params: fc.array(fc.constantFrom(...ids), { minLength: 3, maxLength: 3 }),
        query: inputOf(route.query, [...ids, ...mine]),
        body: route.upload ? fc.constant('bytes') : inputOf(route.body, [...ids, ...mine]),
      });
      for (const { params, query, body } of fc.sample(sent, { numRuns: EACH, seed: SEED })) {
        const path = route.path.replace(/:\w+/g, () => params.shift() ?? ids[0]!);
        const search = new URLSearchParams();
        for (const [name, value] of Object.entries(query ?? {}))
          if (typeof value === 'string' || typeof value === 'number') search.append(name, String(value).slice(0, 2000));
        const answer = await fetch(`${world.base}/api${path}${search.size ? `?${search}` : ''}`, {
          method: route.method,
          headers: {
            authorization: `Bearer ${token}`,
            'content-type': route.upload ? 'application/octet-stream' : 'application/json',
            'idempotency-key': crypto.randomUUID(),
            'if-match': '"1"',
          },
          ...(route.method === 'GET' || body === undefined ? {} : { body: route.upload ? 'bytes' : JSON.stringify(body) }),
        });
        const text = await answer.text();
        const asked = `${route.method} ${path} ${search} ${JSON.stringify(body)}`;
        const shown = answer.status < 300 ? (text.match(ID) ?? []).filter((id) => theirs.has(id) && !asked.includes(id)) : [];
        if (shown.length || answer.status >= 500)
          leaks.push(
            `${answer.status} ${asked.slice(0, 300)}: ${shown[0] ? text.slice(Math.max(0, text.indexOf(shown[0]) - 300), text.indexOf(shown[0]) + 400) : text.slice(0, 200)}`,
          );
      }
    }
    expect(leaks).toEqual([]);
    expect(await standing()).toBe(before);
  });

  it('is held to it by the database, on every table that belongs to somebody', async () => {
    const { rows } = await world.knex.raw(
      `select distinct c.table_name from information_schema.columns c join information_schema.tables t using (table_schema, table_name)
       where c.table_schema = 'public' and t.table_type = 'BASE TABLE' and c.column_name in ('ticket_id', 'client_id', 'invoice_id', 'charge_id', 'division_id')
         and c.udt_name = 'uuid' and not exists (select from pg_policies p where p.tablename = c.table_name) order by 1`,
    );
    // What the house keeps of divisions, and what only says that something happened.
    expect((rows as { table_name: string }[]).map((r) => r.table_name)).toEqual(['desk', 'invoice_series', 'outbox', 'person_access']);
  });

  it('gets no live event of the other, and loads anew when their access changes', async () => {
    const abort = new AbortController();
    const token = (callum as unknown as { token: string }).token;
    const stream = await fetch(`${world.base}/api/live`, { headers: { authorization: `Bearer ${token}` }, signal: abort.signal });
    let heard = '';
    let ended = false;
    void (async () => {
      for await (const piece of stream.body as unknown as AsyncIterable<Uint8Array>) heard += Buffer.from(piece).toString();
      ended = true;
    })().catch(() => undefined);
    await until('a stream', async () => heard.includes('hello'));
    const aoife = await world.as('Aoife');
    const [mine, foreign] = [await of('Tallow%').first('t.id'), await of('Hollin%').first('t.id')];
    for (const t of [foreign, mine]) await aoife.do('addNote', { params: { ticketId: t.id }, body: { text: 'Looked', uploadIds: [] } });
    await until('its own event', async () => heard.includes(mine.id));
    expect(heard).not.toContain(foreign.id);
    await hanna!.do('setAccess', { params: { personId: callumId }, body: { role: 'technician', exceptions: [] } });
    await until('its end', async () => ended);
    abort.abort();
    expect((await callum!.do('getTicket', { params: { ticketId: foreign.id } })).id).toBe(foreign.id);
  });
});

describe('access', () => {
  it('is set for others, once a division, and somebody can always change Setup', async () => {
    const set = (who: Script, personId: string, body: object) => who.ask('setAccess', { params: { personId }, body });
    const hannaId = (await world.knex('person').where('name', 'like', 'Hanna%').first('id')).id;
    expect((await set(hanna!, hannaId, { role: 'technician', exceptions: [] })).status).toBe(403);
    const twice = [null, 'technician'].map((role) => ({ divisionId: workshop, role }));
    expect((await set(hanna!, callumId, { role: 'technician', exceptions: twice })).status).toBe(422);
    expect((await set(hanna!, callumId, { role: 'boss', exceptions: [] })).status).toBe(422);
    const aoifeId = (await world.knex('person').where('name', 'like', 'Aoife%').first('id')).id;
    expect((await set(hanna!, aoifeId, { role: 'dispatcher', exceptions: [] })).status).toBe(200);
    const last = await set(await world.as('Tomasz'), hannaId, { role: 'dispatcher', exceptions: [] });
    expect(last.status).toBe(403);
    await set(hanna!, aoifeId, { role: 'service manager', exceptions: [] });
  });

  it('by division is a permission in that one alone', async () => {
    const body = { role: 'technician', exceptions: [{ divisionId: workshop, role: 'billing' }] };
    await hanna!.do('setAccess', { params: { personId: callumId }, body: body });
    const { permissions } = await callum!.do('getSession');
    expect(permissions).toEqual(expect.arrayContaining(['time.own', 'invoices.issue']));
    const drafts = await callum!.do('listDrafts', { query: {} });
    expect(drafts.rows.filter((d) => theirs.has(d.clientId))).toEqual([]);
    const foreign = await world.knex('charge').where({ division_id: services, state: 'proposed' }).first('id', 'version');
    const decide = {
      params: { chargeId: foreign.id },
      version: foreign.version,
      body: { decision: 'waive', reason: 'no', quantity: null, unitPrice: null, description: null, until: null },
    };
    expect((await callum!.ask('decideCharge', decide)).status).toBe(404);
    expect((await callum!.do('getTicket', { params: { ticketId: (await of('Hollin%').first('t.id')).id } })).client).toBe(
      'Hollin Veterinary Group',
    );
    await hanna!.do('setAccess', { params: { personId: callumId }, body: { role: 'technician', exceptions: [] } });
  });
});

describe('a division', () => {
  it('has its brand, mail address, tax of labour and series of numbers', async () => {
    const own = (await hanna!.do('listDivisions')).divisions.find((d) => d.id === workshop)!;
    expect(own).toMatchObject({ brand: 'Pellworth Workshop', mailFrom: 'workshop@pellworth.example', labourTaxPercent: '13.5' });
    expect(own.series).toEqual(['PW-', 'PWC-']);
    const ticket = await world.knex('ticket').where({ division_id: workshop }).orderBy('number').first('id');
    const remote = (await hanna!.do('getHouse')).activities.find((a) => a.name === 'remote')!.id;
    await callum!.do('addEntry', {
      body: {
        ...{ workId: ticket.id, activityId: remote, startsAt: '2026-11-20T06:00:00Z', duration: '30' },
        ...{ note: 'Set up on the bench', billable: true, reason: null },
      },
    });
    const charges = await world.knex('charge').where({ division_id: workshop, cause: 'entry' }).select('tax_percent');
    expect(new Set(charges.map((c) => Number(c.tax_percent)))).toEqual(new Set([13.5]));
    const { id, version, series: _, ...form } = own;
    const taken = await hanna!.ask('editDivision', { params: { divisionId: services! }, version: 1, body: { ...form, name: 'Services' } });
    expect([taken.status, detailOf(taken)]).toEqual([422, 'workshop@pellworth.example is the address of Workshop.']);
    const more = await hanna!.ask('editDivision', { params: { divisionId: id }, version, body: { ...form, labourTaxPercent: '101' } });
    expect(more.status).toBe(422);
    const changed = await hanna!.do('editDivision', { params: { divisionId: id }, version, body: { ...form, brand: 'Harbour Repairs' } });
    expect((await hanna!.ask('editDivision', { params: { divisionId: id }, version, body: form })).status).toBe(412);
    // A reply leaves under its name and from its address; a mail of somebody unknown to it is its ticket.
    const aoife = await world.as('Aoife');
    const t = await of('Tallow%').whereNotNull('t.contact_id').whereNot('t.kind', 'unsorted').first('t.id', 't.number', 't.secret');
    await aoife.do('replyToTicket', {
      params: { ticketId: t.id },
      body: { text: 'It is ready to be fetched.', cc: [], then: null, seenMessageId: null },
    });
    world.clock.forward(60);
    const reply = async () => (await world.mailbox()).find((m) => m.text.includes('ready to be fetched'));
    await until('the reply', async () => (await reply()) !== undefined);
    expect((await reply())!.from).toBe('"Harbour Repairs" <workshop@pellworth.example>');
    await hanna!.do('editDivision', { params: { divisionId: id }, version: changed.version, body: form });
  });

  it('gets the tickets of mail to its address from people nobody knows', async () => {
    for (const [to, division] of [
      ['workshop@pellworth.example', workshop],
      ['desk@pellworth.example', services],
    ]) {
      await postMail(world.running.smtpPort, { from: `walkin.${to}`, to, subject: `Is my laptop mended, asked of ${to}`, text: 'Is it?' });
      expect(await world.knex('ticket').where('subject', 'like', `%asked of ${to}`).first('division_id')).toEqual({
        division_id: division,
      });
    }
  });
});
