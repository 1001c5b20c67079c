import fc from 'fast-check';
import { array, mixed, string } from 'yup';
import { id, list, listOf, oneOf, record, text, whole } from './fields';
import { measureInput, measureOf, MOST_FAULTS } from './measure';

const measure = measureOf(
  record({ name: text(300), kinds: listOf(oneOf(['a', 'bb']), 3), at: whole(1, 9), rule: mixed(), who: record({ id: id() }) }),
);
const faults = (given: unknown) => measureInput(measure, given);

describe('the size of what is given', () => {
  it('finds nothing in what fits, also where much is left out', () => {
    expect(faults({ name: 'x'.repeat(300), kinds: ['a', 'a', 'bb'], at: 4, rule: { '==': [1, 1] }, who: { id: 'x' } })).toEqual({});
    expect([faults({}), faults(undefined), faults(null), faults({ name: null })]).toEqual([{}, {}, {}, {}]);
  });

  it('names the place, what was given and what is allowed', () => {
    expect(faults({ name: 'x'.repeat(301) })).toEqual({ name: 'at most 300 characters; 301 were given' });
    expect(faults({ kinds: ['a', 'a', 'a', 'a'] })).toEqual({ kinds: 'at most 3; 4 were given' });
    expect(faults({ kinds: 'a' })).toEqual({ kinds: 'a list' });
    expect(faults({ name: ['a'] })).toEqual({ name: 'a single text' });
    expect(faults({ at: { is: 4 } })).toEqual({ at: 'a single value' });
    expect(faults([])).toEqual({ body: 'an object with named fields' });
    expect(faults({ who: { id: 'x', role: 'y' } })).toEqual({ 'who.role': 'no such field; there are id' });
    expect(faults({ name: 'a\u0000b' })).toEqual({ name: 'text that holds no NUL and no half of a letter' });
    expect(faults({ name: '\ud800' })).toEqual({ name: 'text that holds no NUL and no half of a letter' });
  });

  it('does not count blanks around a text, as they are not kept', () => {
    expect(faults({ name: ` ${'x'.repeat(300)} ` })).toEqual({});
  });

  it('leaves what is short to the schema, whose words know the field', () => {
    expect(faults({ who: { id: 'x'.repeat(200) } })).toEqual({});
    expect(Object.keys(faults({ who: { id: 'x'.repeat(201) } }))).toEqual(['who.id']);
  });

  it('bounds what is free by its values, its depth and its texts', () => {
    const deep = (n: number): unknown => (n ? [deep(n - 1)] : 1);
    expect([faults({ rule: deep(24) }), faults({ rule: deep(25) })]).toEqual([{}, { rule: 'nested at most 24 deep' }]);
    expect(faults({ rule: Array(1999).fill(1) })).toEqual({});
    expect(faults({ rule: Array(2001).fill(1) })).toEqual({ rule: 'at most 2000 values in all' });
    expect(faults({ rule: 'x'.repeat(10_000) })).toEqual({});
    expect(faults({ rule: ['x'.repeat(10_001)] })).toEqual({ rule: 'texts of at most 10000 characters' });
    expect(faults({ rule: JSON.parse('{"__proto__": 1}') as unknown })).toEqual({ rule: 'no value of the name __proto__' });
  });

  it('stops after so many faults, however much is wrong', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), (n) => {
        const given = Object.fromEntries(Array.from({ length: n }, (_, i) => [`f${i}`, i]));
        expect(Object.keys(faults(given))).toHaveLength(Math.min(n, MOST_FAULTS));
      }),
      { numRuns: 30 },
    );
  });

  it('is not known of a schema that lets in any size, which is a fault of who wrote it', () => {
    expect(() => measureOf(record({ name: string() }))).toThrow('.name is a text of any size');
    expect(() => measureOf(record({ names: list(text()) }))).toThrow('.names is a list of any size');
    expect(() => measureOf(record({ deep: record({ rows: array(text()).max(3) }), more: listOf(string(), 2) }))).toThrow(
      '.more[] is a text of any size',
    );
    expect(measureOf(record({ kind: string().oneOf(['one', 'three']) }))).toEqual({
      is: 'record',
      fields: { kind: { is: 'text', most: 200 } },
    });
  });
});
