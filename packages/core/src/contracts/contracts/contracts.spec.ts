import fc from 'fast-check';
import type { LocalDate } from '../../ground';
import { grantUnits, overlapping, PRESET_PARTS, PRESETS, stateOf, typedGrant } from '.';

const day = (text: string) => text as LocalDate;

describe('the state of a contract', () => {
  it('follows from its agreement and its dates', () => {
    const dates = { isAgreed: true, from: day('2026-11-01'), to: day('2026-12-01') };
    expect(['2026-10-31', '2026-11-01', '2026-11-30', '2026-12-01'].map((on) => stateOf(dates, day(on)))).toEqual([
      'agreed',
      'running',
      'running',
      'ended',
    ]);
    expect(stateOf({ ...dates, isAgreed: false }, day('2026-12-01'))).toBe('draft');
    expect(stateOf({ ...dates, to: null }, day('2199-01-01'))).toBe('running');
  });
});

describe('what is typed of an allowance', () => {
  it('is whole minutes, minor units or tickets', () => {
    expect([
      grantUnits('hours', '12', 'EUR'),
      grantUnits('hours', '0.25', 'EUR'),
      grantUnits('money', '1500.5', 'EUR'),
      grantUnits('money', '10', 'JPY'),
      grantUnits('incidents', '3', 'EUR'),
    ]).toEqual([720, 15, 150050, 10, 3]);
    for (const [measure, typed] of [
      ['hours', '0.01'],
      ['money', '0.001'],
      ['incidents', '1.5'],
      ['hours', '-1'],
      ['hours', 'x'],
      ['hours', '99999999999'],
    ] as const)
      expect(grantUnits(measure, typed, 'EUR')).toBeUndefined();
  });
  it('is written back as it was typed', () => {
    fc.assert(
      fc.property(fc.constantFrom('hours' as const, 'money' as const, 'incidents' as const), fc.nat(6000), (measure, n) => {
        const units = measure === 'hours' ? n * 3 : n;
        expect(grantUnits(measure, typedGrant(measure, units, 'EUR'), 'EUR')).toBe(units);
      }),
    );
  });
});

describe('presets', () => {
  it('each fill something in, or ask nothing', () => {
    for (const preset of PRESETS) {
      const { allowance, covers, line, asks } = PRESET_PARTS[preset];
      expect(allowance === null).toBe(covers === null);
      // What is prepaid is a line of its own, billed once.
      expect(asks.includes('price')).toBe(line !== null || allowance?.each === 'once');
      expect(asks.includes('grant')).toBe(allowance !== null && allowance.measure !== 'unlimited');
    }
  });
});

describe('assignments of one', () => {
  it('overlap where they share a day, and touch without', () => {
    const stands = [{ from: day('2026-11-01'), to: day('2026-11-10') }];
    expect(overlapping(stands, { from: day('2026-11-10'), to: null })).toBeUndefined();
    expect(overlapping(stands, { from: day('2026-11-09'), to: null })).toBe(stands[0]);
    expect(overlapping(stands, { from: day('2026-10-01'), to: day('2026-11-01') })).toBeUndefined();
    expect(overlapping([{ from: day('2026-11-01'), to: null }], { from: day('2027-01-01'), to: day('2027-01-02') })).toBeDefined();
  });
});
