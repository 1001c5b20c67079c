import { CONTRACT_STATES, type ContractWire } from '@core/contracts';
import { lineForm } from '../../../testing/contract-forms';
import { ownClient, remoteOf, timeForm } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let deepa: Script;
let clientId: string;
let ticketId: string;
let remote: string;
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  deepa = await world.as('Deepa');
  remote = await remoteOf(deepa);
  ({ clientId, ticketId } = await ownClient(world));
});
afterAll(() => world.stop());

const form = (startsAt: string, duration: string) => timeForm({ workId: ticketId, activityId: remote }, startsAt, duration);
const record = async (startsAt: string, duration: string) => (await deepa.do('addEntry', { body: form(startsAt, duration) })).id;
const chargesOf = async (entryId: string) =>
  (
    await world.knex('charge').where({ time_entry_id: entryId, kind: 'labour' }).orderBy('part').select('net_minor', 'state', 'quantity')
  ).map((c) => [c.net_minor, c.state, Number(c.quantity)]);
const effectOf = async (entryId: string) => (await world.knex('entry_effect').where({ time_entry_id: entryId }).first('effect')).effect;
const contract = (contractId: string) => hanna.do('getContract', { params: { contractId } });
/** Grants so many hours from now on. */
const grantOf = async (contractId: string, hours: string) => {
  const { version, allowances } = await contract(contractId);
  const [{ id: allowanceId, later: _l, blocks: _b, ...allowance }] = allowances as [ContractWire['allowances'][number]];
  return hanna.do('editAllowance', { params: { contractId, allowanceId }, version, body: { ...allowance, grant: hours } });
};
const draw = async (more: object = {}) => {
  const body = {
    clientId,
    name: 'Support hours',
    startsOn: '2026-11-20',
    lastDay: null,
    preset: 'hours each month',
    grant: '2',
    price: '180',
    ...more,
  } as const;
  return (await hanna.do('createContract', { body: body as never })).id;
};

describe('a contract', () => {
  let contractId: string;
  it('is drawn up from a preset, which asks for what it needs, and is called by its number', async () => {
    const body = {
      clientId,
      name: 'Support hours',
      startsOn: '2026-11-20',
      lastDay: null,
      preset: 'hours each month',
      grant: null,
      price: '180',
    } as const;
    expect((await hanna.ask('createContract', { body })).body).toMatchObject({
      status: 422,
      fields: { grant: 'say how much work it holds' },
    });
    expect((await hanna.ask('createContract', { body: { ...body, grant: '0.01' } })).body).toMatchObject({
      status: 422,
      detail: expect.stringContaining('whole minutes'),
    });
    expect((await hanna.ask('createContract', { body: { ...body, grant: '2', lastDay: '2026-11-19' } })).body).toMatchObject({
      status: 422,
      fields: { lastDay: '2026-11-20 or later' },
    });
    expect(await world.knex('contract').where({ client_id: clientId })).toEqual([]);
    contractId = await draw();
    const { number } = await contract(contractId);
    const made = await contract(String(number));
    expect(made).toMatchObject({
      id: contractId,
      state: 'draft',
      client: 'Brackwater Pilots',
      allowances: [{ measure: 'hours', grant: '2' }],
    });
    expect(made.cover.map((r) => r.says)).toEqual(['all work']);
    expect(made.lines).toMatchObject([{ counted: 'flat', price: '180', seats: [] }]);
  });

  it('covers nothing before it is agreed, and all open work from its start when it is', async () => {
    const before = await record('2026-11-19T09:00:00Z', '45');
    const first = await record('2026-11-20T09:00:00Z', '45');
    const byRate = await chargesOf(first);
    expect(byRate).toHaveLength(1);
    const { version } = await contract(contractId);
    await hanna.do('agreeContract', { params: { contractId }, version });
    expect((await contract(contractId)).state).toBe('running');
    expect(await chargesOf(before)).toHaveLength(1);
    expect(await chargesOf(first)).toEqual([]);
    expect(await effectOf(first)).toMatchObject({
      is: 'covered',
      amount: null,
      sentence: "45 min of November's 2 h, 1 h 15 left; nothing to pay",
    });
    expect((await hanna.ask('agreeContract', { params: { contractId }, version: version + 1 })).body).toMatchObject({ status: 409 });
  });

  it('says of time what it draws before it is recorded, and what is recorded does just that', async () => {
    const { workId, ...typed } = form('2026-11-21T09:00:00Z', '90');
    const asked = { workId, startsAt: typed.startsAt, duration: typed.duration, activityId: typed.activityId, billable: 'true' as const };
    const said = await deepa.do('previewEntry', { query: asked });
    expect(said.sentence).toMatch(/^1 h 15 of November's 2 h, 0 min left; €\d+\.\d\d to the client for the rest$/);
    const second = await record('2026-11-21T09:00:00Z', '90');
    expect((await effectOf(second)).sentence).toBe(said.sentence);
    expect(await chargesOf(second)).toEqual([[said.amount!.minor, 'proposed', 15]]);
  });

  it('shows what was drawn by which work, and what is left', async () => {
    const time = await hanna.do('getContractTime', { params: { contractId }, query: {} });
    expect(time.allowances).toMatchObject([{ granted: 120, left: 0, used: 120, usedPercent: 100, runsOut: '2026-11-21' }]);
    expect(time.draws.map((d) => [d.minutes, d.is, d.person.split(' ')[0]])).toEqual([
      [90, 'part overage', 'Deepa'],
      [45, 'covered', 'Deepa'],
    ]);
    const before = await hanna.do('getContractTime', { params: { contractId }, query: { on: '2026-10-05' } });
    expect([before.from, before.draws, before.allowances[0]!.lots]).toEqual(['2026-10-01', [], []]);
  });

  it('draws in order of the work, whatever the order of saving, and back and forth ends the same', async () => {
    const all = () =>
      world
        .knex('time_entry as e')
        .join('entry_effect as x', 'x.time_entry_id', 'e.id')
        .where({ 'e.contract_id': contractId })
        .whereNull('e.removed_at')
        .orderBy('e.starts_at')
        .select('x.effect');
    const stood = await all();
    const early = await record('2026-11-20T08:00:00Z', '60');
    expect((await all()).map((r) => r.effect.under.stretches[0].coveredMinutes)).toEqual([60, 45, 15]);
    const { version } = await world.knex('time_entry').where({ id: early }).first('version');
    await deepa.do('removeEntry', { params: { entryId: early }, version });
    expect(await all()).toEqual(stood);
  });

  it('changes what is open when its terms change, and nothing that was decided', async () => {
    const [decided] = await world
      .knex('charge')
      .where({ kind: 'labour' })
      .whereIn('time_entry_id', world.knex('time_entry').where({ contract_id: contractId }).select('id'));
    await hanna.do('decideCharge', {
      params: { chargeId: decided.id },
      version: decided.version,
      body: { decision: 'approve', reason: null, quantity: null, unitPrice: null, description: null, until: null } as never,
    });
    await grantOf(contractId, '1');
    expect((await world.knex('charge').where({ id: decided.id }).first()).net_minor).toBe(decided.net_minor);
    const open = await world.knex('time_entry').where({ contract_id: contractId }).whereNull('removed_at').orderBy('starts_at').first('id');
    // What was decided drew 1 h 15, more than there is now: nothing is left for what is open.
    expect(await effectOf(open.id)).toMatchObject({ is: 'charged', sentence: expect.stringContaining('nothing is left of Hours') });
    await grantOf(contractId, '2');
    expect(await effectOf(open.id)).toMatchObject({ is: 'covered' });
  });

  it('is changed by one of two who saw the same, and its rules keep their ids wherever they stand', async () => {
    const seen = await contract(contractId);
    const [{ id: allowanceId, later: _l, blocks: _b, ...allowance }] = seen.allowances as [ContractWire['allowances'][number]];
    const change = (name: string) =>
      hanna.ask('editAllowance', { params: { contractId, allowanceId }, version: seen.version, body: { ...allowance, name } });
    expect([(await change('Support')).status, (await change('Help')).status]).toEqual([200, 412]);
    const [{ id, says: _, ...rule }] = seen.cover as [ContractWire['cover'][number]];
    const night = { ...rule, id: null, bands: ['holiday' as const], allowanceId: null };
    const set = async (rules: object[]) =>
      hanna.ask('setCover', { params: { contractId }, version: (await contract(contractId)).version, body: { rules: rules as never } });
    expect((await set([night, { ...rule, id }])).status).toBe(200);
    const then = (await contract(contractId)).cover;
    expect(then.map((r) => [r.says, r.id === id])).toEqual([
      ['holiday', false],
      ['all work', true],
    ]);
    expect(
      (
        await set([
          { ...rule, id },
          { ...rule, id },
        ])
      ).status,
    ).toBe(422);
    expect((await set([{ ...rule, id: ticketId }])).status).toBe(422);
    expect((await set([{ ...rule, id }])).status).toBe(200);
  });

  it('says the same wherever time is typed: of several at once, and in a cell of the week', async () => {
    const grant = (hours: string) => grantOf(contractId, hours);
    await grant('4');
    const entries = ['2026-11-23T06:00:00Z', '2026-11-23T07:30:00Z'].map((startsAt) => form(startsAt, '45'));
    const { effects } = await deepa.do('previewEntries', {
      body: { entries: entries.map(({ note: _, reason: __, ...e }) => ({ ...e, distance: null })) },
    });
    const [first, second] = [await record(entries[0]!.startsAt, '45'), await record(entries[1]!.startsAt, '45')];
    expect(effects.map((e) => e.sentence)).toEqual([(await effectOf(first)).sentence, (await effectOf(second)).sentence]);
    expect(effects[1]!.sentence).toMatch(/^45 min of November's 4 h, .* left; nothing to pay$/);
    const cells = [{ workId: ticketId, activityId: remote, day: '2026-11-23', typed: '2:00', was: 90 }];
    const [said] = (await deepa.do('previewCells', { body: { cells: cells as never } })).cells;
    await deepa.do('setCells', { body: { cells: cells as never } });
    expect(said!.effect!.why).toEqual(expect.arrayContaining([expect.objectContaining({ rule: "the client's only contract" })]));
    const sheet = (await deepa.do('getDaySheet', { query: { day: '2026-11-23' } })).entries.filter((e) => e.workId === ticketId);
    expect(sheet.map((e) => e.effect.amount)).toEqual([null, null]);
    for (const e of sheet) await deepa.do('removeEntry', { params: { entryId: e.id }, version: e.version });
    await grant('2');
  });

  it('is one of several: without a preferred one work goes by the hour', async () => {
    const other = await draw({ name: 'Care', preset: 'everything covered', grant: null, price: '99', startsOn: '2026-11-22' });
    await hanna.do('agreeContract', { params: { contractId: other }, version: 1 });
    const entry = await record('2026-11-23T09:00:00Z', '30');
    expect(await chargesOf(entry)).toHaveLength(1);
    const now = await contract(other);
    const body = {
      name: now.name,
      startsOn: now.startsOn,
      lastDay: null,
      preferred: true,
      purchaseOrder: null,
      notes: null,
      frequency: now.frequency,
      anchored: now.anchored,
      overageFactor: '1',
      renewal: 'ends',
      termMonths: 12,
      noticeDays: 30,
    };
    await hanna.do('editContract', { params: { contractId: other }, version: now.version, body });
    expect(await effectOf(entry)).toMatchObject({
      is: 'covered',
      sentence: `covered by ${(await contract(other)).number} Care; nothing to pay`,
    });
    expect(await chargesOf(entry)).toEqual([]);
    expect((await contract(other)).story.map((s) => s.what)).toContain('changed preferred from no to yes');
    await hanna.do('editContract', { params: { contractId: other }, version: now.version + 1, body: { ...body, lastDay: '2026-11-22' } });
    // Not covered by it any more, it finds the other.
    expect((await effectOf(entry)).under.contract).toMatch(/^\d+ Support hours$/);
  });

  it('draws nothing twice when two save at once', async () => {
    const many = await Promise.all(['10', '11', '12', '13'].map((h) => record(`2026-11-24T0${Number(h) - 10}:00:00Z`, '20')));
    expect(new Set(many).size).toBe(4);
    const rows = await world
      .knex('time_entry as e')
      .join('entry_effect as x', 'x.time_entry_id', 'e.id')
      .where({ 'e.contract_id': contractId })
      .whereNull('e.removed_at')
      .select('x.effect');
    const drawn = rows
      .flatMap((r) => r.effect.under?.stretches ?? [])
      .reduce((sum: number, s: { coveredMinutes: number }) => sum + s.coveredMinutes, 0);
    expect(drawn).toBe(120);
  });
});

describe('lines', () => {
  let contractId: string;
  let lineId: string;
  let people: string[];
  const add = (unitIds: string[], startsOn: string, lastDay: string | null = null) =>
    hanna.ask('addSeats', { params: { contractId, lineId }, body: { unitIds, startsOn, lastDay } });
  const run = (on: string) => hanna.do('proposeRecurring', { params: { contractId }, body: { on } });
  const next = (on: string) => hanna.do('getNextInvoice', { params: { contractId }, query: { on } });
  beforeAll(async () => {
    const [other] = await world.knex('client').where('name', 'like', 'Tallow%').select('id');
    people = await world.knex('contact').where({ client_id: other.id }).orderBy('name').limit(4).pluck('id');
    contractId = await draw({
      clientId: other.id,
      name: 'Per person',
      preset: 'per seat',
      grant: null,
      price: '32',
      startsOn: '2026-11-01',
    });
    lineId = (await contract(contractId)).lines[0]!.id;
  });

  it('have people of the client on them, each once on a day, and say who is in the way', async () => {
    expect((await add(people.slice(0, 3), '2026-11-01')).status).toBe(200);
    expect((await add([people[0]!], '2026-11-20')).body).toMatchObject({
      status: 409,
      detail: expect.stringContaining('already from 2026-11-01'),
    });
    const stranger = await world.knex('contact').where({ client_id: clientId }).first('id');
    expect((await add([people[3]!, stranger.id], '2026-11-20')).body).toMatchObject({ status: 422, fields: { unitIds: 'of this client' } });
    expect((await contract(contractId)).lines[0]!.seats).toHaveLength(3);
    const again = await add([people[3]!], '2026-11-20', '2026-11-19');
    expect(again.body).toMatchObject({ status: 422, fields: { lastDay: '2026-11-20 or later' } });
  });

  it('are proposed once they are due, once, and nothing before the contract is agreed', async () => {
    expect((await hanna.ask('proposeRecurring', { params: { contractId }, body: { on: '2026-11-24' } })).status).toBe(409);
    await hanna.do('agreeContract', { params: { contractId }, version: (await contract(contractId)).version });
    const seen = await next('2026-11-24');
    expect(seen.due.map((d) => [d.is, d.period, d.quantity, d.amount.minor])).toEqual([
      ['new', 'November 2026', '3', 9600],
      ['new', 'December 2026', '3', 9600],
    ]);
    expect(await world.knex('charge').where({ contract_id: contractId })).toEqual([]);
    expect(await run('2026-11-24')).toMatchObject({ proposed: 2, net: { minor: 19200 } });
    const rows = () =>
      world
        .knex('charge')
        .where({ contract_id: contractId, cause: 'recurring' })
        .orderBy('on_date')
        .orderBy('part')
        .select('id', 'description', 'net_minor', 'state', 'version');
    const stood = await rows();
    expect(stood.map((c) => [c.description, c.net_minor])).toEqual([
      ['Support per seat, November 2026', 9600],
      ['Support per seat, December 2026', 9600],
    ]);
    await run('2026-11-24');
    expect(await rows()).toEqual(stood);
  });

  it('follow who joins and leaves: what is decided stays, and what it differs by is proposed beside it', async () => {
    const charges = await world.knex('charge').where({ contract_id: contractId, cause: 'recurring' }).orderBy('on_date');
    await hanna.do('decideCharge', {
      params: { chargeId: charges[0].id },
      version: charges[0].version,
      body: { decision: 'approve', reason: null, quantity: null, unitPrice: null, description: null, until: null } as never,
    });
    expect((await add([people[3]!], '2026-11-16')).status).toBe(200);
    const due = (await next('2026-11-24')).due;
    expect(due.map((d) => [d.is, d.period, d.amount.minor, d.billed.minor])).toEqual([
      ['true-up', 'November 2026', 1600, 9600],
      ['new', 'December 2026', 12800, 0],
    ]);
    expect(JSON.stringify(due[0]!.why)).toContain('joined');
    await run('2026-11-24');
    const all = await world
      .knex('charge')
      .where({ contract_id: contractId, cause: 'recurring' })
      .orderBy('on_date')
      .orderBy('part')
      .select('net_minor', 'state', 'part', 'odd');
    expect(all.map((c) => [c.net_minor, c.state, c.part, c.odd])).toEqual([
      [9600, 'approved', 0, []],
      [1600, 'proposed', 1, ['true-up']],
      [12800, 'proposed', 0, []],
    ]);
    const seat = (await contract(contractId)).lines[0]!.seats.find((s) => s.contactId === people[3]);
    await hanna.do('endSeat', { params: { contractId, seatId: seat!.id }, version: seat!.version, body: { lastDay: '2026-11-30' } });
    await run('2026-11-24');
    const december = await world
      .knex('charge')
      .where({ contract_id: contractId, cause: 'recurring', on_date: '2026-12-01' })
      .first('net_minor', 'quantity');
    expect([december.net_minor, Number(december.quantity)]).toEqual([9600, 3]);
  });

  it('keep what waits in charge review at what it is worth, and take off whom nobody meant', async () => {
    const waits = async () =>
      (
        await world
          .knex('charge')
          .where({ contract_id: contractId, cause: 'recurring', state: 'proposed' })
          .orderBy('on_date')
          .select('net_minor')
      ).map((c) => c.net_minor);
    const stood = await waits();
    expect(stood).toEqual([1600, 9600]);
    const added = await hanna.do('addSeats', {
      params: { contractId, lineId },
      body: { unitIds: [people[3]!], startsOn: '2026-12-01', lastDay: null },
    });
    expect(await waits()).toEqual([1600, 12800]);
    const takeOff = (seatIds: readonly string[]) => hanna.ask('takeOffSeats', { params: { contractId }, body: { seatIds: [...seatIds] } });
    expect((await takeOff([...added.ids, people[0]!])).status).toBe(404);
    expect(await waits()).toEqual([1600, 12800]);
    expect((await takeOff(added.ids)).body).toEqual({ takenOff: 1 });
    expect(await waits()).toEqual(stood);
    expect((await contract(contractId)).story.at(-1)!.what).toMatch(/^took .* off, as if never on it$/);
  });

  it('give another price from a day on, end, and are on an invoice', async () => {
    await hanna.do('setLinePrice', { params: { contractId, lineId }, body: { from: '2026-12-01', price: '40', tiers: [] } });
    expect(
      (await hanna.ask('setLinePrice', { params: { contractId, lineId }, body: { from: '2026-10-01', price: '40', tiers: [] } })).status,
    ).toBe(422);
    expect((await next('2026-11-24')).due.at(-1)).toMatchObject({ period: 'December 2026', amount: { minor: 12000 } });
    const { version } = (await contract(contractId)).lines[0]!;
    await hanna.do('endLine', { params: { contractId, lineId }, version, body: { lastDay: '2026-11-30' } });
    expect((await next('2026-11-24')).due.map((d) => d.period)).toEqual(['November 2026']);
    await run('2026-11-24');
    const left = await world
      .knex('charge')
      .where({ contract_id: contractId, cause: 'recurring' })
      .orderBy('part')
      .select('id', 'net_minor', 'version', 'client_id');
    expect(left.map((c) => c.net_minor)).toEqual([9600, 1600]);
    await hanna.do('decideCharge', {
      params: { chargeId: left[1].id },
      version: left[1].version,
      body: { decision: 'approve', reason: null, quantity: null, unitPrice: null, description: null, until: null } as never,
    });
    const billing = await world.as('Ngozi');
    const issued = await billing.ask('issueInvoice', {
      body: { clientId: left[0].client_id, chargeIds: left.map((c) => c.id), grossMinor: 12_712 },
    });
    expect(issued.status).toBe(200);
    expect((await next('2026-11-24')).due).toEqual([]);
  });
});

describe('contracts in a list', () => {
  it('are found by the state that they show, each by one', async () => {
    const today = '2026-11-24';
    const spans = [
      ['2026-01-01', null],
      [today, today],
      ['2026-11-25', null],
      ['2026-01-01', '2026-11-23'],
      ['2026-01-01', today],
    ] as const;
    for (const [startsOn, lastDay] of spans)
      for (const agreed of [true, false]) {
        const id = await draw({ preset: 'by the hour', grant: null, price: null, startsOn, lastDay });
        if (agreed) await hanna.do('agreeContract', { params: { contractId: id }, version: 1 });
      }
    const all = await hanna.do('listContracts', { query: { clientId } });
    const found = [];
    for (const state of CONTRACT_STATES) {
      const { rows } = await hanna.do('listContracts', { query: { clientId, state } });
      expect(rows.map((r) => r.state)).toEqual(rows.map(() => state));
      expect(rows.length).toBeGreaterThan(0);
      found.push(...rows.map((r) => r.id));
    }
    expect(found.sort()).toEqual(all.rows.map((r) => r.id).sort());
  });

  it('keep the days on which their lines are billed, though their start moves', async () => {
    const id = await draw({ preset: 'by the hour', grant: null, price: null, startsOn: '2026-10-11' });
    const line = lineForm({ name: 'Care', price: '10', anchored: 'its start', leadDays: 0, startsOn: '2026-10-11' });
    await hanna.do('addLine', { params: { contractId: id }, body: line });
    const periods = async () =>
      (await hanna.do('getNextInvoice', { params: { contractId: id }, query: { on: '2026-11-24' } })).due.map((d) => d.from);
    expect(await periods()).toEqual(['2026-10-11', '2026-11-11']);
    const now = await contract(id);
    const terms = {
      preferred: false,
      purchaseOrder: null,
      notes: null,
      frequency: now.frequency,
      anchored: now.anchored,
      overageFactor: '1',
      renewal: 'ends',
      termMonths: 12,
      noticeDays: 30,
    };
    const body = { ...terms, name: now.name, startsOn: '2026-10-20', lastDay: null };
    await hanna.do('editContract', { params: { contractId: id }, version: now.version, body });
    expect(await periods()).toEqual(['2026-10-11', '2026-11-11']);
    expect((await contract(id)).lines[0]!.anchored).toBe('its start');
  });
});
