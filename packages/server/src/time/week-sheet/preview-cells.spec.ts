import type { CellEffectWire, EntryEffectWire } from '@core/time';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let sora: Script;
let soraId: string;
let activities: { id: string; name: string }[];
beforeAll(async () => {
  world = await startWorld();
  sora = await world.as('Sora');
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
  activities = (await sora.do('getHouse')).activities;
});
afterAll(() => world.stop());

const DAY = '2026-11-23';
const ticket = async (kind: string, n = 0) =>
  (
    await world
      .knex('ticket')
      .where({ kind })
      .whereNotIn('status', ['closed', 'cancelled'])
      .whereNull('umbrella_id')
      .whereNotExists(world.knex('time_entry as e').whereRaw('e.ticket_id = ticket.id').where({ person_id: soraId }))
      .orderBy('number')
      .offset(n)
      .first('id')
  ).id as string;
const cell = ({
  workId,
  typed,
  was = 0,
  more = {},
}: {
  readonly workId: string | null;
  readonly typed: string;
  readonly was?: number;
  readonly more?: object;
}) => ({
  workId,
  activityId: activities[0]!.id,
  day: DAY,
  typed,
  was,
  ...more,
});
const preview = async (...cells: object[]): Promise<CellEffectWire[]> =>
  (await sora.do('previewCells', { body: { cells: cells as never } })).cells;
const type = (...cells: object[]) => sora.do('setCells', { body: { cells: cells as never } });
/** What the entries of a ticket came to once they were stored. */
const stored = async (workId: string): Promise<EntryEffectWire[]> =>
  (await sora.do('getDaySheet', { query: { day: DAY } })).entries.filter((e) => e.workId === workId).map((e) => e.effect);
const charged = async (workId: string) => {
  const entries = world.knex('time_entry').where({ ticket_id: workId, person_id: soraId }).select('id');
  const charges = await world.knex('charge').where({ state: 'proposed' }).whereIn('time_entry_id', entries).select('net_minor');
  return charges.reduce((sum, c) => sum + Number(c.net_minor), 0);
};
/** What there is, of what jobs do meanwhile nothing. */
const counts = () =>
  Promise.all([
    ...['time_entry', 'charge'].map((table) => world.knex(table).count('* as n').first()),
    world.knex('event').where({ who_id: soraId }).count('* as n').first(),
  ]);

describe('what a cell will do, said before it is stored', () => {
  it('is what storing it does, to the cent and with the same reasons, and stores nothing itself', async () => {
    const id = await ticket('incident');
    const before = await counts();
    const [said] = await preview(cell({ workId: id, typed: '1:10' }));
    expect(await counts()).toEqual(before);
    await type(cell({ workId: id, typed: '1:10' }));
    const [done] = await stored(id);
    expect(said).toEqual({ effect: done, refused: null });
    expect(done!.sentence).toMatch(/^€\d+\.\d\d to the client$/);
    expect(await charged(id)).toBe(done!.amount!.minor);
    // More and less of what stands.
    for (const typed of ['2:25', '0:20', '3']) {
      const was = (await stored(id)).reduce((sum, e) => sum + e.minutes, 0);
      const [again] = await preview(cell({ workId: id, typed, was }));
      await type(cell({ workId: id, typed, was }));
      expect(again!.effect).toEqual((await stored(id))[0]);
    }
    expect((await preview(cell({ workId: id, typed: '', was: 180 })))[0]).toMatchObject({
      effect: { minutes: 0, sentence: 'nothing is recorded', amount: null },
    });
  });

  it('counts what is decided on and what is added to it, each with its steps', async () => {
    const id = await ticket('incident', 1);
    await type(cell({ workId: id, typed: '1:00' }));
    await world.knex('time_entry').where({ ticket_id: id, person_id: soraId }).update({ approval: 'approved' });
    const [said] = await preview(cell({ workId: id, typed: '1:25', was: 60 }));
    await type(cell({ workId: id, typed: '1:25', was: 60 }));
    const parts = await stored(id);
    expect(parts).toHaveLength(2);
    expect(said!.effect).toMatchObject({ minutes: 85, amount: { minor: parts[0]!.amount!.minor + parts[1]!.amount!.minor } });
    expect(said!.effect!.why.map((s) => s.rule)).toEqual(expect.arrayContaining(['entry 1', 'entry 2', 'together']));
    expect(await preview(cell({ workId: id, typed: '0:30', was: 85 }))).toEqual([
      { effect: null, refused: `1 h of ${DAY} are decided on in money already; not less than that.` },
    ]);
  });

  it('counts a fee that was decided on as it was decided, and once', async () => {
    const id = await ticket('incident', 7);
    const visit = activities.find((a) => a.name === 'on site')!.id;
    const onSite = (typed: string, was: number) => ({ ...cell({ workId: id, typed, was }), activityId: visit });
    await type(onSite('1:00', 0));
    const entries = world.knex('time_entry').where({ ticket_id: id, person_id: soraId }).select('id');
    await world.knex('charge').whereIn('time_entry_id', entries).update({ state: 'approved' });
    const [said] = await preview(onSite('1:30', 60));
    await type(onSite('1:30', 60));
    const parts = await stored(id);
    expect(parts.map((p) => p.sentence.includes('call-out')).sort()).toEqual([false, true]);
    expect(said!.effect!.amount!.minor).toBe(parts.reduce((sum, p) => sum + p.amount!.minor, 0));
  });

  it('says why there is no charge, by kind and by what is said of the cell, and stores that with its reason', async () => {
    const [flat, id] = [await ticket('flat-fee job'), await ticket('incident', 2)];
    const { id: own } = await world.knex('internal_work').where({ general: false }).first('id');
    const said = await preview(
      cell({ workId: flat, typed: '30' }),
      cell({ workId: own, typed: '30' }),
      cell({ workId: id, typed: '30', was: 0, more: { billable: false, reason: 'goodwill' } }),
    );
    expect(said.map((s) => s.effect?.sentence)).toEqual(['flat fee, no charge for time', 'internal, no charge', 'not billable, no charge']);
    await type(cell({ workId: id, typed: '30', was: 0, more: { billable: false, reason: 'goodwill' } }));
    expect(await world.knex('time_entry').where({ ticket_id: id, person_id: soraId }).first('billable', 'reason')).toEqual({
      billable: false,
      reason: 'goodwill',
    });
    expect(await charged(id)).toBe(0);
    // What is left out stays, over other minutes too; billable again it charges.
    await type(cell({ workId: id, typed: '45', was: 30 }));
    expect((await stored(id))[0]!.sentence).toBe('not billable, no charge');
    await type(cell({ workId: id, typed: '45', was: 45, more: { billable: true, reason: null } }));
    expect(await charged(id)).toBeGreaterThan(0);
    const bare = await sora.ask('setCells', {
      body: { cells: [cell({ workId: id, typed: '45', was: 45, more: { billable: false, reason: '' } })] },
    });
    expect([bare.status, JSON.stringify(bare.body)]).toEqual([422, expect.stringContaining('say why it is not billable')]);
  });

  it('says beforehand what storing would refuse', async () => {
    const id = await ticket('incident', 3);
    const admin = await world.as('Aoife');
    const kinds = (await admin.do('getDeskSettings')).kinds.map((k) => ({
      ...k,
      activityIds: k.kind === 'incident' ? [activities[1]!.id] : k.activityIds,
    }));
    await admin.do('setKinds', { body: { kinds } });
    const [barred] = await preview(cell({ workId: id, typed: '30' }));
    expect(barred!.refused).toContain('is not for tickets of the kind incident');
    expect(detailOf(await sora.ask('setCells', { body: { cells: [cell({ workId: id, typed: '30' })] } }))).toBe(barred!.refused);
    await admin.do('setKinds', { body: { kinds: kinds.map((k) => ({ ...k, activityIds: [] })) } });
  });

  it('places several cells of a day one after another, as storing them does', async () => {
    const ids = [await ticket('incident', 4), await ticket('incident', 5), await ticket('incident', 6)];
    const cells = ids.map((id) => ({ ...cell({ workId: id, typed: '2:30' }), day: '2026-11-20' }));
    const said = await preview(...cells);
    await type(...cells);
    const entries = (await sora.do('getDaySheet', { query: { day: '2026-11-20' } })).entries;
    expect(said.map((s) => s.effect)).toEqual(ids.map((id) => entries.find((e) => e.workId === id)!.effect));
  });
});

describe('several entries, said before they are recorded', () => {
  it('do what each does once it is', async () => {
    const [a, b] = [await ticket('incident', 8), await ticket('flat-fee job', 1)];
    const entries = [
      { workId: a, startsAt: '2026-11-24T07:00:00Z', duration: '35', activityId: activities[0]!.id, billable: true },
      { workId: b, startsAt: '2026-11-24T07:40:00Z', duration: '20', activityId: activities[0]!.id, billable: true },
      { workId: null, startsAt: '2026-11-24T08:40:00Z', duration: '20', activityId: activities[0]!.id, billable: true },
    ];
    const { effects } = await sora.do('previewEntries', { body: { entries } });
    for (const entry of entries) await sora.do('addEntry', { body: { ...entry, note: null, reason: null } });
    const day = (await sora.do('getDaySheet', { query: { day: '2026-11-24' } })).entries;
    expect(effects).toEqual(entries.map((e) => day.find((d) => d.startsAt === e.startsAt)!.effect));
    const bad = await sora.ask('previewEntries', { body: { entries: [{ ...entries[0], duration: 'soon' }] } });
    expect([bad.status, JSON.stringify(bad.body)]).toEqual([422, expect.stringContaining('entries[0].duration')]);
  });

  it('say the call-out fee of a visit once, with its first, and the way there', async () => {
    const id = await ticket('incident', 9);
    const onSite = activities.find((a) => a.name === 'on site')!.id;
    const visit = (startsAt: string, distance: string | null) => ({
      workId: id,
      startsAt,
      duration: '30',
      activityId: onSite,
      billable: true,
      distance,
    });
    const entries = [visit('2026-11-23T15:00:00Z', '12.5'), visit('2026-11-23T14:00:00Z', null), visit('2026-11-23T16:00:00Z', '8')];
    const { effects } = await sora.do('previewEntries', { body: { entries: [entries[0], entries[2]] } });
    expect(effects.map((e) => e.sentence)).toEqual([
      expect.stringMatching(/^€[\d.]+ to the client, of it call-out €45.00, 12.5 km €[\d.]+$/),
      expect.stringMatching(/^€[\d.]+ to the client, of it 8 km €[\d.]+$/),
    ]);
    const add = (n: number) => sora.do('addEntry', { body: { ...entries[n]!, note: null, reason: null } });
    const [late, later] = [await add(0), await add(2)];
    const of = async (entryId: string) =>
      (await sora.do('getDaySheet', { query: { day: DAY } })).entries.find((e) => e.id === entryId)!.effect;
    expect(effects).toEqual([await of(late.id), await of(later.id)]);
    const total = async () => (await stored(id)).reduce((sum, e) => sum + e.amount!.minor, 0);
    expect(await charged(id)).toBe(await total());
    // One that began before them has the fee then, and says so beforehand.
    const [before] = (await sora.do('previewEntries', { body: { entries: [entries[1]] } })).effects;
    const first = await add(1);
    expect(before).toEqual(await of(first.id));
    expect(before!.sentence).toContain('of it call-out €45.00');
    expect((await of(late.id)).sentence).not.toContain('call-out');
    expect(await charged(id)).toBe(await total());
    // Moved behind them it has none, which is said of the change too.
    const { over: _, ...changed } = await sora.do('previewEntry', {
      query: { workId: id, entryId: first.id, startsAt: '2026-11-23T17:00:00Z', duration: '30', activityId: onSite, billable: 'true' },
    });
    expect(changed.sentence).not.toContain('call-out');
    const cells = [{ workId: id, activityId: onSite, day: DAY, typed: '2:00', was: 90 }];
    const [cellSaid] = await preview(...cells);
    await type(...cells);
    expect(cellSaid!.effect!.amount!.minor).toBe(await total());
    expect(await charged(id)).toBe(await total());
  });
});
