import fc from 'fast-check';
import { money } from '../../ground';
import { sumEffects, usualActivity, withAddedAmounts, type AddedAmount, type Effect, type NamedEffect } from '.';

const charged = (minutes: number, minor: number): Effect => ({
  minutes,
  billedMinutes: minutes,
  amount: money(minor, 'EUR'),
  sentence: `€${(minor / 100).toFixed(2)} to the client`,
  why: [],
});
const silent = (minutes: number, sentence: string): Effect => ({ minutes, billedMinutes: 0, amount: null, sentence, why: [] });
const named = (...effects: Effect[]): NamedEffect[] => effects.map((effect, n) => ({ name: `entry ${n + 1}`, effect }));

describe('several pieces of time together', () => {
  it('come to the sum of what each comes to, and say what is without charge', () => {
    const done = sumEffects(named(charged(60, 9000), silent(30, 'not billable, no charge'), charged(15, 2250)), 'the client');
    expect([done.sentence, done.minutes, done.billedMinutes]).toEqual(['€112.50 to the client, 30 min without charge', 105, 75]);
    expect(done.why.map((s) => [s.rule, s.figure?.value])).toEqual([
      ['entry 1, 1 h', '€90.00 to the client'],
      ['entry 2, 30 min', 'not billable, no charge'],
      ['entry 3, 15 min', '€22.50 to the client'],
      ['together', '€112.50'],
    ]);
    expect(sumEffects(named(charged(60, 9000)), 'clients')).toEqual(charged(60, 9000));
    expect(sumEffects(named(charged(60, 9000), charged(60, 100)), 'clients').sentence).toBe('€91.00 to clients');
  });

  it('say why there is no charge where all say the same, and that there is none where they differ', () => {
    const flat = 'flat fee, no charge for time';
    expect(sumEffects(named(silent(10, flat), silent(20, flat)), 'the client')).toMatchObject({
      sentence: flat,
      amount: null,
      minutes: 30,
    });
    expect(sumEffects(named(silent(10, flat), silent(20, 'internal, no charge')), 'the client').sentence).toBe('no charge');
    expect(sumEffects([], 'the client')).toMatchObject({ sentence: 'nothing is recorded', amount: null, minutes: 0 });
  });

  it('lose no cent and no minute, whatever the parts', () => {
    const effects = fc.array(
      fc
        .tuple(fc.integer({ min: 1, max: 600 }), fc.option(fc.integer({ min: -5_000, max: 500_000 })))
        .map(([m, a]) => (a === null ? silent(m, 'none') : charged(m, a))),
      { minLength: 1 },
    );
    fc.assert(
      fc.property(effects, (all) => {
        const done = sumEffects(named(...all), 'clients');
        expect(done.minutes).toBe(all.reduce((s, e) => s + e.minutes, 0));
        expect(done.amount?.minor ?? 0).toBe(all.reduce((s, e) => s + (e.amount?.minor ?? 0), 0));
        expect(done.amount === null).toBe(all.every((e) => e.amount === null));
      }),
    );
  });
});

describe('what time charges besides its length', () => {
  const fee: AddedAmount = { what: 'call-out', net: money(4500, 'EUR'), why: [{ rule: 'first entry of a visit' }] };
  const there: AddedAmount = { what: '12.5 km', net: money(775, 'EUR'), why: [{ rule: '12.5 km at 0.62' }] };

  it('is in the sum, the sentence and the steps, and nothing where there is nothing', () => {
    const done = withAddedAmounts(charged(30, 4400), [fee, there]);
    expect([done.amount!.minor, done.sentence]).toEqual([9675, '€96.75 to the client, of it call-out €45.00, 12.5 km €7.75']);
    expect(done.why.map((s) => s.rule)).toEqual(['first entry of a visit', '12.5 km at 0.62', 'together']);
    expect(withAddedAmounts(charged(30, 4400), [])).toEqual(charged(30, 4400));
    expect(withAddedAmounts(silent(30, 'no rate found'), [fee])).toMatchObject({
      amount: { minor: 4500 },
      sentence: 'call-out €45.00 to the client; no rate found',
    });
  });

  it('adds up, whatever it is', () => {
    const some = fc.array(
      fc.integer({ min: 1, max: 100_000 }).map((minor): AddedAmount => ({ what: 'x', net: money(minor, 'EUR'), why: [] })),
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), some, (minor, added) =>
        expect(withAddedAmounts(charged(30, minor), added).amount!.minor).toBe(added.reduce((s, b) => s + b.net.minor, minor)),
      ),
    );
  });
});

describe('the usual activity', () => {
  const own = { usual: 'remote', onSite: 'visit' };
  it.each([
    ['a visit is a visit', { onSite: true, allowed: [], deskUsual: 'workshop' }, 'visit'],
    ["the desk's usual comes before one's own", { onSite: false, allowed: [], deskUsual: 'workshop' }, 'workshop'],
    ['without one it is what somebody mostly does', { onSite: false, allowed: [], deskUsual: null }, 'remote'],
    ['what the kind does not allow is passed over', { onSite: false, allowed: ['remote', 'advice'], deskUsual: 'workshop' }, 'remote'],
    ['nothing usual is allowed: the first that is', { onSite: false, allowed: ['advice', 'lesson'], deskUsual: 'workshop' }, 'advice'],
    ['a visit that the kind bars', { onSite: true, allowed: ['advice'], deskUsual: null }, 'advice'],
  ])('%s', (_, hints, activity) => expect(usualActivity({ ...hints, own })).toBe(activity));

  it('is never one that may not be chosen', () => {
    const some = fc.constantFrom('a', 'b', 'c', 'd');
    fc.assert(
      fc.property(fc.boolean(), fc.uniqueArray(some), fc.option(some), some, some, (onSite, allowed, deskUsual, usual, visit) => {
        const chosen = usualActivity({ onSite, allowed, deskUsual, own: { usual, onSite: visit } });
        if (allowed.length) expect(allowed).toContain(chosen);
      }),
    );
  });
});
