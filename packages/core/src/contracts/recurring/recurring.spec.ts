import { Big } from 'big.js';
import fc from 'fast-check';
import { SEAT_LINE } from '../../../testing/contract-samples';
import { daysBetween, type LocalDate, money, plusDays, roundToMinor } from '../../ground';
import {
  billLine,
  monthlyOf,
  monthOfLine,
  newestDue,
  nextDueOn,
  CALENDAR_ANCHOR,
  FREQUENCIES,
  LINE_FREQUENCIES,
  type Period,
  periodAt,
  periodIndex,
  periodOf,
  type RecurringLine,
  type Unit,
  worthOfPeriod,
} from '.';

const day = (text: string) => text as LocalDate;
const EUR = (minor: number) => money(minor, 'EUR');
const seat = (of: string, from: string, to: string | null = null): Unit => ({
  of,
  name: of,
  from: day(from),
  to: to === null ? null : day(to),
});
const seats = (n: number, from = '2026-01-01') => Array.from({ length: n }, (_, i) => seat(`s${i}`, from));
const LINE: RecurringLine = { ...SEAT_LINE, units: seats(12) };
const NOVEMBER: Period = { from: day('2026-11-01'), to: day('2026-12-01') };
const worth = (line: Partial<RecurringLine>, period = NOVEMBER) => worthOfPeriod({ ...LINE, ...line }, period, 'EUR');

describe('the next day on which a line is due', () => {
  it('is the first on which one more period is, in advance and in arrears', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...FREQUENCIES),
        fc.constantFrom('in advance' as const, 'in arrears' as const),
        fc.nat(60),
        fc.nat(3000),
        (frequency, paid, leadDays, days) => {
          const line = { ...LINE, paid, leadDays, schedule: { frequency, anchor: day('2024-01-31') } };
          const after = plusDays(day('2024-01-01'), days);
          const next = nextDueOn(line, after);
          expect(next > after).toBe(true);
          expect(newestDue(line, next)).toBe(newestDue(line, after) + 1);
          expect(newestDue(line, plusDays(next, -1))).toBe(newestDue(line, after));
        },
      ),
    );
  });
});

describe('what prices come to in a month', () => {
  it('is a twelfth of their year, rounded once for all', () => {
    const of = (...prices: readonly (readonly [string, (typeof FREQUENCIES)[number]])[]) =>
      monthlyOf(
        prices.map(([price, frequency]) => ({ price, frequency })),
        'EUR',
      ).minor;
    expect(of()).toBe(0);
    expect(of(['32', 'monthly'], ['10', 'quarterly'])).toBe(3533);
    expect(of(['10', 'yearly'])).toBe(83);
    expect(of(['10', 'yearly'], ['10', 'yearly'])).toBe(167);
  });
});

describe('a month of a line', () => {
  const month = (line: Partial<RecurringLine>, on = '2026-11-24') => monthOfLine({ ...LINE, ...line }, day(on), 'EUR');
  it('is a whole period with what is on it that day, brought to a month', () => {
    const units = [...seats(2), seat('new', '2026-11-20'), seat('gone', '2026-01-01', '2026-11-10')];
    expect(month({ units, unitCost: '20' })).toEqual({ worth: EUR(9600), margin: { left: EUR(3600), percent: '37.5' } });
    const quarter = { frequency: 'quarterly', anchor: CALENDAR_ANCHOR } as const;
    expect(month({ units, schedule: quarter })).toEqual({ worth: EUR(3200), margin: null });
    expect(month({ counted: 'flat', schedule: { ...quarter, frequency: 'once' } }).worth).toEqual(EUR(0));
    expect(month({ to: day('2026-11-01'), unitCost: '20' })).toEqual({ worth: EUR(0), margin: null });
    expect(month({ units, unitCost: '40' }).margin).toEqual({ left: EUR(-2400), percent: '-25' });
  });
  it('of a meter is its last whole period', () => {
    const readings = ['2026-10-31', '2026-11-01'].map((on) => ({ on: day(on), quantity: '10' }));
    expect(month({ counted: 'metered', readings, unitCost: '2' })).toEqual({
      worth: EUR(32000),
      margin: { left: EUR(30000), percent: '93.8' },
    });
  });
});

describe('periods', () => {
  it('begin on the anchor, and on the last day of a month that is too short', () => {
    const schedule = { frequency: 'monthly', anchor: day('2024-01-31') } as const;
    expect([0, 1, 2, 3, 13].map((n) => periodAt(schedule, n).from)).toEqual([
      '2024-01-31',
      '2024-02-29',
      '2024-03-31',
      '2024-04-30',
      '2025-02-28',
    ]);
    expect(periodOf(schedule, day('2024-02-28'))).toEqual({ from: '2024-01-31', to: '2024-02-29' });
    expect(periodOf(schedule, day('2024-02-29'))).toEqual({ from: '2024-02-29', to: '2024-03-31' });
    expect(periodOf({ frequency: 'quarterly', anchor: CALENDAR_ANCHOR }, day('2026-11-24'))).toEqual({
      from: '2026-10-01',
      to: '2027-01-01',
    });
    expect(periodOf({ frequency: 'yearly', anchor: day('2024-02-29') }, day('2025-02-28'))).toEqual({
      from: '2025-02-28',
      to: '2026-02-28',
    });
  });

  it('hold every date once, in order, whatever the anchor', () => {
    fc.assert(
      fc.property(fc.constantFrom(...FREQUENCIES), fc.nat(3000), fc.integer({ min: -3000, max: 3000 }), (frequency, from, on) => {
        const schedule = { frequency, anchor: plusDays(CALENDAR_ANCHOR, from) };
        const date = plusDays(CALENDAR_ANCHOR, on);
        const n = periodIndex(schedule, date);
        const period = periodAt(schedule, n);
        expect(period.from <= date && date < period.to).toBe(true);
        expect(periodAt(schedule, n + 1).from).toBe(period.to);
      }),
    );
  });
});

describe('what a period is worth', () => {
  it('is price times count, by the day', () => {
    expect(worth({})).toMatchObject({ amount: EUR(38400), quantity: '12', price: '32' });
    expect(worth({ units: [...seats(12), seat('new', '2026-11-11')] })).toMatchObject({
      amount: EUR(40533),
      quantity: '1',
      price: '405.33',
    });
    expect(worth({ from: day('2026-11-11'), units: seats(3), minimum: 5 }).amount).toEqual(EUR(10667));
    expect(worth({ units: seats(12), maximum: 10 }).amount).toEqual(EUR(32000));
    expect(worth({ counted: 'flat', units: [] }).amount).toEqual(EUR(3200));
    expect(worth({ to: day('2026-11-01') })).toMatchObject({ amount: EUR(0), stretches: [] });
  });

  it('counts somebody once who has two assignments, also where these touch', () => {
    const units = [
      seat('a', '2026-11-01', '2026-11-16'),
      seat('a', '2026-11-10', '2026-11-20'),
      seat('a', '2026-11-20', null),
      seat('b', '2026-10-01', '2026-11-01'),
    ];
    expect(worth({ units }).stretches).toEqual([{ ...NOVEMBER, count: 1, parts: [{ count: '1', price: '32' }] }]);
  });

  it('takes the whole period, or as it was on its first day, where the line says so', () => {
    const units = [...seats(2), seat('late', '2026-11-20'), seat('gone', '2026-01-01', '2026-11-03')];
    expect(worth({ units, proration: 'first day' })).toMatchObject({ amount: EUR(9600), quantity: '3', price: '32' });
    expect(worth({ units, proration: 'whole' })).toMatchObject({ amount: EUR(12800), quantity: '4' });
    expect(worth({ units, proration: 'first day', from: day('2026-11-20') }).amount).toEqual(EUR(9600));
  });

  it('follows dated prices and discounts: percents are added, money is taken off, never below nothing', () => {
    const prices = [...LINE.prices, { from: day('2026-11-16'), price: '40', tiers: [] }];
    expect(worth({ prices, units: seats(1) }).amount).toEqual(EUR(3600));
    expect(worth({ prices, units: seats(1), proration: 'whole' }).amount).toEqual(EUR(3200));
    const off = (o: RecurringLine['discounts'][number]['off'], to: string | null = null) => ({
      from: day('2026-11-01'),
      to: to === null ? null : day(to),
      off: o,
    });
    expect(worth({ discounts: [off({ percent: '10' }), off({ percent: '15' }), off({ money: '2' })], units: seats(1) })).toMatchObject({
      amount: EUR(2200),
      price: '22',
    });
    expect(worth({ discounts: [off({ money: '50' })], units: seats(3) }).amount).toEqual(EUR(0));
    expect(worth({ discounts: [off({ percent: '50' }, '2026-11-16')], units: seats(1) }).amount).toEqual(EUR(2400));
    expect(
      worth({ prices: [{ from: day('2026-01-01'), price: '0.3333', tiers: [] }], discounts: [off({ percent: '50' })], units: seats(2) }),
    ).toMatchObject({ quantity: '1', price: '0.33' });
  });

  it('has each tier for the units in it, or all at the price that their number reaches', () => {
    const prices = [
      {
        from: day('2026-01-01'),
        price: '10',
        tiers: [
          { above: 5, price: '8' },
          { above: 10, price: '5' },
        ],
      },
    ];
    const tiers = worth({ priced: 'tiers', prices });
    expect(tiers).toMatchObject({ amount: EUR(10000), quantity: '1', price: '100' });
    expect(tiers.why[0]!.rule).toBe('5 at €10.00, 5 at €8.00, 2 at €5.00 on 30 of 30 days from 2026-11-01');
    expect(worth({ priced: 'tiers', prices, units: seats(5) })).toMatchObject({ amount: EUR(5000), quantity: '5', price: '10' });
    expect(worth({ priced: 'volume', prices })).toMatchObject({ amount: EUR(6000), quantity: '12', price: '5' });
    expect(worth({ priced: 'volume', prices, units: seats(10) })).toMatchObject({ amount: EUR(8000), quantity: '10', price: '8' });
    const off = { from: day('2026-01-01'), to: null, off: { percent: '50' } };
    expect(worth({ priced: 'tiers', prices, discounts: [off] }).amount).toEqual(EUR(5000));
  });

  it('of a meter is what was read in it, tiers going on from one reading to the next', () => {
    const prices = [{ from: day('2026-01-01'), price: '0.02', tiers: [{ above: 1000, price: '0.01' }] }];
    const read = (on: string, quantity: string) => ({ on: day(on), quantity });
    const line = {
      counted: 'metered',
      prices,
      readings: [read('2026-11-20', '700.5'), read('2026-11-02', '600'), read('2026-12-01', '9')],
    } as const;
    expect(worth(line)).toMatchObject({ amount: EUR(2601), quantity: '1300.5', price: '0.02' });
    const tiers = worth({ ...line, priced: 'tiers', unitCost: '0.005' });
    expect(tiers).toMatchObject({ amount: EUR(2301), quantity: '1', cost: EUR(650) });
    expect(tiers.why[0]!.rule).toBe('read on 2 days: 1000 at €0.02, 300.5 at €0.01');
    expect(worth({ ...line, priced: 'volume' }).amount).toEqual(EUR(1301));
    expect(worth({ ...line, readings: [] })).toMatchObject({ amount: EUR(0), why: [{ rule: 'the period' }] });
  });

  it('costs the provider by the same days', () => {
    expect(worth({ unitCost: '20' }).cost).toEqual(EUR(24000));
    expect(worth({ unitCost: '20', units: [...seats(12), seat('new', '2026-11-11')] }).cost).toEqual(EUR(25333));
    expect(worth({ unitCost: '20', proration: 'whole', units: seats(2, '2026-11-30') }).cost).toEqual(EUR(4000));
    expect(worth({}).cost).toBeNull();
  });

  it('of what is billed once is its one day, due with its lead and never again', () => {
    const schedule = { frequency: 'once', anchor: day('2026-11-11') } as const;
    const line = { ...LINE, counted: 'flat', schedule, from: day('2026-11-11'), to: day('2026-11-12') } as const;
    const bill = (at: string, billed: readonly { from: LocalDate; net: ReturnType<typeof EUR> }[] = []) =>
      billLine(line, { at: day(at), billed, currency: 'EUR' });
    expect(bill('2026-10-31').due).toEqual([]);
    expect(bill('2026-11-01').due.map((d) => [d.is, d.period, d.amount])).toEqual([
      ['new', { from: '2026-11-11', to: '2026-11-12' }, EUR(3200)],
    ]);
    const before = [{ from: day('2026-11-11'), net: EUR(3000) }];
    expect(bill('2027-11-01', before)).toMatchObject({ due: [{ is: 'true-up', amount: EUR(200) }], outOfReach: [] });
    expect(bill('2027-11-01', [{ from: day('2026-11-11'), net: EUR(3200) }]).due).toEqual([]);
  });

  it('is what counting day by day gives', () => {
    fc.assert(
      fc.property(anyLine(), fc.integer({ min: -2, max: 14 }), (line, n) => {
        const period = periodAt(line.schedule, periodIndex(line.schedule, line.from) + n);
        expect(worthOfPeriod(line, period, 'EUR').amount).toEqual(slowly(line, period));
      }),
      { numRuns: 300 },
    );
  });
});

describe('what a run bills', () => {
  const bill = (line: RecurringLine, at: string, billed: { from: LocalDate; net: ReturnType<typeof EUR> }[] = []) =>
    billLine(line, { at: day(at), billed, currency: 'EUR' });

  it('is the new period in full and what an earlier one differs by', () => {
    const line = { ...LINE, from: day('2026-11-01') };
    const [first] = bill(line, '2026-10-22').due;
    expect(first).toMatchObject({ is: 'new', period: NOVEMBER, amount: EUR(38400) });
    expect(bill(line, '2026-10-21').due).toEqual([]);
    const joined = { ...line, units: [...seats(12), seat('Ada', '2026-11-11')] };
    const then = bill(joined, '2026-11-21', [{ from: NOVEMBER.from, net: EUR(38400) }]).due;
    expect(then.map((d) => [d.is, d.period.from, d.amount.minor])).toEqual([
      ['true-up', '2026-11-01', 2133],
      ['new', '2026-12-01', 41600],
    ]);
    expect(then[0]!.why).toEqual(expect.arrayContaining([{ rule: 'Ada joined', figure: { unit: 'text', value: '2026-11-11' } }]));
  });

  it('in arrears is due on the day after the period', () => {
    const line = { ...LINE, paid: 'in arrears', from: day('2026-11-01') } as const;
    expect(bill(line, '2026-11-30').due).toEqual([]);
    expect(bill(line, '2026-12-01').due.map((d) => d.period)).toEqual([NOVEMBER]);
  });

  it('gives back what was billed for days after the line ended, also where none are left', () => {
    const line = { ...LINE, to: day('2026-10-16'), units: seats(1) };
    const before = ['2026-10-01', '2026-11-01'].map((from) => ({ from: day(from), net: EUR(3200) }));
    const rest = Array.from({ length: 9 }, (_, n) => ({ from: periodAt(LINE.schedule, 312 + n).from, net: EUR(3200) }));
    expect(bill(line, '2026-11-21', [...rest, ...before]).due.map((d) => [d.period.from, d.amount.minor])).toEqual([
      ['2026-10-01', -1652],
      ['2026-11-01', -3200],
    ]);
  });

  it('names what differs before the twelve periods that are corrected, and bills a new one of any age', () => {
    const line = {
      ...LINE,
      from: day('2025-01-01'),
      units: seats(1, '2025-01-01'),
      prices: [{ ...LINE.prices[0]!, from: day('2025-01-01') }],
    };
    const { due, outOfReach } = bill(line, '2026-11-21', [
      { from: day('2025-01-01'), net: EUR(100) },
      { from: day('2025-12-01'), net: EUR(100) },
    ]);
    expect(outOfReach.map((d) => d.period.from)).toEqual(['2025-01-01']);
    expect(due.find((d) => d.period.from === '2025-12-01')!.is).toBe('true-up');
    expect(due.find((d) => d.period.from === '2025-02-01')!.is).toBe('new');
  });

  it('comes to what each period is worth after the next run, whatever changed between runs, and a second run bills nothing', () => {
    fc.assert(
      fc.property(
        fc.array(anyLine(), { minLength: 1, maxLength: 6 }),
        fc.array(fc.nat(90), { minLength: 6, maxLength: 6 }),
        (versions, gaps) => {
          const [first] = versions;
          const billed = new Map<LocalDate, number>();
          let at = first!.from;
          let line = first!;
          for (const [n, version] of versions.entries()) {
            // Frequency and anchor never change once billed.
            line = { ...version, schedule: first!.schedule, from: first!.from, paid: first!.paid };
            at = plusDays(at, gaps[n]!);
            const facts = () => ({ at, billed: [...billed].map(([from, minor]) => ({ from, net: EUR(minor) })), currency: 'EUR' as const });
            for (const due of billLine(line, facts()).due)
              billed.set(due.period.from, (billed.get(due.period.from) ?? 0) + due.amount.minor);
            expect(billLine(line, facts()).due).toEqual([]);
            const old = billLine(line, facts()).outOfReach.map((d) => d.period.from);
            for (const [from, minor] of billed)
              if (!old.includes(from)) expect(minor).toBe(worthOfPeriod(line, periodOf(line.schedule, from), 'EUR').amount.minor);
          }
        },
      ),
      { numRuns: 200 },
    );
  });
});

function anyLine(): fc.Arbitrary<RecurringLine> {
  const date = fc.integer({ min: 0, max: 900 }).map((n) => plusDays(day('2024-01-15'), n));
  const to = fc.option(date);
  const price = fc.integer({ min: 0, max: 999_999 }).map((n) => new Big(n).div(10_000).toFixed());
  const tiers = fc
    .uniqueArray(fc.record({ above: fc.integer({ min: 1, max: 12 }), price }), { maxLength: 3, selector: (t) => t.above })
    .map((all) => all.sort((a, b) => a.above - b.above));
  return (
    fc
      .record({
        counted: fc.constantFrom('flat' as const, 'seat' as const, 'metered' as const),
        priced: fc.constantFrom('one price' as const, 'tiers' as const, 'volume' as const),
        from: date,
        to,
        frequency: fc.constantFrom(...LINE_FREQUENCIES),
        anchor: fc.nat(800).map((n) => plusDays(day('2022-01-30'), n)),
        paid: fc.constantFrom('in advance' as const, 'in arrears' as const),
        leadDays: fc.nat(40),
        proration: fc.constantFrom('daily' as const, 'first day' as const, 'whole' as const),
        minimum: fc.option(fc.nat(4)),
        maximum: fc.option(fc.integer({ min: 4, max: 9 })),
        price,
        tiers,
        later: fc.array(fc.record({ from: date, price, tiers }), { maxLength: 2 }),
        readings: fc.array(fc.record({ on: date, quantity: fc.integer({ min: -6, max: 20 }).map(String) }), { maxLength: 12 }),
        unitCost: fc.option(price),
        discounts: fc.array(fc.record({ from: date, to, percent: fc.boolean(), off: fc.nat(60) }), { maxLength: 2 }),
        units: fc.array(fc.record({ of: fc.constantFrom('a', 'b', 'c', 'd', 'e'), from: date, to }), { maxLength: 9 }),
      })
      // What is billed once begins on its one day.
      .map((line) => (line.frequency === 'once' ? { ...line, anchor: line.from, to: plusDays(line.from, 1) } : line))
      .map(({ frequency, anchor, price, tiers, later, discounts, units, ...rest }) => ({
        ...rest,
        schedule: { frequency, anchor },
        prices: [{ from: day('2020-01-01'), price, tiers }, ...later.sort((a, b) => (a.from < b.from ? -1 : 1))],
        discounts: discounts.map(({ percent, off, ...span }) => ({
          ...span,
          off: percent ? { percent: String(off) } : { money: String(off) },
        })),
        units: units.map((u) => ({ ...u, name: u.of })),
      }))
  );
}

/** Written from the text: a day, and one unit of it, at a time. */
function slowly(line: RecurringLine, { from, to }: Period) {
  const days = Array.from({ length: daysBetween(from, to) }, (_, n) => plusDays(from, n));
  const holds = (s: { from: LocalDate; to: LocalDate | null }, d: LocalDate) => s.from <= d && (s.to === null || d < s.to);
  const active = days.filter((d) => holds(line, d));
  if (!active.length) return EUR(0);
  const bound = (n: number) => (line.counted === 'flat' ? 1 : Math.min(Math.max(n, line.minimum ?? 0), line.maximum ?? Infinity));
  const on = (d: LocalDate) => bound(new Set(line.units.filter((u) => holds(u, d)).map((u) => u.of)).size);
  /** The price of the nth unit of so many, on a day. */
  const priceOf = (n: number, all: number, d: LocalDate) => {
    const step = [...line.prices].reverse().find((p) => p.from <= d)!;
    const at = line.priced === 'volume' ? all : n;
    const tier = line.priced === 'one price' ? undefined : [...step.tiers].reverse().find((t) => at > t.above);
    const now = line.discounts.filter((x) => holds(x, d));
    const percent = now.reduce((s, x) => ('percent' in x.off ? s + Number(x.off.percent) : s), 0);
    let price = new Big((tier ?? step).price).times(100 - percent).div(100);
    for (const x of now) if ('money' in x.off) price = price.minus(x.off.money);
    return price.lt(0) ? new Big(0) : price;
  };
  const pricesOf = (count: number, d: LocalDate) =>
    Array.from({ length: count }, (_, n) => priceOf(n + 1, count, d)).reduce((sum, p) => sum.plus(p), new Big(0));
  if (line.counted === 'metered') {
    const read = active.flatMap((d) => line.readings.filter((r) => r.on === d));
    const all = read.reduce((sum, r) => sum + Number(r.quantity), 0);
    let [sum, n] = [new Big(0), 0];
    for (const { on: d, quantity } of read)
      for (let left = Number(quantity); left !== 0; left -= Math.sign(left))
        if (left > 0) sum = sum.plus(priceOf(++n, all, d));
        else sum = sum.minus(priceOf(n--, all, d));
    return roundToMinor(sum, 1, 'EUR');
  }
  if (line.proration === 'first day') return roundToMinor(pricesOf(on(active[0]!), active[0]!), 1, 'EUR');
  if (line.proration === 'whole') {
    const there = new Set(line.units.filter((u) => active.some((d) => holds(u, d))).map((u) => u.of)).size;
    return roundToMinor(pricesOf(bound(there), active[0]!), 1, 'EUR');
  }
  return roundToMinor(
    active.reduce((sum, d) => sum.plus(pricesOf(on(d), d)), new Big(0)),
    days.length,
    'EUR',
  );
}
