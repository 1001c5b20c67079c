import { detailOf, startWorld, type Script, type World } from '../../../testing/test-server';

let world: World;
let aoife: Script;
let sora: Script;
let soraId: string;
let kindId: string;
beforeAll(async () => {
  world = await startWorld();
  [aoife, sora] = [await world.as('Aoife'), await world.as('Sora')];
  soraId = (await world.knex('person').where('name', 'like', 'Sora%').first('id')).id;
  kindId = (await year()).kinds.find((k) => k.name === 'Annual leave')!.id;
});
afterAll(() => world.stop());

const year = (y = 2026) => sora.do('listAbsences', { query: { year: String(y) } });
const left = async (y = 2026) => (await year(y)).balances.find((b) => b.kindId === kindId)!;
const form = (from: string, to: string, more: object = {}) => ({
  kindId,
  from,
  to,
  fromMiddle: false,
  toMiddle: false,
  note: null,
  personId: null,
  ...more,
});
const ask = (from: string, to: string, more: object = {}) => sora.do('requestAbsence', { body: form(from, to, more) });
const decide = ({
  id,
  version,
  decision,
  remark = null,
}: {
  readonly id: string;
  readonly version: number;
  readonly decision: string;
  readonly remark?: string | null;
}) => aoife.ask('decideAbsence', { params: { absenceId: id }, version, body: { decision, remark } });
const expected = async (day: string) => (await sora.do('getDaySheet', { query: { day } })).expectedMinutes;

describe('absence', () => {
  it('is counted in working days before it is asked for, and says who else is away and what is booked', async () => {
    const query = { kindId, from: '2026-12-21', to: '2026-12-28', fromMiddle: 'yes', toMiddle: 'no' };
    const p = await sora.do('previewAbsence', { query });
    // Monday from midday, three days, and neither the holidays of Christmas nor the weekend; the 28th is a working day.
    expect(p.halves).toBe(1 + 2 * 3 + 2);
    expect(p.left).toEqual([{ year: 2026, halves: (await left()).left - p.halves }]);
    expect(p.away.map((m) => m.person)).toContain('Hanna Lindqvist');
    expect(p.away.every((m) => m.what === 'away')).toBe(true);
    expect((await sora.ask('previewAbsence', { query: { ...query, to: '2026-12-01' } })).status).toBe(422);
  });

  it('asked for lowers what is left; approved, it takes away what is expected and stands on the lanes', async () => {
    const before = await left();
    const full = await expected('2026-12-09');
    const { id, version } = await ask('2026-12-09', '2026-12-10', { toMiddle: true });
    expect(await left()).toMatchObject({ requested: before.requested + 3, left: before.left - 3 });
    expect(await expected('2026-12-09')).toBe(full);
    const waiting = (await aoife.do('listWaitingAbsences')).absences.find((a) => a.absence.id === id)!;
    expect(waiting).toMatchObject({ absence: { halves: 3, person: 'Sora Minegishi' }, left: before.left - 3 });
    expect((await decide({ id, version, decision: 'approve' })).status).toBe(200);
    expect(await expected('2026-12-09')).toBe(0);
    expect(await expected('2026-12-10')).toBe(full / 2);
    expect(await left()).toMatchObject({ approved: before.approved + 3, requested: before.requested });
    const { lanes } = await aoife.do('getDispatch', { query: { day: '2026-12-09' } });
    expect(lanes.find((l) => l.personId === soraId)!.days[0]!.away).toMatchObject([{ what: 'Annual leave' }]);
    expect((await sora.do('listNotices')).notices.some((n) => n.text.includes('approved Annual leave'))).toBe(true);
    const off = await world.knex('time_off').where({ absence_id: id }).first('id');
    const taken = await (await world.as('Tomasz')).ask('removeTimeOff', { params: { timeOffId: off.id } });
    expect([taken.status, detailOf(taken)]).toEqual([409, expect.stringContaining('approved absence')]);
  });

  it('is decided by somebody else, once, and by the version that was seen', async () => {
    const { id, version } = await ask('2026-12-14', '2026-12-14');
    expect(
      (await sora.ask('decideAbsence', { params: { absenceId: id }, version, body: { decision: 'approve', remark: null } })).status,
    ).toBe(403);
    expect((await decide({ id, version: version + 1, decision: 'approve' })).status).toBe(412);
    expect((await decide({ id, version, decision: 'refuse' })).status).toBe(422);
    expect((await decide({ id, version, decision: 'refuse', remark: 'Too many are away' })).status).toBe(200);
    expect((await decide({ id, version: version + 1, decision: 'approve' })).status).toBe(409);
    expect((await year()).absences.find((a) => a.id === id)).toMatchObject({ state: 'refused', remark: 'Too many are away' });
    expect((await decide({ id, version: version + 1, decision: 'take back' })).status).toBe(200);
    expect((await decide({ id, version: version + 2, decision: 'approve' })).status).toBe(200);
    expect(await expected('2026-12-14')).toBe(0);
  });

  it('is withdrawn by its person before it begins, and everything is as it was', async () => {
    const [before, full] = [await left(), await expected('2026-12-16')];
    const { id, version } = await ask('2026-12-16', '2026-12-16');
    await decide({ id, version, decision: 'approve' });
    expect(await expected('2026-12-16')).toBe(0);
    expect((await (await world.as('Deepa')).ask('withdrawAbsence', { params: { absenceId: id }, version: version + 1 })).status).toBe(403);
    await sora.do('withdrawAbsence', { params: { absenceId: id }, version: version + 1 });
    expect([await expected('2026-12-16'), (await left()).left]).toEqual([full, before.left]);
    expect((await sora.ask('withdrawAbsence', { params: { absenceId: id }, version: version + 2 })).status).toBe(409);
  });

  it('refuses what overlaps, has no work in it, or ends before it begins; two halves of a day fit', async () => {
    await ask('2026-12-17', '2026-12-17', { toMiddle: true });
    const over = await sora.ask('requestAbsence', { body: form('2026-12-16', '2026-12-18') });
    expect([over.status, detailOf(over)]).toEqual([422, expect.stringContaining('lies over time off')]);
    await ask('2026-12-17', '2026-12-17', { fromMiddle: true });
    expect(detailOf(await sora.ask('requestAbsence', { body: form('2026-12-26', '2026-12-27') }))).toContain('Nothing is worked');
    expect((await sora.ask('requestAbsence', { body: form('2026-12-20', '2026-12-19') })).status).toBe(422);
    expect(
      (await sora.ask('requestAbsence', { body: form('2026-12-22', '2026-12-22', { fromMiddle: true, toMiddle: true }) })).status,
    ).toBe(422);
  });

  it('is written down for somebody else by who approves it, and stands at once', async () => {
    const sick = (await year()).kinds.find((k) => k.name === 'Sick leave')!.id;
    const body = form('2026-12-02', '2026-12-02', { kindId: sick, personId: soraId });
    expect((await (await world.as('Deepa')).ask('requestAbsence', { body })).status).toBe(403);
    await aoife.do('requestAbsence', { body });
    expect(await expected('2026-12-02')).toBe(0);
    const team = await (await world.as('Deepa')).do('listTeamAbsences', { query: { from: '2026-12-01', to: '2026-12-05' } });
    expect(team.missing.find((m) => m.personId === soraId && m.from === '2026-12-02')).toMatchObject({ what: 'away', decided: true });
    const seen = await aoife.do('listTeamAbsences', { query: { from: '2026-12-01', to: '2026-12-05' } });
    expect(seen.missing.find((m) => m.personId === soraId && m.from === '2026-12-02')!.what).toBe('Sick leave');
  });

  it('has days of its own by person and year, and carries over what the rule allows', async () => {
    await aoife.do('setAbsenceGrant', {
      params: { absenceKindId: kindId },
      body: { year: 2026, grants: [{ personId: soraId, halves: 60 }] },
    });
    const now = await left();
    expect(now.granted).toBe(60);
    expect(await left(2027)).toMatchObject({ granted: 50, carried: Math.min(10, now.left) });
    await aoife.do('setAbsenceGrant', {
      params: { absenceKindId: kindId },
      body: { year: 2026, grants: [{ personId: soraId, halves: null }] },
    });
    expect((await left()).granted).toBe(50);
    const { kinds } = await aoife.do('listAbsenceKinds', { query: { year: '2026' } });
    const study = kinds.find((k) => k.name === 'Study leave')!;
    const body = { name: 'Annual leave', hasBalance: true, yearHalves: 4, carryHalves: 0, carryUntil: '03-31' };
    expect((await aoife.ask('editAbsenceKind', { params: { absenceKindId: study.id }, version: study.version, body })).status).toBe(422);
    expect((await aoife.ask('addAbsenceKind', { body: { ...body, name: 'Volunteering', carryUntil: '13-01' } })).status).toBe(422);
  });
});
