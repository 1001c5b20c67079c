import { ruleOf } from '@core/ground';
import type { TicketWire } from '@core/desk';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let deepa: Script;
let categories: Record<string, string>;
beforeAll(async () => {
  world = await startWorld();
  [aoife, deepa] = [await world.as('Aoife'), await world.as('Deepa')];
  categories = Object.fromEntries((await aoife.do('listCategories')).categories.map((c) => [c.name, c.id]));
});
afterAll(() => world.stop());

const read = (ticketId: string): Promise<TicketWire> => aoife.do('getTicket', { params: { ticketId } });
const when = (fact: string, value: string) => ruleOf({ join: 'all', tests: [{ fact, is: 'is', value }] });
const FIELD = { name: 'Seat', on: 'ticket', kind: 'text', choices: [], shown: true, required: false, asked: [] } as const;

/** Opens a ticket by hand, for the first contact of the first client. */
async function open(subject = 'The lid is loose'): Promise<TicketWire> {
  const client = (await aoife.do('listClients')).rows[0]!;
  const { contacts } = await aoife.do('getClient', { params: { clientId: client.id } });
  const { id } = await aoife.do('createTicket', {
    body: {
      clientId: client.id,
      contactId: contacts[0]!.id,
      subject,
      text: 'As said.',
      byCall: true,
      feeId: null,
      feeQuantity: 1,
      fields: [],
    },
  });
  return read(id);
}

async function route(t: TicketWire, more: object = {}) {
  const { desks } = await aoife.do('getHouse');
  return aoife.ask('triageTicket', {
    params: { ticketId: t.id },
    version: t.version,
    body: {
      impact: 'one',
      urgency: 'can wait',
      kind: 'incident',
      deskId: desks.find((d) => d.name === 'Support')!.id,
      line: 'first',
      categoryId: categories['Files'],
      clientId: t.clientId,
      contactId: t.contactId,
      assetId: null,
      assigneeId: null,
      fields: [],
      ...more,
    },
  });
}

describe('own fields', () => {
  it('are kept under one name each, changed by version, and put away', async () => {
    const seat = await aoife.do('addOwnField', { body: { ...FIELD } });
    const twice = await aoife.ask('addOwnField', { body: { ...FIELD, name: 'SEAT' } });
    expect([twice.status, twice.body]).toMatchObject([422, { fields: { name: 'another name' } }]);
    expect((await deepa.ask('addOwnField', { body: { ...FIELD, name: 'Other' } })).status).toBe(403);
    expect((await aoife.ask('addOwnField', { body: { ...FIELD, name: 'Pick', kind: 'choice', choices: ['one'] } })).body).toMatchObject({
      fields: { choices: 'at least two' },
    });
    const other = await aoife.ask('editOwnField', { params: { fieldId: seat.id }, version: 1, body: { ...FIELD, kind: 'number' } });
    expect(detailOf(other)).toContain('Seat is a text');
    await aoife.do('editOwnField', { params: { fieldId: seat.id }, version: 1, body: { ...FIELD, name: 'Chair' } });
    expect((await aoife.ask('archiveOwnField', { params: { fieldId: seat.id }, version: 1 })).status).toBe(412);
    await aoife.do('archiveOwnField', { params: { fieldId: seat.id }, version: 2 });
    expect((await aoife.do('listOwnFields')).fields.map((f) => f.name)).not.toContain('Chair');
  });

  it('refuse a rule that speaks of what there is not, and name the place', async () => {
    const shown = { '==': [{ var: 'ticket.secret' }, 'x'] };
    const refused = await aoife.ask('addOwnField', { body: { ...FIELD, name: 'Spy', shown } });
    expect([refused.status, refused.body]).toMatchObject([
      422,
      { fields: { shown: expect.stringContaining('the rule.==[1] speaks of "ticket.secret"') } },
    ]);
  });

  it('must be filled at opening where their rule says so, each wrong value named with what is allowed', async () => {
    const field = await aoife.do('addOwnField', {
      body: {
        ...FIELD,
        name: 'Which shelf',
        kind: 'choice',
        choices: ['upper', 'lower'],
        shown: when('ticket.category', categories['Files']!),
        required: true,
        asked: ['opening'],
      },
    });
    const t = await open();
    const bare = await route(t);
    expect([bare.status, bare.body]).toMatchObject([422, { detail: 'Fill Which shelf first.', fields: { [field.id]: 'fill this' } }]);
    const wrong = await route(t, { fields: [{ fieldId: field.id, value: 'middle' }] });
    expect(detailOf(wrong)).toBe('Which shelf: "middle" was given, one of upper, lower is allowed.');
    expect((await read(t.id)).kind).toBe('unsorted');
    expect((await route(t, { fields: [{ fieldId: field.id, value: 'lower' }] })).status).toBe(200);
    const after = await read(t.id);
    expect(after.fields.find((f) => f.id === field.id)).toMatchObject({ value: 'lower', words: 'lower', required: true });
    // Of another category it is not asked for.
    expect((await route(await open(), { categoryId: categories['Programs'] })).status).toBe(200);
    await aoife.do('archiveOwnField', { params: { fieldId: field.id }, version: 1 });
  });

  it('are filled in place, by version, with the story; a person and an asset by their names, of this client alone', async () => {
    const add = async (name: string, kind: 'person' | 'asset' | 'yes/no') =>
      (await aoife.do('addOwnField', { body: { ...FIELD, name, kind } })).id;
    const [who, what, really] = [await add('Who knows', 'person'), await add('Spare', 'asset'), await add('Really', 'yes/no')];
    const t = await open();
    await route(t, { categoryId: categories['Programs'] });
    const { people } = await aoife.do('listPeople');
    const sora = people.find((p) => p.name.startsWith('Sora'))!;
    const assets = await aoife.do('listAssets', { query: { most: '200' } });
    const [own, foreign] = [assets.rows.find((a) => a.clientId === t.clientId), assets.rows.find((a) => a.clientId !== t.clientId)!];
    const set = async (fieldId: string, value: string | number | boolean | null) =>
      deepa.ask('setTicketFields', {
        params: { ticketId: t.id },
        version: (await read(t.id)).version,
        body: { values: [{ fieldId, value }] },
      });
    expect(detailOf(await set(what, foreign.id))).toBe('Spare: it is no asset of the client.');
    expect(detailOf(await set(who, foreign.id))).toBe('Who knows: there is no such person.');
    expect((await set(who, sora.id)).status).toBe(200);
    if (own) expect((await set(what, own.id)).status).toBe(200);
    expect((await set(really, false)).status).toBe(200);
    const after = await read(t.id);
    expect(after.fields.filter((f) => [who, really].includes(f.id)).map((f) => f.words)).toEqual([sora.name, 'no']);
    expect(after.story.at(-1)!.what).toBe('filled Really');
    const stale = await deepa.ask('setTicketFields', {
      params: { ticketId: t.id },
      version: 1,
      body: { values: [{ fieldId: really, value: true }] },
    });
    expect(stale.status).toBe(412);
    // What names an asset of this client goes where the ticket goes to another; the rest stays.
    const other = (await aoife.do('listClients')).rows.find((c) => c.id !== t.clientId)!;
    await aoife.do('moveToClient', {
      params: { ticketId: t.id },
      version: (await read(t.id)).version,
      body: { clientId: other.id, contactId: null, seen: true },
    });
    expect((await read(t.id)).fields.filter((f) => [who, what].includes(f.id)).map((f) => f.words)).toEqual([sora.name, null]);
  });
});

describe('what stands in the way of moves', () => {
  it('is asked of every move it is set for: checks, fields, own conditions; past it goes only a manager, with a reason', async () => {
    const t = await open('A lid and a hinge');
    await route(t, { categoryId: categories['Programs'], kind: 'service request' });
    const condition = await aoife.do('addOwnCondition', {
      body: {
        name: 'hinges wait for Monday',
        kinds: ['service request'],
        moves: ['underway'],
        rule: ruleOf({ join: 'all', tests: [{ fact: 'ticket.subject', is: 'contains', value: 'hinge' }] }),
      },
    });
    const move = async (by: Script, status: 'underway' | 'on hold', override: string | null = null) =>
      by.ask('setTicketStatus', {
        params: { ticketId: t.id },
        version: (await read(t.id)).version,
        body: { status, holdReason: status === 'on hold' ? 'client' : null, ownStatusId: null, override },
      });
    const barred = await move(deepa, 'underway');
    expect([barred.status, detailOf(barred)]).toEqual([409, 'Something stands in the way before it is underway: hinges wait for Monday.']);
    expect((await read(t.id)).obstacles.filter((o) => o.move === 'underway')).toEqual([
      { move: 'underway', check: 'own condition', what: 'hinges wait for Monday', id: condition.id },
    ]);
    expect((await move(deepa, 'underway', 'because')).status).toBe(403);
    expect((await move(aoife, 'underway', 'the client pays for today')).status).toBe(200);
    expect(await world.knex('closing_override').where({ ticket_id: t.id }).first('reason')).toEqual({
      reason: 'the client pays for today',
    });
    const closing = (await aoife.do('getDeskSettings')).closing;
    const rules = closing.rules.map((r) =>
      r.move === 'on hold' && r.kind === 'service request' ? { ...r, checks: ['no time logged' as const] } : r,
    );
    await aoife.do('setClosing', { body: { ...closing, rules } });
    expect(detailOf(await move(deepa, 'on hold'))).toContain('no time is logged');
    await aoife.do('setClosing', { body: closing });
    expect((await move(deepa, 'on hold')).status).toBe(200);
    await aoife.do('archiveOwnCondition', { params: { conditionId: condition.id }, version: 1 });
  });
});

describe("statuses under the house's own names", () => {
  it('do to clocks what they stand for, and show by their name', async () => {
    const bench = await aoife.do('addOwnStatus', { body: { name: 'drying', standsFor: 'on hold', waitsFor: 'supplier' } });
    expect((await aoife.ask('addOwnStatus', { body: { name: 'odd', standsFor: 'queued', waitsFor: 'client' } })).status).toBe(422);
    const t = await open('A wet board');
    await route(t, { categoryId: categories['Programs'] });
    const move = async (status: 'on hold' | 'underway', ownStatusId: string | null) =>
      deepa.ask('setTicketStatus', {
        params: { ticketId: t.id },
        version: (await read(t.id)).version,
        body: { status, holdReason: status === 'on hold' ? 'client' : null, ownStatusId, override: null },
      });
    expect(detailOf(await move('underway', bench.id))).toBe('drying stands for on hold, not underway.');
    expect((await move('on hold', bench.id)).status).toBe(200);
    const held = await read(t.id);
    expect([held.status, held.ownStatus, held.holdReason, held.clocks.find((c) => c.clock === 'resolution')!.state]).toEqual([
      'on hold',
      'drying',
      'supplier',
      'holding',
    ]);
    expect((await aoife.do('listTickets', { query: { ownStatusId: bench.id } })).rows.map((r) => [r.id, r.ownStatus])).toEqual([
      [t.id, 'drying'],
    ]);
    // On hold still, but for another reason and without the name.
    expect((await move('on hold', null)).status).toBe(200);
    expect([(await read(t.id)).ownStatus, (await read(t.id)).holdReason]).toEqual([null, 'client']);
    await move('on hold', bench.id);
    const edit = { name: 'drying', standsFor: 'underway', waitsFor: null } as const;
    expect(detailOf(await aoife.ask('editOwnStatus', { params: { statusId: bench.id }, version: 1, body: edit }))).toContain(
      '1 tickets are drying',
    );
    expect((await move('underway', null)).status).toBe(200);
    expect((await read(t.id)).clocks.find((c) => c.clock === 'resolution')!.state).toBe('running');
  });
});

describe('kinds', () => {
  it('have a promise of their own behind that of the client, which a change of kind takes', async () => {
    const { kinds } = await aoife.do('getDeskSettings');
    const { promises } = await aoife.do('listPromises');
    const [house] = promises.filter((p) => p.isHouseDefault);
    const made = await aoife.do('createPromise', { body: { name: 'Sales promise', targets: house!.targets, applyToOpen: false } });
    const set = (rule: object) => ({ body: { kinds: kinds.map((k) => (k.kind === 'sales follow-up' ? { ...k, ...rule } : k)) } });
    await aoife.do('setKinds', set({ promiseId: (await aoife.do('listPromises')).promises.find((p) => p.name === 'Sales promise')!.id }));
    const t = await open('They want more lids');
    await world.knex('client').where({ id: t.clientId }).update({ promise_id: null });
    await route(t, { categoryId: categories['Programs'] });
    const versionOf = async () => (await world.knex('ticket').where({ id: t.id }).first('promise_version_id')).promise_version_id;
    const before = await versionOf();
    await aoife.do('changeKind', { params: { ticketId: t.id }, version: (await read(t.id)).version, body: { kind: 'sales follow-up' } });
    const sales = await world
      .knex('promise_version as v')
      .join('promise as p', 'p.id', 'v.promise_id')
      .where({ 'p.name': 'Sales promise' })
      .first('v.id');
    expect([before === sales.id, await versionOf(), made.version]).toEqual([false, sales.id, 1]);
    await aoife.do('setKinds', set({ offered: false, promiseId: null }));
    const no = await route(await open(), { kind: 'sales follow-up', categoryId: categories['Programs'] });
    expect(detailOf(no)).toBe('Tickets of the kind sales follow-up are not offered any more.');
    expect((await aoife.ask('setKinds', { body: { kinds: kinds.map((k) => ({ ...k, offered: false })) } })).status).toBe(422);
    await aoife.do('setKinds', { body: { kinds: [...kinds] } });
  });

  it('have names of the house, which stand for one of ours, show fields of their own and never change under tickets', async () => {
    const loan = await aoife.do('addOwnKind', { body: { name: 'lid on loan', standsFor: 'service request' } });
    const back = await aoife.do('addOwnField', {
      body: { ...FIELD, name: 'Back by', kind: 'date', shown: when('ticket.ownKind', loan.id), required: true, asked: ['opening'] },
    });
    const programs = { categoryId: categories['Programs'] };
    expect(detailOf(await route(await open(), { ...programs, kind: 'incident', ownKindId: loan.id }))).toBe(
      'lid on loan stands for service request, not incident.',
    );
    const t = await open('A lid, please');
    const asked = { ...programs, kind: 'service request', ownKindId: loan.id };
    expect(detailOf(await route(t, asked))).toBe('Fill Back by first.');
    expect((await route(t, { ...asked, fields: [{ fieldId: back.id, value: '2026-12-01' }] })).status).toBe(200);
    const after = await read(t.id);
    expect([after.kind, after.ownKind, after.story.some((s) => s.what.includes('as lid on loan'))]).toEqual([
      'service request',
      'lid on loan',
      true,
    ]);
    expect((await aoife.do('listTickets', { query: { ownKindId: loan.id } })).rows.map((r) => r.ownKind)).toEqual(['lid on loan']);
    const edit = await aoife.ask('editOwnKind', {
      params: { ownKindId: loan.id },
      version: 1,
      body: { name: 'lid on loan', standsFor: 'incident' },
    });
    expect(detailOf(edit)).toContain('1 tickets are lid on loan');
    await aoife.do('changeKind', {
      params: { ticketId: t.id },
      version: after.version,
      body: { kind: 'service request', ownKindId: null },
    });
    expect((await read(t.id)).ownKind).toBeNull();
    const again = await aoife.ask('changeKind', {
      params: { ticketId: t.id },
      version: (await read(t.id)).version,
      body: { kind: 'service request', ownKindId: null },
    });
    expect(detailOf(again)).toContain('is service request already');
  });
});
