import fc from 'fast-check';
import { ALL_WORK, HOURS, HOURS_A_MONTH, SEAT_LINE } from '../../../testing/contract-samples';
import { type CoverTerms, type RecurringLine, worthOfPeriod } from '../../contracts';
import { type Id, instantAt, type LocalDate, money, parseCalendar, parseZone, plusDays, plusSeconds, sumMoney } from '../../ground';
import { effectOfEntry, type RateBook } from '../../time';
import { monthsOf, type TriedContract, type PastWork, wouldCost } from '.';

const day = (text: string) => text as LocalDate;
const zone = parseZone('Europe/Dublin');
const factor = { factor: '1' };
const BOOK: RateBook = {
  calendar: parseCalendar({ name: 'Working', zone, week: [...Array<string[]>(5).fill(['08:00-18:00']), [], []], dates: {} }),
  zone,
  currency: 'EUR',
  rules: [{ id: 'r', level: 'default', gradeId: null, activityId: null, band: null, rate: '90', from: day('2020-01-01'), to: null }],
  bands: { 'working hours': factor, 'out of hours': { factor: '1.5' }, holiday: { factor: '2' } },
};
const ACTIVITY = {
  id: 'remote',
  name: 'remote',
  rounding: { increment: 15, mode: 'up', minimum: 15 },
  pricing: factor,
  callOutFee: null,
} as const;
const done = (id: string, on: string, { minutes = 60, callOut = 0, ticketKind = 'incident' } = {}): PastWork => {
  const from = instantAt(day(on), 600, zone);
  return {
    id,
    ticketId: `t${id}`,
    deskId: null,
    callOut: callOut ? money(callOut, 'EUR') : null,
    facts: {
      from,
      to: plusSeconds(from, minutes * 60),
      minutes,
      gradeId: 'g' as Id<'grade'>,
      activity: ACTIVITY,
      billable: true,
      clientId: 'c' as Id<'client'>,
      ticketKind,
    },
  };
};
const TERMS: CoverTerms = {
  ...HOURS_A_MONTH,
  // A draft of next year.
  from: day('2027-01-01'),
  to: day('2028-01-01'),
  rules: [{ ...ALL_WORK, includesFees: true }],
  allowances: [{ ...HOURS, grant: 120 }],
};
const LINE: RecurringLine = {
  ...SEAT_LINE,
  from: day('2027-01-01'),
  prices: [
    { from: day('2027-01-01'), price: '30', tiers: [] },
    { from: day('2027-06-01'), price: '32', tiers: [] },
  ],
  units: [
    { of: 'a', name: 'a', from: day('2026-11-01'), to: null },
    { of: 'b', name: 'b', from: day('2026-01-01'), to: day('2026-05-01') },
  ],
};
const span = { from: day('2026-09-01'), to: day('2026-12-01') };
const tried = (more: Partial<TriedContract> = {}): TriedContract => ({
  name: 'Tried',
  terms: null,
  lines: [],
  book: BOOK,
  roundings: {},
  ...more,
});
const trial = (contract: TriedContract, work: readonly PastWork[]) => wouldCost(contract, { work, ...span, goOn: () => undefined });
const says = (contract: TriedContract, work: readonly PastWork[]) =>
  trial(contract, work).map((m) => [m.month.slice(5, 7), m.recurring.minor, m.work.minor, m.coveredMinutes]);

describe('what work would have cost', () => {
  const work = [
    done('1', '2026-09-07', { minutes: 90 }),
    done('2', '2026-09-08', { minutes: 60, callOut: 4000 }),
    done('3', '2026-11-10', { minutes: 50, callOut: 4000 }),
    done('4', '2026-11-11', { ticketKind: 'flat-fee job' }),
    done('5', '2026-08-31'),
  ];
  it('by the hour is its rate and its call-outs, flat-fee work and other days left out', () => {
    expect(says(tried(), work)).toEqual([
      ['09', 0, 26_500, 0],
      ['10', 0, 0, 0],
      ['11', 0, 13_000, 0],
    ]);
  });

  it('under a contract is what it does not cover, as if it had begun with the span, and its lines as they stand in the end', () => {
    // 150 min of September against 120: half an hour over; the call-out of what is covered in part is charged.
    expect(says(tried({ terms: TERMS, lines: [LINE] }), work)).toEqual([
      ['09', 3200, 8500, 120],
      ['10', 3200, 0, 0],
      ['11', 3200, 0, 60],
    ]);
  });

  it('follows the rounding and the rates of the contract', () => {
    const own: RateBook = { ...BOOK, rules: [{ ...BOOK.rules[0]!, level: 'contract', rate: '60' }] };
    const roundings = { '': { increment: 60, mode: 'up', minimum: 0 } } as const;
    expect(says(tried({ book: own, roundings }), work)[2]).toEqual(['11', 0, 10_000, 0]);
  });

  it('is with nothing covered what each entry charges, and what each period is worth, however they lie', () => {
    const entry = fc.record({ offset: fc.nat(120), minutes: fc.integer({ min: 0, max: 600 }) });
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 20 }), (all) => {
        const some = all.map(({ offset, minutes }, n) => done(String(n), plusDays(day('2026-08-15'), offset), { minutes }));
        const months = trial(tried({ lines: [LINE] }), some);
        const inSpan = some.filter((_, n) => {
          const on = plusDays(day('2026-08-15'), all[n]!.offset);
          return on >= span.from && on < span.to;
        });
        const charged = inSpan.map((w) => effectOfEntry(w.facts, BOOK).amount ?? money(0, 'EUR'));
        expect(
          sumMoney(
            months.map((m) => m.work),
            'EUR',
          ),
        ).toEqual(sumMoney(charged, 'EUR'));
        const whole = {
          ...LINE,
          from: span.from,
          prices: [{ from: span.from, price: '32', tiers: [] }],
          units: [{ ...LINE.units[0]!, from: span.from }],
        };
        for (const m of months)
          expect(m.recurring).toEqual(
            worthOfPeriod(whole, { from: m.month, to: monthsOf(m.month, plusDays(m.month, 40))[1]! }, 'EUR').amount,
          );
        for (const m of months) expect(m.total.minor).toBe(m.recurring.minor + m.work.minor);
      }),
    );
  });

  it('says how far it is', () => {
    const told: number[] = [];
    wouldCost(tried(), {
      work: Array.from({ length: 1200 }, (_, n) => done(String(n), '2026-09-07')),
      ...span,
      goOn: (share) => told.push(share),
    });
    expect(told).toEqual([0, 500 / 1200, 1000 / 1200, 1]);
  });
});
