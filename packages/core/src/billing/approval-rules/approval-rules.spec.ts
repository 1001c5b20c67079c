import fc from 'fast-check';
import { parseLocalDate, plusDays } from '../../ground';
import { approvedBy, type ApprovalRule, type ChargeToApprove } from '.';

const today = parseLocalDate('2026-11-24');
const rule = (over: Partial<ApprovalRule> = {}): ApprovalRule => ({ id: 'house', clientId: null, kind: 'labour', afterDays: 2, ...over });
const charge = (over: Partial<ChargeToApprove> = {}): ChargeToApprove => ({
  clientId: 'a',
  kind: 'labour',
  on: plusDays(today, -2),
  oddities: [],
  wasDecidedOn: false,
  isHeld: false,
  ...over,
});
const by = (c: ChargeToApprove, ...rules: ApprovalRule[]) => approvedBy(c, { rules, today })?.id;

describe('a rule that approves', () => {
  it('takes what is of its kind, from its day on', () => {
    expect(by(charge(), rule())).toBe('house');
    expect(by(charge({ on: plusDays(today, -1) }), rule())).toBeUndefined();
    expect(by(charge({ kind: 'fee' }), rule())).toBeUndefined();
    expect(by(charge({ on: today }), rule({ afterDays: 0 }))).toBe('house');
  });

  it('leaves to a person what is odd, held, or was decided on before', () => {
    expect(by(charge({ oddities: [{ is: 'no note', has: null, beside: null, of: null }] }), rule())).toBeUndefined();
    expect(by(charge({ isHeld: true }), rule())).toBeUndefined();
    expect(by(charge({ wasDecidedOn: true }), rule())).toBeUndefined();
  });

  it("of the client counts before the house's, also where it says never", () => {
    const own = rule({ id: 'own', clientId: 'a', afterDays: 9 });
    expect(by(charge(), rule(), own)).toBeUndefined();
    expect(by(charge({ on: plusDays(today, -9) }), rule(), own)).toBe('own');
    expect(by(charge(), rule(), rule({ id: 'never', clientId: 'a', afterDays: null }))).toBeUndefined();
    expect(by(charge({ clientId: 'b' }), rule(), own)).toBe('house');
  });

  it('is the same in whatever order rules are kept', () => {
    const rules = fc.uniqueArray(
      fc.record({
        clientId: fc.constantFrom('a', 'b', null),
        kind: fc.constantFrom('labour' as const, 'fee' as const),
        afterDays: fc.option(fc.nat(9)),
      }),
      { selector: (r) => `${r.clientId} ${r.kind}` },
    );
    fc.assert(
      fc.property(rules, fc.nat(12), (some, age) => {
        const all = some.map((r, n): ApprovalRule => ({ ...r, id: String(n) }));
        const c = charge({ on: plusDays(today, -age) });
        expect(by(c, ...[...all].reverse())).toBe(by(c, ...all));
      }),
    );
  });
});
