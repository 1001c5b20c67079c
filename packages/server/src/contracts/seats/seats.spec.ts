import type { SeatsChangeWire } from '@core/contracts';
import { lineForm } from '../../../testing/contract-forms';
import { ownClient } from '../../../testing/own-client';
import { startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let hanna: Script;
let clientId: string;
let workplace: string;
let phone: string;
let people: string[];
beforeAll(async () => {
  world = await startWorld();
  hanna = await world.as('Hanna');
  ({ clientId } = await ownClient(world));
  await world.knex('contact').where({ client_id: clientId }).update({ archived_at: '2026-11-01T00:00:00Z' });
  const names = ['Bo', 'Cy', 'Di', 'Ed'];
  const rows = names.map((name) => ({ client_id: clientId, name, email: `${name.toLowerCase()}@grid.example`, priority: false }));
  people = (await world.knex('contact').insert(rows).returning('id')).map((r) => r.id);
  const body = { clientId, name: 'Seats', startsOn: '2026-09-01', lastDay: null, preset: 'by the hour', grant: null, price: null };
  const { id } = await hanna.do('createContract', { body: body as never });
  const line = async (name: string, price: string) =>
    (await hanna.do('addLine', { params: { contractId: id }, body: lineForm({ name, price, counted: 'seat', startsOn: '2026-09-01' }) }))
      .id;
  [workplace, phone] = [await line('Workplace', '32'), await line('Phone', '9')];
  const { version } = await hanna.do('getContract', { params: { contractId: id } });
  await hanna.do('agreeContract', { params: { contractId: id }, version });
});
afterAll(() => world.stop());

const NONE: SeatsChangeWire = { put: [], end: [], takeOff: [] };
const put = (unitId: string, lineId: string, startsOn = '2026-10-01', lastDay: string | null = null) => ({
  unitId,
  lineId,
  startsOn,
  lastDay,
});
const ask = (change: object) => hanna.ask('changeSeats', { params: { clientId }, body: { ...NONE, ...change } as never });
const change = (body: object) => hanna.do('changeSeats', { params: { clientId }, body: { ...NONE, ...body } as never });
const preview = (body: object) => hanna.do('previewSeats', { params: { clientId }, body: { ...NONE, ...body } as never });
const grid = () => hanna.do('getClientSeats', { params: { clientId }, query: { counted: 'seat' } });
const states = async () => (await grid()).rows.map((r) => [r.name, r.state, r.monthly.minor]);
const stored = () =>
  world
    .knex('contract_seat as s')
    .join('contract_line as l', 'l.id', 's.line_id')
    .whereIn('s.line_id', [workplace, phone])
    .orderBy(['s.contact_id', 'l.name', 's.starts_on'])
    .select('s.contact_id', 'l.name', 's.starts_on', 's.ends_on');

describe('the seats of a client', () => {
  it('show who is on no line, and what all on lines come to in a month', async () => {
    expect(await states()).toEqual(['Bo', 'Cy', 'Di', 'Ed'].map((name) => [name, 'on no line', 0]));
    const [bo, cy] = people as [string, string];
    const { changed } = await change({ put: [put(bo, workplace), put(bo, phone), put(cy, workplace)] });
    expect(changed).toBe(3);
    // They asked for nothing and have nothing: it is billed, and shown.
    expect(await states()).toEqual([
      ['Bo', 'billed for nothing', 4100],
      ['Cy', 'billed for nothing', 3200],
      ['Di', 'on no line', 0],
      ['Ed', 'on no line', 0],
    ]);
    await world.knex('asset').insert({ client_id: clientId, contact_id: bo, number: 'GR-1', name: 'Desktop' });
    const { figures, lines } = await grid();
    expect(lines.map((l) => [l.name, l.price])).toEqual([
      ['Workplace', '32'],
      ['Phone', '9'],
    ]);
    expect(figures.map((f) => [f.state, f.count, f.monthly.minor])).toEqual([
      ['left, still billed', 0, 0],
      ['billed for nothing', 1, 3200],
      ['on no line', 2, 0],
      ['billed', 1, 4100],
    ]);
    expect(await hanna.do('getUnitSeats', { params: { unitId: bo } })).toMatchObject({
      seats: [
        { line: 'Workplace', price: '32', startsOn: '2026-10-01', lastDay: null },
        { line: 'Phone', price: '9' },
      ],
    });
  });

  it('say before a change what it does to the next invoice, and store nothing', async () => {
    const before = await stored();
    const { seats } = (await grid()).rows.find((r) => r.name === 'Cy')!;
    const said = await preview({ put: [put(people[2]!, phone, '2026-11-11')], end: [{ seatId: seats[0]!.seatId, lastDay: '2026-11-15' }] });
    expect(said.on).toBe('2026-12-22');
    const of = (line: string) => said.differences.filter((d) => d.line === line).map((d) => [d.period, d.before.minor, d.after.minor]);
    // Nothing was billed yet: all of September on is due.
    expect(of('Phone')).toEqual([
      ['November 2026', 900, 1500],
      ['December 2026', 900, 1800],
      ['January 2027', 900, 1800],
    ]);
    expect(of('Workplace')).toEqual([
      ['November 2026', 6400, 4800],
      ['December 2026', 6400, 3200],
      ['January 2027', 6400, 3200],
    ]);
    expect(said.after.minor - said.before.minor).toBe(600 + 900 + 900 - 1600 - 3200 - 3200);
    expect(await stored()).toEqual(before);
  });

  it('change many at once, all or none, and the answer takes it back', async () => {
    const before = await stored();
    const [bo, cy, di, ed] = people as [string, string, string, string];
    const rows = (await grid()).rows;
    const seatOf = (name: string, n: number) => rows.find((r) => r.name === name)!.seats[n]!.seatId;
    const twice = await ask({ put: [put(di, phone), put(cy, workplace, '2026-11-01')], takeOff: [seatOf('Bo', 0)] });
    expect(twice.body).toMatchObject({ status: 409, detail: expect.stringContaining('Cy is on Workplace already from 2026-10-01') });
    expect(await stored()).toEqual(before);
    const { undo } = await change({
      put: [put(di, phone), put(ed, phone), put(bo, workplace, '2026-12-01')],
      end: [{ seatId: seatOf('Cy', 0), lastDay: '2026-11-30' }],
      takeOff: [seatOf('Bo', 0)],
    });
    expect(await stored()).not.toEqual(before);
    await change(undo);
    expect(await stored()).toEqual(before);
    const backwards = await ask({ end: [{ seatId: seatOf('Cy', 0), lastDay: '2026-09-30' }] });
    expect(backwards.body).toMatchObject({ status: 422, detail: expect.stringContaining('Cy: ') });
    expect((await ask({})).status).toBe(422);
  });

  it('are of one client alone', async () => {
    const strange = await world.knex('contract_seat as s').whereNotIn('s.line_id', [workplace, phone]).first('s.id', 's.line_id');
    expect((await ask({ takeOff: [strange.id] })).status).toBe(404);
    expect((await ask({ put: [put(people[0]!, strange.line_id)] })).status).toBe(404);
    const other = await world.knex('contact').whereNot({ client_id: clientId }).first('id');
    expect((await ask({ put: [put(other.id, phone)] })).body).toMatchObject({ detail: 'There is no such contact of this client.' });
  });

  it('end when somebody leaves, and come back when that is taken back', async () => {
    const before = await stored();
    const bo = people[0]!;
    const away = async (archived: boolean) => {
      const { version } = await world.knex('contact').where({ id: bo }).first('version');
      await hanna.do('archiveContact', { params: { contactId: bo }, version, body: { archived } });
    };
    await away(true);
    expect((await stored()).filter((s) => s.contact_id === bo).map((s) => s.ends_on)).toEqual(['2026-11-25', '2026-11-25']);
    expect((await states())[0]).toEqual(['Bo', 'left, still billed', 4100]);
    await away(false);
    expect(await stored()).toEqual(before);
  });

  it('of somebody who left come back but for days on which they have another, with those that had not begun', async () => {
    const cy = people[1]!;
    const before = await stored();
    const away = async (archived: boolean) => {
      const { version } = await world.knex('contact').where({ id: cy }).first('version');
      await hanna.do('archiveContact', { params: { contactId: cy }, version, body: { archived } });
    };
    const { undo } = await change({ put: [put(cy, phone, '2027-01-01', '2027-02-28'), put(cy, phone, '2027-03-01')] });
    const withPhone = await stored();
    await away(true);
    expect((await stored()).filter((s) => s.contact_id === cy).map((s) => [s.name, s.ends_on])).toEqual([['Workplace', '2026-11-25']]);
    await away(false);
    expect(await stored()).toEqual(withPhone);
    // Put on again meanwhile, from the day after: what ended then stays ended.
    await away(true);
    await change({ put: [put(cy, workplace, '2026-11-25')] });
    await away(false);
    const workplaces = (await stored()).filter((s) => s.contact_id === cy && s.name === 'Workplace');
    expect(workplaces.map((s) => [s.starts_on, s.ends_on])).toEqual([
      ['2026-10-01', '2026-11-25'],
      ['2026-11-25', null],
    ]);
    const { seats } = (await grid()).rows.find((r) => r.name === 'Cy')!;
    const [first, second] = seats.filter((s) => s.lineId === workplace).map((s) => s.seatId);
    // Two of one person cannot be made to overlap by one command either.
    const both = await ask({
      end: [
        { seatId: first, lastDay: null },
        { seatId: second, lastDay: null },
      ],
    });
    expect(both.body).toMatchObject({ status: 409, detail: expect.stringContaining('Cy is on Workplace again from 2026-11-25') });
    expect(
      (
        await ask({
          end: [
            { seatId: first, lastDay: null },
            { seatId: first, lastDay: '2026-12-01' },
          ],
        })
      ).status,
    ).toBe(422);
    await change({ takeOff: [second], end: [{ seatId: first, lastDay: null }] });
    const phones = (await grid()).rows.find((r) => r.name === 'Cy')!.seats.filter((s) => s.lineId === phone);
    await change({ takeOff: phones.map((s) => s.seatId) });
    expect(undo.takeOff).toHaveLength(2);
    expect(await stored()).toEqual(before);
  });

  it('of 2,000 people are changed in one command', async () => {
    const rows = Array.from({ length: 2000 }, (_, n) => ({
      client_id: clientId,
      name: `P ${n}`,
      email: `p${n}@grid.example`,
      priority: false,
    }));
    const ids: string[] = (await world.knex('contact').insert(rows).returning('id')).map((r) => r.id);
    await change({ put: ids.map((id) => put(id, workplace)) });
    expect((await grid()).rows).toHaveLength(2004);
    const seats = (await grid()).rows.flatMap((r) => (r.name.startsWith('P ') ? r.seats : []));
    await change({ end: seats.map((s) => ({ seatId: s.seatId, lastDay: '2026-12-31' })) });
    const ended = await world.knex('contract_seat').where({ line_id: workplace, ends_on: '2027-01-01' });
    expect(ended).toHaveLength(2000);
    expect((await ask({ takeOff: seats.map((s) => s.seatId), put: [put(people[3]!, phone)] })).status).toBe(422);
  });
});
