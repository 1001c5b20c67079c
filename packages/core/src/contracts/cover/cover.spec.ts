import { Big } from 'big.js';
import fc from 'fast-check';
import { ALL_WORK, HOURS, HOURS_A_MONTH } from '../../../testing/contract-samples';
import { dayNumber, daysBetween, instantAt, type LocalDate, money, parseZone, plusDays, roundToMinor, type TimeBand } from '../../ground';
import { CALENDAR_ANCHOR, periodAt, periodIndex } from '../recurring';
import { type Allowance, type CoverRule, type CoverTerms, closeWork, coverWork, NOTHING_CLOSED, sayUnits, type WorkToCover } from '.';

const ZONE = parseZone('Europe/Dublin');
const day = (text: string) => text as LocalDate;
const EUR = (minor: number) => money(minor, 'EUR');
const net = (minutes: number, rate: string) => roundToMinor(new Big(rate).times(minutes), 60, 'EUR');
let next = 0;
const work = (on: string, minutes: number, more: Partial<WorkToCover> & { rate?: string; band?: TimeBand } = {}): WorkToCover => {
  const { rate = '90', band = 'working hours', ...rest } = more;
  const id = `e${String(next++).padStart(5, '0')}`;
  return {
    id,
    startsAt: instantAt(day(on), 540, ZONE),
    on: day(on),
    gradeId: 'engineer',
    activityId: 'remote',
    ticketId: 't1',
    deskId: null,
    kind: null,
    stretches: minutes === 0 ? [] : [{ band, minutes, rate, net: net(minutes, rate) }],
    ...rest,
  };
};
const cover = (terms: Partial<CoverTerms>, all: readonly WorkToCover[]) =>
  coverWork({ ...HOURS_A_MONTH, ...terms }, all, { currency: 'EUR' });
const stretches = (terms: Partial<CoverTerms>, all: readonly WorkToCover[]) => cover(terms, all).entries.flatMap((e) => e.stretches);
const units = (terms: Partial<CoverTerms>, all: readonly WorkToCover[]) =>
  cover(terms, all).entries.map((e) =>
    e.stretches.flatMap((s) => s.draws.map((d) => `${d.borrowed ? 'borrowed ' : ''}${d.lot} ${d.units}`)),
  );

describe('an allowance of hours', () => {
  it('carries over, is drawn by expiry, and borrows of the next period', () => {
    const allowances = [{ ...HOURS, carryDays: 45, borrowPercent: 25 }];
    const all = [work('2026-01-10', 540), work('2026-02-10', 1020), work('2026-03-10', 800), work('2026-03-11', 60)];
    expect(units({ allowances }, all)).toEqual([
      ['2026-01-01 540'],
      ['2026-01-01 180', '2026-02-01 720', 'borrowed 2026-03-01 120'],
      ['2026-03-01 600', 'borrowed 2026-04-01 180'],
      [],
    ]);
    const [, , third, last] = cover({ allowances }, all).entries;
    expect(third!.stretches[0]).toMatchObject({ is: 'part overage', coveredMinutes: 780, charge: EUR(3000), covered: EUR(117000) });
    expect(last!.stretches[0]).toMatchObject({ is: 'overage', charge: EUR(9000), draws: [] });
    expect(cover({ allowances }, all.slice(0, 1)).entries[0]!.left).toEqual({ allowanceId: 'hours', left: 180 });
  });

  it('does not carry past its days, and is granted once where it says so', () => {
    expect(units({ allowances: [{ ...HOURS, carryDays: 9 }] }, [work('2026-02-09', 800), work('2026-02-10', 10)])).toEqual([
      ['2026-01-01 720', '2026-02-01 80'],
      ['2026-02-01 10'],
    ]);
    expect(units({ allowances: [{ ...HOURS, carryDays: 9 }] }, [work('2026-02-10', 800)])).toEqual([['2026-02-01 720']]);
    expect(units({ allowances: [{ ...HOURS, each: 'once' }] }, [work('2026-02-10', 700), work('2027-02-10', 50)])).toEqual([
      ['2026-01-01 700'],
      ['2026-01-01 20'],
    ]);
  });

  it('is granted in full on the first active day, or by days, cut to whole minutes', () => {
    const from = day('2026-11-11');
    expect(units({ from }, [work('2026-11-20', 800)])).toEqual([['2026-11-11 720']]);
    expect(units({ from, allowances: [{ ...HOURS, grant: 100, granted: 'by days' }] }, [work('2026-11-20', 800)])).toEqual([
      ['2026-11-11 66'],
    ]);
    expect(units({ to: day('2026-11-21'), allowances: [{ ...HOURS, borrowPercent: 50 }] }, [work('2026-11-20', 800)])).toEqual([
      ['2026-11-01 720'],
    ]);
  });

  it('bills what is left at its rate times the factor, and both parts add up', () => {
    const [first, second] = stretches({ rules: [{ ...ALL_WORK, overageFactor: '1.25' }] }, [
      work('2026-01-10', 725, { rate: '100' }),
      work('2026-01-11', 7, { rate: '100.01' }),
    ]);
    expect(first).toMatchObject({ is: 'part overage', factor: '1.25', charge: EUR(1042), covered: EUR(120833 - 833) });
    expect(second).toMatchObject({
      is: 'overage',
      charge: roundToMinor(new Big('100.01').times(7).times('1.25'), 60, 'EUR'),
      covered: EUR(0),
    });
  });
});

describe('an allowance of money', () => {
  const allowances = [{ ...HOURS, id: 'hours', measure: 'money', grant: 150000 } as Allowance];
  it('is drawn by the amount, so dear hours draw more', () => {
    const [first, second] = stretches({ allowances }, [
      work('2026-01-10', 600),
      work('2026-01-11', 300, { rate: '135', band: 'out of hours' }),
    ]);
    expect(first).toMatchObject({ is: 'covered', covered: EUR(90000), charge: EUR(0), coveredMinutes: 600 });
    expect(second).toMatchObject({ is: 'part overage', covered: EUR(60000), charge: EUR(7500), coveredMinutes: 267 });
    const [, dear] = stretches({ allowances, overageFactor: '2' }, [work('2026-01-10', 600), work('2026-01-11', 300, { rate: '135' })]);
    expect(dear!.charge).toEqual(EUR(15000));
  });
  it('covers what costs nothing though nothing is left', () => {
    expect(stretches({ allowances: [{ ...allowances[0]!, grant: 0 }] }, [work('2026-01-10', 60, { rate: '0' })])[0]).toMatchObject({
      is: 'covered',
      coveredMinutes: 60,
    });
  });
});

describe('allowances of tickets, and without limit', () => {
  const allowances = [{ ...HOURS, measure: 'incidents', grant: 2 } as Allowance];
  it('take one for a ticket, once, and nothing for its later entries', () => {
    const on = (ticketId: string | null, date = '2026-01-10') => work(date, 60, { ticketId });
    const all = [on('a'), on('b'), on('a'), on('c'), on(null), on('a', '2026-02-01'), on('c', '2026-02-02')];
    expect(stretches({ allowances }, all).map((s) => [s.is, s.draws.length])).toEqual([
      ['covered', 1],
      ['covered', 1],
      ['covered', 0],
      ['overage', 0],
      ['overage', 0],
      ['covered', 0],
      ['covered', 1],
    ]);
  });
  it('count without taking anything', () => {
    const unlimited = [{ ...HOURS, measure: 'unlimited', grant: 0 } as Allowance];
    const found = cover({ allowances: unlimited }, [work('2026-01-10', 9000)]).entries[0]!;
    expect(found.stretches[0]).toMatchObject({ is: 'covered', coveredMinutes: 9000, draws: [{ units: 0 }] });
    expect(found.left).toBeNull();
  });
  it('say how much they are', () => {
    expect([
      sayUnits('hours', 130, 'EUR'),
      sayUnits('money', 7500, 'EUR'),
      sayUnits('incidents', 1, 'EUR'),
      sayUnits('incidents', 2, 'EUR'),
      sayUnits('unlimited', 0, 'EUR'),
    ]).toEqual(['2 h 10', '€75.00', '1 ticket', '2 tickets', 'no limit']);
  });
});

describe('what is amended', () => {
  it('grants another amount from the first period that begins by the day, and borrows by that', () => {
    const allowances = [{ ...HOURS, borrowPercent: 50, later: [{ from: day('2026-02-01'), grant: 100 }] }];
    expect(units({ allowances }, [work('2026-01-10', 800), work('2026-02-10', 500)])).toEqual([
      ['2026-01-01 720', 'borrowed 2026-02-01 50'],
      ['2026-02-01 50', 'borrowed 2026-03-01 50'],
    ]);
    const midway = [{ ...HOURS, later: [{ from: day('2026-01-15'), grant: 100 }] }];
    expect(units({ allowances: midway }, [work('2026-01-20', 800), work('2026-02-10', 500)])).toEqual([
      ['2026-01-01 720'],
      ['2026-02-01 100'],
    ]);
  });

  it('covers by a rule on its days alone', () => {
    const rules: CoverRule[] = [
      { ...ALL_WORK, id: 'old', to: day('2026-02-01') },
      { ...ALL_WORK, id: 'new', from: day('2026-02-01'), activityIds: ['visit'] },
    ];
    const found = stretches({ rules }, [work('2026-01-31', 60), work('2026-02-01', 60), work('2026-02-01', 60, { activityId: 'visit' })]);
    expect(found.map((s) => s.ruleId)).toEqual(['old', null, 'new']);
  });

  it('draws prepaid blocks by their expiry, each on its days', () => {
    const blocks = [
      { from: day('2026-02-01'), expiry: null, grant: 60 },
      { from: day('2026-01-15'), expiry: day('2026-03-01'), grant: 100 },
    ];
    const allowances = [{ ...HOURS, each: 'once' as const, grant: 30, blocks }];
    expect(units({ allowances }, [work('2026-01-10', 40), work('2026-02-10', 130), work('2026-03-10', 90)])).toEqual([
      ['2026-01-01 30'],
      ['2026-01-15 100', '2026-02-01 30'],
      ['2026-02-01 30'],
    ]);
  });
});

describe('cover rules', () => {
  it('ask for the desk and the kind of a ticket, and take nothing that has none', () => {
    const rules: CoverRule[] = [{ ...ALL_WORK, deskIds: ['support'], kinds: ['incident', 'request'] }];
    const found = stretches({ rules }, [
      work('2026-01-10', 60, { deskId: 'support', kind: 'request' }),
      work('2026-01-10', 60, { deskId: 'projects', kind: 'request' }),
      work('2026-01-10', 60, { deskId: 'support', kind: null }),
    ]);
    expect(found.map((s) => s.is)).toEqual(['covered', 'not covered', 'not covered']);
  });

  it('hold in their order by grade, activity and band; what none names is not covered', () => {
    const rules: CoverRule[] = [
      { ...ALL_WORK, id: 'night', bands: ['out of hours', 'holiday'], allowanceId: null, overageFactor: '1.5' },
      { ...ALL_WORK, id: 'remote', activityIds: ['remote'], gradeIds: ['engineer'], includesFees: true },
    ];
    const found = cover({ rules }, [
      work('2026-01-10', 60),
      work('2026-01-10', 60, { band: 'holiday' }),
      work('2026-01-10', 60, { activityId: 'visit' }),
      work('2026-01-10', 60, { gradeId: 'senior' }),
    ]);
    expect(found.entries.map((e) => [e.stretches[0]!.ruleId, e.stretches[0]!.is, e.stretches[0]!.charge.minor, e.coversFees])).toEqual([
      ['remote', 'covered', 0, true],
      ['night', 'overage', 13500, false],
      [null, 'not covered', 9000, false],
      [null, 'not covered', 9000, false],
    ]);
  });
  it('are capped in a period, anew in the next', () => {
    const rules = [{ ...ALL_WORK, cap: 100 }];
    expect(
      stretches({ rules }, [work('2026-01-10', 80), work('2026-01-11', 80), work('2026-01-12', 10), work('2026-02-01', 100)]).map((s) => [
        s.is,
        s.coveredMinutes,
      ]),
    ).toEqual([
      ['covered', 80],
      ['part overage', 20],
      ['overage', 0],
      ['covered', 100],
    ]);
  });
});

describe('what is frozen', () => {
  it('comes first whatever its date, and never changes', () => {
    const late = work('2026-01-20', 600);
    const [stored] = cover({}, [late]).entries;
    const early = work('2026-01-05', 300);
    const frozen = { ...late, frozen: stored!.stretches };
    const then = cover({}, [early, frozen]).entries;
    expect(then.find((e) => e.id === late.id)!.stretches).toEqual(stored!.stretches);
    expect(then.find((e) => e.id === early.id)!.stretches[0]).toMatchObject({ is: 'part overage', coveredMinutes: 120 });
  });
});

describe('a contract whose start moved', () => {
  it('still counts what was drawn of the period before', () => {
    const first = work('2026-01-20', 600);
    const [stored] = cover({ from: day('2026-01-15') }, [first]).entries;
    const frozen = { ...first, frozen: stored!.stretches };
    const [, then] = cover({ from: day('2026-01-10') }, [frozen, work('2026-01-21', 300)]).entries;
    expect(then!.stretches[0]).toMatchObject({ coveredMinutes: 120, draws: [{ lot: '2026-01-10', units: 120 }] });
    const once = [{ ...HOURS, each: 'once' as const }];
    const [block] = cover({ from: day('2026-01-15'), allowances: once }, [first]).entries;
    expect(
      stretches({ from: day('2026-01-10'), allowances: once }, [{ ...first, frozen: block!.stretches }, work('2026-01-21', 300)])[1]!
        .coveredMinutes,
    ).toBe(120);
  });
});

describe('all work of a contract', () => {
  const entry = fc.record({
    on: fc.integer({ min: 0, max: 160 }).map((n) => plusDays(day('2025-12-20'), n)),
    minute: fc.nat(600),
    ticketId: fc.option(fc.constantFrom('a', 'b', 'c', 'd')),
    grade: fc.constantFrom('junior', 'engineer'),
    deskId: fc.option(fc.constantFrom('support', 'projects')),
    kind: fc.option(fc.constantFrom('incident', 'request')),
    stretches: fc.array(
      fc.record({
        band: fc.constantFrom<TimeBand>('working hours', 'out of hours'),
        minutes: fc.integer({ min: 1, max: 90 }),
        rate: fc.constantFrom('0', '60', '88.5', '133.3333'),
      }),
      { minLength: 1, maxLength: 3 },
    ),
  });
  const entries = fc.array(entry, { maxLength: 25 }).map((all) =>
    all.map(({ on, minute, grade, stretches, ...ticket }, n): WorkToCover => ({
      id: `x${String(n).padStart(3, '0')}`,
      startsAt: instantAt(on, minute, ZONE),
      on,
      gradeId: grade,
      activityId: 'remote',
      ...ticket,
      stretches: stretches.map((s) => ({ ...s, net: net(s.minutes, s.rate) })),
    })),
  );
  const day0 = fc.integer({ min: 0, max: 150 }).map((n) => plusDays(day('2025-12-20'), n));
  const allowance = (id: string) =>
    fc.record({
      id: fc.constant(id),
      name: fc.constant(id),
      measure: fc.constantFrom<Allowance['measure']>('hours', 'money', 'incidents', 'unlimited'),
      grant: fc.nat(400),
      each: fc.constantFrom<Allowance['each']>('each period', 'once'),
      granted: fc.constantFrom<Allowance['granted']>('whole', 'by days'),
      carryDays: fc.constantFrom(0, 10, 45, 80),
      borrowPercent: fc.constantFrom(0, 25, 100),
      later: fc
        .uniqueArray(fc.record({ from: day0, grant: fc.nat(400) }), { maxLength: 2, selector: (l) => l.from })
        .map((all) => all.sort((a, b) => (a.from < b.from ? -1 : 1))),
      // From the day after the contract can begin at the latest: a block and the first grant are of different days.
      blocks: fc.uniqueArray(
        fc.record({ n: fc.nat(90), lasts: fc.option(fc.integer({ min: 1, max: 60 })), grant: fc.nat(200) }).map(({ n, lasts, grant }) => {
          const from = plusDays(day('2026-01-11'), n);
          return { from, expiry: lasts === null ? null : plusDays(from, lasts), grant };
        }),
        { maxLength: 3, selector: (b) => b.from },
      ),
    });
  const rule = (id: string) =>
    fc.record({
      id: fc.constant(id),
      gradeIds: fc.option(fc.constant(['junior'])),
      activityIds: fc.constant(null),
      bands: fc.option(fc.constant<TimeBand[]>(['out of hours'])),
      deskIds: fc.option(fc.constant(['support']), { freq: 3 }),
      kinds: fc.option(fc.constant(['incident', 'problem']), { freq: 3 }),
      from: fc.option(day0, { freq: 3 }),
      to: fc.option(day0, { freq: 3 }),
      allowanceId: fc.constantFrom('one', 'two', null),
      cap: fc.option(fc.nat(150)),
      overageFactor: fc.option(fc.constantFrom('1', '1.5')),
      includesFees: fc.constant(false),
    });
  const terms: fc.Arbitrary<CoverTerms> = fc.record({
    from: fc.integer({ min: 0, max: 40 }).map((n) => plusDays(day('2025-11-30'), n)),
    to: fc.option(fc.integer({ min: 60, max: 200 }).map((n) => plusDays(day('2025-12-20'), n))),
    schedule: fc.record({ frequency: fc.constant('monthly' as const), anchor: fc.constantFrom(CALENDAR_ANCHOR, day('2025-10-31')) }),
    rules: fc.tuple(rule('r1'), rule('r2')).map((r) => r),
    allowances: fc.tuple(allowance('one'), allowance('two')).map((a) => a),
    overageFactor: fc.constantFrom('1', '1.2'),
  });
  const inside = (t: CoverTerms, all: readonly WorkToCover[]) => all.filter((e) => t.from <= e.on && (t.to === null || e.on < t.to));

  it('is covered as taking it unit by unit does', () => {
    fc.assert(
      fc.property(terms, entries, (t, all) => {
        const mine = inside(t, all);
        const found = coverWork(t, mine, { currency: 'EUR' }).entries.map((e) => [
          e.id,
          ...e.stretches.map((s) => [s.ruleId, drawn(s.draws)]),
        ]);
        expect(found).toEqual(slowly(t, mine));
      }),
      { numRuns: 400 },
    );
  });

  it('goes on from what was closed as from all of it frozen, late entries among it', () => {
    fc.assert(
      fc.property(terms, entries, entries, fc.nat(160), (t, all, late, cut) => {
        const to = plusDays(day('2025-12-20'), cut);
        const mine = inside(t, all);
        const first = new Map(coverWork(t, mine, { currency: 'EUR' }).entries.map((e) => [e.id, e.stretches]));
        const past = mine.filter((e) => e.on < to);
        const open = [...mine.filter((e) => e.on >= to), ...inside(t, late).map((e) => ({ ...e, id: `late ${e.id}` }))];
        const frozen = past.map((e) => ({ ...e, frozen: first.get(e.id)! }));
        const whole = coverWork(t, [...frozen, ...open], { currency: 'EUR' });
        // In two steps, as periods are closed one after another.
        const middle = plusDays(to, -20);
        const before = closeWork(t, { before: NOTHING_CLOSED, work: toClose(frozen.filter((e) => e.on < middle)) });
        const closed = closeWork(t, { before, work: toClose(frozen.filter((e) => e.on >= middle)) });
        const found = coverWork(t, open, { currency: 'EUR', closed });
        const ids = new Set(open.map((e) => e.id));
        expect(found.entries).toEqual(whole.entries.filter((e) => ids.has(e.id)));
        for (const a of t.allowances)
          for (const on of [to, plusDays(to, 40)]) expect(found.lots.get(a.id)!.on(on)).toEqual(whole.lots.get(a.id)!.on(on));
      }),
      { numRuns: 200 },
    );
  });

  it('ends the same in whatever order it was saved, and every stretch adds up', () => {
    fc.assert(
      fc.property(terms, entries, fc.nat(), (t, all, seed) => {
        const mine = inside(t, all);
        const other = [...mine].sort((a, b) => ((Number(a.id.slice(1)) * 7919 + seed) % 31) - ((Number(b.id.slice(1)) * 7919 + seed) % 31));
        const found = coverWork(t, mine, { currency: 'EUR' });
        expect(coverWork(t, other, { currency: 'EUR' }).entries).toEqual(found.entries);
        for (const s of found.entries.flatMap((e) => e.stretches)) {
          expect(s.coveredMinutes >= 0 && s.coveredMinutes <= s.minutes).toBe(true);
          const left = s.net.minor - s.covered.minor;
          // At the factor 1 what is covered and what is paid are the stretch's amount.
          if (s.factor === '1') expect(s.charge.minor).toBe(left);
          if (s.is === 'covered') expect([s.charge.minor, left]).toEqual([0, 0]);
        }
        for (const a of t.allowances)
          for (const lot of found.lots.get(a.id)!.grantedBy(day('2026-06-01'))) expect(lot.left).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 400 },
    );
  });
});

const drawn = (draws: readonly { allowanceId: string; lot: string; units: number; borrowed: boolean }[]) =>
  draws.filter((d) => d.units > 0).map((d) => `${d.allowanceId} ${d.lot} ${d.units}${d.borrowed ? ' borrowed' : ''}`);

const toClose = (frozen: readonly WorkToCover[]) =>
  frozen.map(({ on, ticketId, frozen: stretches }) => ({ on, ticketId, stretches: stretches! }));

/** Written from the text: one minute, one cent, one ticket at a time. */
function slowly(t: CoverTerms, all: readonly WorkToCover[]) {
  const lots: { a: Allowance; from: LocalDate; to: string; left: number; lent: number }[] = [];
  for (const a of t.allowances)
    if (a.each === 'once') {
      lots.push({ a, from: t.from, to: t.to ?? '9999-12-31', left: a.grant, lent: 0 });
      for (const b of a.blocks) lots.push({ a, from: b.from, to: b.expiry ?? '9999-12-31', left: b.grant, lent: 0 });
    } else
      for (let n = periodIndex(t.schedule, t.from); n < periodIndex(t.schedule, t.from) + 12; n++) {
        const p = periodAt(t.schedule, n);
        const days = Array.from({ length: daysBetween(p.from, p.to) }, (_, d) => plusDays(p.from, d)).filter(
          (d) => d >= t.from && (t.to === null || d < t.to),
        );
        if (!days.length) continue;
        const full = grantOf(a, days[0]!);
        const left = a.granted === 'whole' ? full : Math.floor((full * days.length) / daysBetween(p.from, p.to));
        lots.push({ a, from: days[0]!, to: plusDays(p.to, a.carryDays), left, lent: 0 });
      }
  const used = new Map<string, number>();
  const tickets = new Set<string>();
  return [...all]
    .sort((x, y) => x.startsAt - y.startsAt || x.id.localeCompare(y.id))
    .map((e) => [
      e.id,
      ...e.stretches.map((s) => {
        const rule = t.rules.find(
          (r) =>
            (!r.gradeIds || r.gradeIds.includes(e.gradeId)) &&
            (!r.bands || r.bands.includes(s.band)) &&
            (!r.deskIds || (e.deskId !== null && r.deskIds.includes(e.deskId))) &&
            (!r.kinds || (e.kind !== null && r.kinds.includes(e.kind))) &&
            !(r.from && e.on < r.from) &&
            !(r.to && e.on >= r.to),
        );
        const a = t.allowances.find((x) => x.id === rule?.allowanceId);
        const took = new Map<string, number>();
        if (!rule || !a) return [rule?.id ?? null, []];
        const key = `${rule.id} ${periodIndex(t.schedule, e.on)}`;
        const one = () => {
          const open = lots
            .filter((l) => l.a === a && l.from <= e.on && e.on < l.to && l.left > 0)
            .sort((x, y) => (x.to === y.to ? dayNumber(x.from) - dayNumber(y.from) : x.to < y.to ? -1 : 1));
          const end = periodAt(t.schedule, periodIndex(t.schedule, e.on)).to;
          const coming = a.each === 'once' ? undefined : lots.find((l) => l.a === a && l.from === end);
          const borrows =
            !open[0] && coming && coming.left > 0 && coming.lent < Math.floor((grantOf(a, coming.from) * a.borrowPercent) / 100);
          const lot = open[0] ?? (borrows ? coming : undefined);
          if (!lot) return false;
          lot.left--;
          if (borrows) lot.lent++;
          const name = `${lot.from}${borrows ? ' borrowed' : ''}`;
          took.set(name, (took.get(name) ?? 0) + 1);
          return true;
        };
        const want = a.measure === 'money' ? s.net.minor : s.minutes;
        const room = () => rule.cap === null || (used.get(key) ?? 0) < rule.cap;
        if (a.measure === 'unlimited' || a.measure === 'incidents') {
          const cap = rule.cap === null ? want : Math.min(want, Math.max(0, rule.cap - (used.get(key) ?? 0)));
          if (cap > 0) {
            const known = e.ticketId !== null && tickets.has(a.id + e.ticketId);
            const covers = a.measure === 'unlimited' || known || (e.ticketId !== null && one());
            if (a.measure === 'incidents' && covers) tickets.add(a.id + e.ticketId);
            if (covers) used.set(key, (used.get(key) ?? 0) + cap);
          }
        } else for (let n = 0; n < want && room() && one(); n++) used.set(key, (used.get(key) ?? 0) + 1);
        return [rule.id, [...took].map(([name, n]) => `${a.id} ${name.split(' ')[0]} ${n}${name.endsWith('borrowed') ? ' borrowed' : ''}`)];
      }),
    ]);
}

function grantOf(a: Allowance, on: LocalDate): number {
  let grant = a.grant;
  for (const l of a.later) if (l.from <= on) ({ grant } = l);
  return grant;
}
