import { Big } from 'big.js';
import { ALL_WORK, HOURS, HOURS_A_MONTH } from '../../../testing/contract-samples';
import { type Allowance, CALENDAR_ANCHOR, type CoverRule, coverWork } from '../../contracts';
import { instantAt, type LocalDate, money, parseZone, roundToMinor } from '../../ground';
import { effectByRate, type EntryEffect, effectUnderContract, toTheClient, withAddedAmounts } from '.';

const day = (text: string) => text as LocalDate;
const EUR = (minor: number) => money(minor, 'EUR');
/** What one entry of some minutes does first, by its rate of 60 an hour. */
function byRate(minutes: number): EntryEffect {
  const net = roundToMinor(new Big(60).times(minutes), 60, 'EUR');
  const parts = minutes ? [{ band: 'working hours' as const, minutes, rate: '60', net }] : [];
  return { is: 'charged', amount: net, sentence: toTheClient(net), billedMinutes: minutes, parts, why: [{ rule: 'rated' }] };
}
function under(
  minutes: number,
  {
    allowance = {},
    rules = [ALL_WORK],
    frequency = 'monthly' as const,
  }: { allowance?: Partial<Allowance>; rules?: CoverRule[]; frequency?: 'monthly' | 'quarterly' } = {},
) {
  const terms = {
    ...HOURS_A_MONTH,
    id: 'c',
    number: 1001,
    name: 'Care',
    schedule: { frequency, anchor: CALENDAR_ANCHOR },
    rules,
    allowances: [{ ...HOURS, grant: 120, ...allowance }],
    overageFactor: '1.5',
  };
  const effect = byRate(minutes);
  const on = day('2026-11-24');
  const startsAt = instantAt(on, 540, parseZone('Europe/Dublin'));
  const work = { id: 'e', startsAt, on, gradeId: 'g', activityId: 'x', ticketId: 't', deskId: null, kind: null, stretches: effect.parts };
  const [covered] = coverWork(terms, [work], { currency: 'EUR' }).entries;
  return effectUnderContract(effect, { contract: terms, chosen: [], covered: covered!, currency: 'EUR' });
}

describe('an entry under a contract', () => {
  it('says what it draws, what is left, and what is to pay', () => {
    expect(under(45)).toMatchObject({ is: 'covered', amount: null, sentence: "45 min of November's 2 h, 1 h 15 left; nothing to pay" });
    expect(under(150)).toMatchObject({
      is: 'charged',
      amount: EUR(4500),
      sentence: "2 h of November's 2 h, 0 min left; €45.00 to the client for the rest",
    });
    expect(under(45, { allowance: { grant: 0 } })).toMatchObject({
      is: 'charged',
      amount: EUR(6750),
      sentence: 'nothing is left of Hours: €67.50 to the client',
    });
    expect(under(45, { rules: [{ ...ALL_WORK, bands: ['holiday'] }] })).toMatchObject({
      is: 'charged',
      amount: EUR(4500),
      sentence: 'not covered by 1001 Care: €45.00 to the client',
    });
    expect(under(45, { rules: [{ ...ALL_WORK, allowanceId: null }] }).sentence).toBe('nothing is left of 1001 Care: €67.50 to the client');
  });

  it('names the allowance where a month says too little', () => {
    expect(under(45, { frequency: 'quarterly' }).sentence).toBe('45 min of Hours, 1 h 15 left; nothing to pay');
    expect(under(45, { allowance: { each: 'once' } }).sentence).toBe('45 min of Hours, 1 h 15 left; nothing to pay');
    expect(under(45, { allowance: { measure: 'unlimited' } }).sentence).toBe('covered by 1001 Care; nothing to pay');
    expect(under(45, { allowance: { measure: 'incidents', grant: 3 } }).sentence).toBe(
      "1 ticket of November's 3 tickets, 2 tickets left; nothing to pay",
    );
    expect(under(45, { allowance: { measure: 'money', grant: 5000 } }).sentence).toBe(
      "€45.00 of November's €50.00, €5.00 left; nothing to pay",
    );
  });

  it('is what it was by its rate once its contract is taken away', () => {
    for (const minutes of [0, 45, 150]) expect(effectByRate(under(minutes), 'EUR')).toEqual(byRate(minutes));
    expect(effectByRate(byRate(45), 'EUR')).toEqual(byRate(45));
  });

  it('keeps saying what it draws beside a call-out', () => {
    const callOut = [{ what: 'call-out', net: EUR(4500), why: [] }];
    const said = (minutes: number) => withAddedAmounts({ ...under(minutes), minutes }, callOut);
    expect(said(45)).toMatchObject({ amount: EUR(4500), sentence: "45 min of November's 2 h, 1 h 15 left; call-out €45.00 to the client" });
    expect(said(150)).toMatchObject({
      amount: EUR(9000),
      sentence: "2 h of November's 2 h, 0 min left; €90.00 to the client, of it call-out €45.00",
    });
  });

  it('explains each step, from its rate to what is paid', () => {
    expect(under(150).why.map((s) => [s.rule, s.figure?.value])).toEqual([
      ['rated', undefined],
      ['under the contract', '1001 Care'],
      ['drawn of Hours, granted from 2026-11-01', '2 h'],
      ['nothing is left for 30 min of it: at its rate × 1.5', '€45.00'],
      ['to pay', '€45.00'],
    ]);
  });
});
