import fc from 'fast-check';
import type { Id, LocalDate } from '../../ground';
import { chooseContract, type ContractOffered, type MeantFor, REACHES, REACHES_NOTHING, type WorkToPlace } from '.';

const day = (text: string) => text as LocalDate;
const id = (text: string) => text as Id<'contract'>;
const offer = (more: Partial<ContractOffered> = {}): ContractOffered => ({
  id: id('a'),
  number: 1001,
  name: 'Care',
  isPreferred: false,
  isAgreed: true,
  from: day('2026-01-01'),
  to: null,
  meantFor: [],
  ...more,
});
const on = day('2026-11-24');
const place = (more: Partial<WorkToPlace> = {}): WorkToPlace => ({ on, reached: REACHES_NOTHING, order: REACHES, byHand: [], ...more });
const rulesOf = (offered: readonly ContractOffered[], work: WorkToPlace) => {
  const { id: found, why } = chooseContract(offered, work);
  return [found, ...why.map((s) => s.rule)];
};

describe('the contract of work', () => {
  const [one, other] = [offer(), offer({ id: id('b'), number: 1002, name: 'Hours' })];
  it('is the preferred one, else the only one, else none, and says why', () => {
    expect(chooseContract([one], place())).toEqual({
      id: 'a',
      why: [{ rule: "the client's only contract", figure: { unit: 'text', value: '1001 Care' } }],
    });
    expect(rulesOf([one, other], place())).toEqual([null, 'several contracts and none is preferred: by the hour']);
    expect(rulesOf([one, { ...other, isPreferred: true }], place())).toEqual(['b', "the client's preferred contract"]);
    expect(
      rulesOf(
        [
          { ...other, isPreferred: true },
          { ...one, isPreferred: true },
        ],
        place(),
      )[0],
    ).toBe('a');
    expect(rulesOf([], place())).toEqual([null, 'no contract on this day: by the hour']);
  });

  it('is agreed, and holds on the day', () => {
    for (const no of [offer({ isAgreed: false }), offer({ from: day('2026-11-25') }), offer({ to: day('2026-11-24') })])
      expect(chooseContract([no], place()).id).toBeNull();
    expect(chooseContract([offer({ from: on, to: day('2026-11-25') })], place()).id).toBe('a');
  });

  it('is the one meant for the asset, site, desk, kind or contact, in the order that is set', () => {
    const bySite = offer({ id: id('s'), number: 1003, meantFor: [{ reach: 'site', of: 'north' }] });
    const byAsset = offer({ id: id('d'), number: 1004, meantFor: [{ reach: 'asset', of: 'till' }] });
    const reached = { ...REACHES_NOTHING, site: 'north', asset: 'till' };
    expect(rulesOf([one, bySite, byAsset], place({ reached }))).toEqual(['d', "it is meant for the ticket's asset"]);
    expect(rulesOf([one, bySite, byAsset], place({ reached, order: ['site', 'asset'] }))[0]).toBe('s');
    // One that is meant for another place takes nothing, also where it is the only one.
    expect(rulesOf([bySite], place())).toEqual([null, 'no contract is meant for this work: by the hour']);
    expect(rulesOf([one, bySite], place())[0]).toBe('a');
  });

  it('is what somebody chose, the entry before the ticket, while that holds on the day', () => {
    const hand = (of: 'entry' | 'ticket', chosen: string | null) => ({ of, id: chosen === null ? null : id(chosen) });
    expect(rulesOf([one, other], place({ byHand: [hand('ticket', 'b')] }))).toEqual(['b', 'somebody chose it for the ticket']);
    expect(rulesOf([one, other], place({ byHand: [hand('entry', null), hand('ticket', 'b')] }))).toEqual([
      null,
      'by the hour: somebody chose so for the entry',
    ]);
    expect(rulesOf([one], place({ byHand: [hand('ticket', 'gone')] }))).toEqual([
      'a',
      'the contract that somebody chose for the ticket does not hold on this day',
      "the client's only contract",
    ]);
  });

  it('holds on the day, is the same in whatever order they are offered, and one that names other work is never taken by itself', () => {
    const meant = fc.uniqueArray(fc.record({ reach: fc.constantFrom(...REACHES), of: fc.constantFrom('x', 'y') }), {
      maxLength: 3,
      selector: (m) => m.reach + m.of,
    });
    const offers = fc
      .array(fc.record({ isPreferred: fc.boolean(), isAgreed: fc.boolean(), ends: fc.boolean(), meantFor: meant }), { maxLength: 6 })
      .map((all) => all.map(({ ends, ...o }, n) => offer({ ...o, id: id(String(n)), number: n, to: ends ? on : null })));
    const reach = fc.constantFrom('x', 'y', null);
    const reached = fc.record({ asset: reach, site: reach, desk: reach, kind: reach, contact: reach });
    const order = fc.shuffledSubarray([...REACHES]);
    fc.assert(
      fc.property(offers, reached, order, (offered, all, by) => {
        const work = place({ reached: all, order: by });
        const found = chooseContract(offered, work);
        expect(chooseContract([...offered].reverse(), work)).toEqual(found);
        const taken = offered.find((c) => c.id === found.id);
        if (!taken) return;
        expect([taken.isAgreed, taken.to]).toEqual([true, null]);
        const fits = (m: MeantFor) => by.includes(m.reach) && all[m.reach] === m.of;
        expect(taken.meantFor.length === 0 || taken.meantFor.some(fits)).toBe(true);
        // Nothing else that holds is meant for something that comes earlier in the order.
        const rank = (c: ContractOffered) => Math.min(by.length, ...c.meantFor.filter(fits).map((m) => by.indexOf(m.reach)));
        for (const c of offered.filter((o) => o.isAgreed && o.to === null)) expect(rank(c)).toBeGreaterThanOrEqual(rank(taken));
      }),
    );
  });
});
