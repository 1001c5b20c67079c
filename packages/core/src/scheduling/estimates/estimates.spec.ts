import fc from 'fast-check';
import { estimateOf, groupKey, learnEstimates, medianOf, percentile80, type Learned, type PastCase } from '.';

const past = (minutes: number, more: Partial<PastCase> = {}): PastCase => ({
  kind: 'incident',
  categoryId: 'c',
  personId: 'p',
  clientId: 'k',
  minutes,
  ...more,
});
const finder = (learned: readonly Learned[]) => (likeness: string, key: string) =>
  learned.find((l) => l.likeness === likeness && l.key === key);
const asked = { kind: 'incident', categoryId: 'c', personId: 'p', clientId: 'k' };
const none = { judged: 0, right: 0 };

describe('estimates', () => {
  it('are the median and the 80th percentile of like work, worked out by hand', () => {
    const learned = learnEstimates([10, 20, 30, 40, 50, 60, 70, 80, 90, 100].map((m) => past(m)));
    const e = estimateOf({ typed: null, of: asked, find: finder(learned), typedRecord: none });
    expect([e.minutes, e.p80, e.from]).toEqual([55, 80, 'learned']);
    expect(e.says).toBe('learned from 10 of the same kind, category, technician and client');
    // The ninth and tenth were judged by those before them, whose 80th percentile was 70 and 80: neither was enough.
    expect(e.why.at(-1)!.rule).toBe('this estimate would have been enough in 0 of 2 (0 %)');
  });

  it('go one step wider below eight cases, and to the house in the end', () => {
    const few = [...Array(7)].map(() => past(20));
    expect(estimateOf({ typed: null, of: asked, find: finder(learnEstimates(few)), typedRecord: none }).from).toBe('house');
    const wider = [...few, ...[...Array(8)].map(() => past(60, { clientId: 'other' }))];
    const e = estimateOf({ typed: null, of: asked, find: finder(learnEstimates(wider)), typedRecord: none });
    expect([e.says, e.minutes]).toEqual(['learned from 15 of the same kind, category and technician', 60]);
    const anybody = estimateOf({ typed: null, of: { ...asked, personId: null }, find: finder(learnEstimates(wider)), typedRecord: none });
    expect(anybody.says).toBe('learned from 15 of the same kind and category');
    expect(estimateOf({ typed: 45, of: asked, find: finder(learnEstimates(wider)), typedRecord: { judged: 9, right: 6 } })).toMatchObject({
      minutes: 45,
      p80: 45,
      from: 'typed',
    });
  });

  it('agree with counting, whatever the cases: half at most below the median, four fifths within the percentile', () => {
    const some = fc.array(fc.integer({ min: 1, max: 600 }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(some, (values) => {
        const sorted = [...values].sort((a, b) => a - b);
        const [median, p80] = [medianOf(sorted), percentile80(sorted)];
        expect(values.filter((v) => v < median).length * 2).toBeLessThanOrEqual(values.length);
        expect(values.filter((v) => v <= p80).length).toBeGreaterThanOrEqual(values.length * 0.8);
        expect(values.filter((v) => v < p80).length).toBeLessThan(values.length * 0.8);
      }),
    );
  });

  it('learn the same of a group whatever else happened between', () => {
    const cases = fc.array(fc.record({ minutes: fc.integer({ min: 1, max: 300 }), who: fc.constantFrom('p', 'q') }), {
      minLength: 8,
      maxLength: 50,
    });
    fc.assert(
      fc.property(cases, (all) => {
        const every = all.map((c) => past(c.minutes, { personId: c.who }));
        const [together, alone] = [learnEstimates(every), learnEstimates(every.filter((c) => c.personId === 'p'))];
        const key = groupKey('kind, category and technician', asked)!;
        expect(finder(together)('kind, category and technician', key)).toEqual(finder(alone)('kind, category and technician', key));
      }),
    );
  });
});
