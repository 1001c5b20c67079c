import fc from 'fast-check';
import { money } from '../../ground';
import type { EntryEffect } from '../../time';
import { CHARGE_TEXT, type ChargeDraft, type EntryCause, draftCharges } from '.';

const EUR = (minor: number) => money(minor, 'EUR');
const WHY = [{ rule: 'some rule' }];
const effect = (nets: readonly number[], is: EntryEffect['is'] = 'charged'): EntryEffect => ({
  is,
  amount: is === 'charged' ? EUR(nets.reduce((a, b) => a + b, 0)) : null,
  sentence: '',
  billedMinutes: 15 * nets.length,
  parts: nets.map(
    (minor, n) => ({ band: `band ${n}`, minutes: 15, factor: '1', rate: '104', net: EUR(minor), billedMinutes: 15 }) as never,
  ),
  why: WHY,
});
const ENTRY: EntryCause = {
  is: 'entry',
  person: 'Deepa',
  activity: 'remote',
  text: 'cable swapped',
  hasNote: true,
  minutes: 30,
  longMinutes: 300,
  currency: 'EUR',
  effect: effect([2600, 3900]),
  callOut: { net: EUR(4500), price: '45', why: WHY },
  way: { net: EUR(1147), distance: '18.5', unit: 'km', rate: '0.62', why: WHY },
};
const sum = (drafts: readonly ChargeDraft[]) => drafts.reduce((total, d) => total + d.net.minor, 0);
const keys = (drafts: readonly ChargeDraft[]) => drafts.map((d) => `${d.cause} ${d.part}`);

describe('charges of what happened', () => {
  it('are the time by its bands, the call-out and the way', () => {
    const drafts = draftCharges(ENTRY);
    expect(drafts.map((d) => [d.cause, d.part, d.kind, d.description, d.quantity, d.unit, d.unitPrice, d.net.minor])).toEqual([
      ['entry', 0, 'labour', 'Deepa, remote, band 0: cable swapped', '15', 'MIN', '104', 2600],
      ['entry', 1, 'labour', 'Deepa, remote, band 1: cable swapped', '15', 'MIN', '104', 3900],
      ['call-out', 0, 'fee', 'Call-out, Deepa', '1', 'C62', '45', 4500],
      ['distance', 0, 'expense', 'Travel, Deepa, 18.5 km', '18.5', 'KMT', '0.62', 1147],
    ]);
    expect(draftCharges({ ...ENTRY, way: { ...ENTRY.way!, unit: 'miles' } }).at(-1)!.unit).toBe('SMI');
  });

  it('add up to what the time does with all beside it, each cause and part once', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(100_000), { minLength: 1, maxLength: 5 }), fc.boolean(), fc.boolean(), (nets, fee, way) => {
        const drafts = draftCharges({ ...ENTRY, effect: effect(nets), callOut: fee ? ENTRY.callOut : null, way: way ? ENTRY.way : null });
        expect(sum(drafts)).toBe(nets.reduce((a, b) => a + b, 0) + (fee ? 4500 : 0) + (way ? 1147 : 0));
        expect(new Set(keys(drafts)).size).toBe(drafts.length);
      }),
    );
  });

  it('are none where nothing is charged, and one at nothing where there is no rate', () => {
    const silent = { ...ENTRY, callOut: null, way: null };
    for (const is of ['internal', 'flat fee', 'not billable'] as const)
      expect(draftCharges({ ...silent, effect: effect([], is) })).toEqual([]);
    expect(draftCharges({ ...silent, effect: effect([], 'no rate') })).toMatchObject([
      { quantity: '30', unit: 'MIN', unitPrice: '0', net: EUR(0), marks: ['no rate'] },
    ]);
  });

  it('of time under a contract are what the contract leaves', () => {
    const stretch = { band: 'working hours', minutes: 60, rate: '90', net: EUR(9000), ruleId: 'r', draws: [], factor: '1' } as const;
    const covered = { ...stretch, is: 'covered', coveredMinutes: 60, covered: EUR(9000), charge: EUR(0), overIs: 'minutes' } as const;
    const over = {
      ...stretch,
      is: 'part overage',
      coveredMinutes: 45,
      covered: EUR(6750),
      charge: EUR(3375),
      factor: '1.5',
      overIs: 'minutes',
    } as const;
    const amount = { ...stretch, is: 'part overage', coveredMinutes: 53, covered: EUR(8000), charge: EUR(1000), overIs: 'amount' } as const;
    const none = { ...stretch, is: 'not covered', coveredMinutes: 0, covered: EUR(0), charge: EUR(9000), overIs: 'minutes' } as const;
    const of = (...stretches: NonNullable<EntryEffect['under']>['stretches']) =>
      draftCharges({
        ...ENTRY,
        callOut: null,
        way: null,
        effect: { ...effect([9000]), under: { contractId: 'c', contract: '1001 Care', chosen: [], stretches, coversFees: false } },
      }).map((d) => [d.part, d.quantity, d.unit, d.unitPrice, d.net.minor, d.description.split(': ')[0]]);
    expect(of(covered, over, amount, none)).toEqual([
      [0, '15', 'MIN', '135', 3375, 'Deepa, remote, working hours, more than 1001 Care holds'],
      [1, '1', 'C62', '10', 1000, 'Deepa, remote, working hours, more than 1001 Care holds'],
      [2, '60', 'MIN', '90', 9000, 'Deepa, remote, working hours'],
    ]);
    expect(draftCharges({ ...ENTRY, callOut: null, way: null, effect: effect([], 'covered') })).toEqual([]);
  });

  it('are marked where somebody should look twice', () => {
    expect(draftCharges({ ...ENTRY, hasNote: false, minutes: 301 }).map((d) => d.marks)).toEqual(Array(4).fill(['no note', 'long']));
    expect(draftCharges({ ...ENTRY, minutes: 300 })[0]!.marks).toEqual([]);
  });

  it('of a correction are its difference, in pieces of a price that is never below nothing', () => {
    const of = (minor: number) => draftCharges({ is: 'correction', person: 'Deepa', text: 'lunch', effect: effect([minor]) });
    expect(of(-1250)).toMatchObject([{ cause: 'entry', quantity: '-1', unitPrice: '12.5', net: EUR(-1250), marks: ['correction'] }]);
    expect(of(1250)).toMatchObject([{ quantity: '1', unitPrice: '12.5', net: EUR(1250) }]);
    expect(of(0)).toEqual([]);
    expect(draftCharges({ is: 'correction', person: 'Deepa', text: 'lunch', effect: effect([], 'not billable') })).toEqual([]);
  });

  it('of shares name nothing of the umbrella, and no two have one place', () => {
    const share = (nth: number) =>
      draftCharges({
        is: 'share',
        person: 'Deepa',
        activity: 'remote',
        minutes: 20,
        of: 60,
        sharedBy: 'Ngozi',
        effect: effect([1, 2]),
        nth,
      });
    const drafts = [...share(0), ...share(1)];
    expect(new Set(keys(drafts)).size).toBe(4);
    expect(drafts[0]!.description).toBe('Deepa, remote, band 0: share of work on a common cause');
    expect(drafts[0]!.why[0]).toMatchObject({ rule: 'shared out by Ngozi' });
  });

  it('of an expense and of items are what they come to', () => {
    const expense = { is: 'expense', category: 'Parking', note: null, hasReceipt: false, net: EUR(1100), why: WHY } as const;
    expect(draftCharges(expense)).toMatchObject([{ cause: 'expense', description: 'Parking', unitPrice: '11', marks: ['no receipt'] }]);
    expect(draftCharges({ ...expense, note: 'quay', hasReceipt: true })).toMatchObject([{ description: 'Parking: quay', marks: [] }]);
    const item = { name: 'Cable', quantity: '3', price: '8.122', net: EUR(2437), isNeverBilled: false, why: WHY };
    expect(draftCharges({ is: 'item', ...item })).toMatchObject([
      { cause: 'item', kind: 'product', quantity: '3', unitPrice: '8.122', net: EUR(2437) },
    ]);
    expect(draftCharges({ is: 'fee', ...item })).toMatchObject([{ cause: 'fee', kind: 'fee', marks: [] }]);
    expect(draftCharges({ is: 'item', ...item, isNeverBilled: true })).toMatchObject([{ net: EUR(2437), marks: ['never billed'] }]);
  });

  it('say no more than an invoice line holds', () => {
    const [draft] = draftCharges({ ...ENTRY, text: 'x'.repeat(900) });
    expect(draft!.description).toHaveLength(CHARGE_TEXT);
  });
});
