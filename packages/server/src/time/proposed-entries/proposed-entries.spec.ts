import { judgeProposals, proposeEntries } from '@core/time';
import { plusDays, parseLocalDate } from '@core/ground';
import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';
import { spanOfDates } from '../../house/people/read-work';
import { readEvidence } from './read-evidence';
import { readRecorded } from './read-proposed-entries';

let world: World;
let sora: Script;
let soraId: string;
beforeAll(async () => {
  world = await startWorld();
  sora = await world.as('Sora');
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
});
afterAll(() => world.stop());

const day = '2026-11-24';
const proposed = async () => (await sora.do('listProposedEntries', { query: { day } })).proposed;
const aTicket = () =>
  world
    .knex('ticket')
    .where({ status: 'queued', kind: 'incident' })
    .whereNull('umbrella_id')
    .whereNotNull('contact_id')
    .orderBy('number')
    .first('id', 'number');
const accepted = (all: Awaited<ReturnType<typeof proposed>>) =>
  all.map((p) => ({
    key: p.key,
    workId: p.workId,
    startsAt: p.startsAt,
    duration: String(p.minutes),
    activityId: p.activityId,
    note: p.note,
  }));

describe('the day already written', () => {
  it('proposes what a call, a note and a change show, with that as evidence, and records it in one sweep', async () => {
    const t = await aTicket();
    const before = await proposed();
    const called = '2026-11-24T10:10:00Z';
    await sora.do('writeCall', {
      params: { ticketId: t.id },
      body: { way: 'out', outcome: 'spoke', text: 'Asked for the cable', at: called, callBackAt: null },
    });
    await sora.do('addNote', { params: { ticketId: t.id }, body: { text: 'Spare cable is in the van', uploadIds: [] } });
    const after = await proposed();
    const mine = after.find((p) => p.workId === t.id)!;
    expect(mine.evidence.map((e) => e.is)).toEqual(expect.arrayContaining(['call', 'message']));
    expect([mine.sure, mine.number]).toEqual([true, t.number]);
    // What the client never sees is shown as evidence, and never put into the note that stands on their invoice.
    expect(mine.evidence.some((e) => e.says.includes('Spare cable'))).toBe(true);
    expect(after.filter((p) => p.note.includes('Spare cable'))).toEqual([]);
    expect(Date.parse(mine.startsAt)).toBeGreaterThanOrEqual(Date.parse(called));
    const sure = after.filter((p) => p.sure);
    const { recorded } = await sora.do('acceptProposedEntries', { body: { entries: accepted(sure) } });
    expect(recorded).toBe(sure.length);
    expect((await proposed()).filter((p) => p.sure)).toEqual([]);
    expect((await sora.do('getDaySheet', { query: { day } })).entries.map((e) => e.workId)).toContain(t.id);
    expect(before.some((p) => p.workId === t.id)).toBe(false);
  });

  it('ends the timer whose time it records, and records all of a sweep or nothing', async () => {
    const t = await world
      .knex('ticket')
      .where({ status: 'queued', kind: 'incident' })
      .whereNull('umbrella_id')
      .orderBy('number', 'desc')
      .first('id');
    await sora.do('startTimer', { body: { workId: t.id } });
    world.clock.forward(1800);
    const [timer] = (await proposed()).filter((p) => p.key.startsWith('timer'));
    expect(timer!.minutes).toBe(30);
    const count = async () => Number((await world.knex('time_entry').where({ person_id: soraId }).count('* as n').first())!['n']);
    const had = await count();
    const bad = await sora.ask('acceptProposedEntries', {
      body: { entries: [...accepted([timer!]), { ...accepted([timer!])[0], startsAt: '2026-11-30T10:00:00Z' }] },
    });
    expect([bad.status, (bad.body as { fields: object }).fields]).toEqual([422, { 'entries[1].startsAt': 'not in the future' }]);
    expect(detailOf(bad)).toContain('once it is worked');
    expect([await count(), (await sora.do('listTimers')).timers.length]).toEqual([had, 1]);
    await sora.do('acceptProposedEntries', { body: { entries: accepted([timer!]) } });
    expect([await count(), (await sora.do('listTimers')).timers.length]).toEqual([had + 1, 0]);
  });

  it('proposes no more what was said to be no work, and shows nobody the day of another', async () => {
    const t = await world.knex('ticket').where({ status: 'underway' }).whereNull('umbrella_id').orderBy('number').first('id');
    world.clock.forward(3600);
    await sora.do('addNote', { params: { ticketId: t.id }, body: { text: 'Only read it', uploadIds: [] } });
    const mine = (await proposed()).find((p) => p.workId === t.id)!;
    const deepa = await world.as('Deepa');
    expect((await deepa.do('listProposedEntries', { query: { day } })).proposed.map((p) => p.key)).not.toContain(mine.key);
    await sora.do('dismissProposedEntry', { body: { key: mine.key } });
    expect((await proposed()).map((p) => p.key)).not.toContain(mine.key);
  });

  it('covers most of what the demo recorded, though none of it is used', async () => {
    const people = await world.knex('person').where({ technician: true }).pluck('id');
    const sum = { recordedMinutes: 0, coveredMinutes: 0, apartMinutes: 0 };
    for (const personId of people)
      for (let n = 1; n <= 10; n++) {
        const date = plusDays(parseLocalDate(day), -n);
        const span = spanOfDates(world.running.app.house, date, plusDays(date, 1));
        const proposals = proposeEntries(await readEvidence(world.knex, { personId, span, now: world.clock.now() }), [], world.clock.now());
        const judged = judgeProposals(proposals, await readRecorded(world.knex, personId, span));
        for (const name of ['recordedMinutes', 'coveredMinutes', 'apartMinutes'] as const) sum[name] += judged[name];
      }
    expect(sum.recordedMinutes).toBeGreaterThan(500);
    expect(sum.coveredMinutes / sum.recordedMinutes).toBeGreaterThan(0.5);
  });
});
