import fc from 'fast-check';
import { daysBetween, type LocalDate, plusDays, weekdayOf } from '../../ground';
import {
  billingDay,
  type BillingRhythm,
  clientTermsSchema,
  formOfOwnTerms,
  formOfTerms,
  houseTermsOf,
  houseTermsSchema,
  INVOICE_PER,
  nextBillingDay,
  NO_TERMS,
  ownTermsOf,
  partKey,
  partOf,
  sayPart,
  sayPer,
  sayRhythm,
  termsOf,
} from '.';

const on = (text: string) => text as LocalDate;
const rhythm = (given: Partial<BillingRhythm>): BillingRhythm => ({ every: 'run', weekday: null, day: null, month: null, ...given });
const anyDay = fc.integer({ min: 0, max: 12_000 }).map((n) => plusDays(on('2015-01-01'), n));
const anyRhythm = fc.oneof(
  fc.integer({ min: 1, max: 7 }).map((weekday) => rhythm({ every: 'week', weekday })),
  fc.integer({ min: 1, max: 31 }).map((day) => rhythm({ every: 'month', day })),
  fc.record({ day: fc.integer({ min: 1, max: 31 }), month: fc.integer({ min: 1, max: 3 }) }).map((m) => rhythm({ every: 'quarter', ...m })),
  fc.record({ day: fc.integer({ min: 1, max: 28 }), month: fc.integer({ min: 1, max: 12 }) }).map((m) => rhythm({ every: 'year', ...m })),
);

/** The slow reading: whether a day is one on which a rhythm bills. */
function isBillingDay({ every, weekday, day, month }: BillingRhythm, date: LocalDate): boolean {
  if (every === 'week') return weekdayOf(date) === weekday;
  const [, inYear, inMonth] = date.split('-').map(Number);
  const isLast = plusDays(date, 1).slice(8) === '01';
  const isDay = inMonth === day || (isLast && inMonth! < day!);
  if (every === 'month') return isDay;
  return isDay && (every === 'year' ? inYear === month : ((inYear! - 1) % 3) + 1 === month);
}

describe('the day as of which a client is billed', () => {
  it('is the newest day of its rhythm, found by going back day by day, and the next is found by going on', () => {
    fc.assert(
      fc.property(anyRhythm, anyDay, (of, date) => {
        let back = date;
        while (!isBillingDay(of, back)) back = plusDays(back, -1);
        let next = plusDays(date, 1);
        while (!isBillingDay(of, next)) next = plusDays(next, 1);
        expect([billingDay(of, date), nextBillingDay(of, date)]).toEqual([back, next]);
      }),
    );
  });

  it.each([
    [rhythm({ every: 'month', day: 31 }), '2026-02-28', '2026-02-28', '2026-03-31'],
    [rhythm({ every: 'month', day: 1 }), '2026-11-30', '2026-11-01', '2026-12-01'],
    [rhythm({ every: 'quarter', day: 31, month: 2 }), '2026-03-02', '2026-02-28', '2026-05-31'],
    [rhythm({ every: 'year', day: 29, month: 2 }), '2026-03-01', '2026-02-28', '2027-02-28'],
    [rhythm({ every: 'week', weekday: 5 }), '2026-11-24', '2026-11-20', '2026-11-27'],
    [rhythm({}), '2026-11-24', '2026-11-24', '2026-11-25'],
  ])('%j on %s is %s, then %s', (of, date, now, next) => {
    expect([billingDay(of, on(date)), nextBillingDay(of, on(date))]).toEqual([now, next]);
  });

  it('cannot be found of a rhythm that names no day', () => {
    for (const every of ['week', 'month', 'quarter', 'year'] as const)
      expect(() => billingDay(rhythm({ every }), on('2026-11-24'))).toThrow(/billed on no day/);
  });

  it('never lies a year and a day back', () => {
    fc.assert(fc.property(anyRhythm, anyDay, (of, date) => daysBetween(billingDay(of, date), date) <= 366));
  });
});

describe('terms', () => {
  const house = { rhythm: rhythm({ every: 'month', day: 1 }), per: 'client', leadDays: 10 } as const;

  it("are the client's own, else the house's, each by itself", () => {
    expect(termsOf(NO_TERMS, house)).toEqual(house);
    expect(termsOf({ rhythm: null, per: 'site', leadDays: 0 }, house)).toEqual({ ...house, per: 'site', leadDays: 0 });
  });

  it('come back from their form as they were', () => {
    fc.assert(
      fc.property(fc.option(anyRhythm), fc.constantFrom(null, ...INVOICE_PER), fc.option(fc.nat(120)), (given, per, leadDays) => {
        const own = { rhythm: given, per, leadDays };
        expect(ownTermsOf(formOfOwnTerms(own))).toEqual(own);
        expect(clientTermsSchema.isValidSync(formOfOwnTerms(own))).toBe(true);
        if (given && per && leadDays !== null) expect(houseTermsOf(formOfTerms({ rhythm: given, per, leadDays }))).toEqual(own);
      }),
    );
  });

  it('forget the days of another rhythm', () => {
    const form = { every: 'week', weekday: 3, day: 31, month: 12, per: 'client', leadDays: 0 } as const;
    expect(houseTermsOf(form).rhythm).toEqual(rhythm({ every: 'week', weekday: 3 }));
  });

  it.each([
    [{ every: 'week' }, 'choose a day of the week'],
    [{ every: 'month' }, 'write a day from 1 to 31'],
    [{ every: 'quarter', day: 1, month: 4 }, 'choose a month'],
    [{ every: 'year', day: 31, month: 4 }, 'that month has fewer days'],
    [{ every: 'year', day: 3 }, 'choose a month'],
  ])('refuse %j: %s', (given, says) => {
    const form = { weekday: null, day: null, month: null, per: 'client', leadDays: 0, ...given };
    expect(() => houseTermsSchema.validateSync(form)).toThrow(says);
  });

  it('are said in words', () => {
    expect(sayRhythm(rhythm({}))).toBe('with every run');
    expect(sayRhythm(rhythm({ every: 'week', weekday: 7 }))).toBe('each week on Sunday');
    expect(sayRhythm(rhythm({ every: 'month', day: 31 }))).toBe('each month on the last day');
    expect(sayRhythm(rhythm({ every: 'quarter', day: 5, month: 2 }))).toBe('each quarter on day 5 of its second month');
    expect(sayRhythm(rhythm({ every: 'year', day: 5, month: 12 }))).toBe('each year on 5 December');
    expect(INVOICE_PER.map(sayPer)).toHaveLength(new Set(INVOICE_PER.map(sayPer)).size);
  });
});

describe('the invoices of a client', () => {
  const named = (id: string) => ({ id, name: `the ${id}` });
  const place = fc.record({
    contract: fc.option(fc.constantFrom('a', 'b').map(named)),
    site: fc.option(fc.constantFrom('north', 'south').map(named)),
    purchaseOrder: fc.option(fc.constantFrom('PO-1', 'PO-2')),
  });

  it('hold each charge once: those of one contract, site or order together, those of none by themselves', () => {
    const of = { client: () => null, contract: 'contract', site: 'site', 'purchase order': 'purchaseOrder' } as const;
    fc.assert(
      fc.property(fc.array(place), fc.constantFrom(...INVOICE_PER), (places, per) => {
        const what = (p: (typeof places)[number]) => (per === 'client' ? null : p[of[per] as 'contract']);
        for (const one of places)
          for (const other of places)
            expect(partKey(partOf(one, per)) === partKey(partOf(other, per))).toBe(
              JSON.stringify(what(one)) === JSON.stringify(what(other)),
            );
      }),
    );
  });

  it('say what they are for', () => {
    const all = { contract: named('a'), site: named('north'), purchaseOrder: 'PO-1' };
    expect(INVOICE_PER.map((per) => sayPart(partOf(all, per)))).toEqual(['', 'the a', 'the north', 'order PO-1']);
    const none = { contract: null, site: null, purchaseOrder: null };
    expect(INVOICE_PER.map((per) => sayPart(partOf(none, per)))).toEqual(['', 'no contract', 'no site', 'no purchase order']);
  });
});
