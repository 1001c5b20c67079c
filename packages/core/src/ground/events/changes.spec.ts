import fc from 'fast-check';
import { changesOf, sayChanges } from './changes';

const value = fc.oneof(
  fc.constantFrom(null, undefined, 'a', 'b', true, false, 0, 7),
  fc.array(fc.constantFrom('x', 'y'), { maxLength: 2 }),
);
const record = fc.dictionary(fc.constantFrom('name', 'city', 'tax_exempt', 'site_id'), value);

describe('changes of a record', () => {
  it('make of what was what is written, and name nothing that stayed', () => {
    fc.assert(
      fc.property(record, record, (was, written) => {
        const changes = changesOf(was, written);
        const after = { ...was, ...Object.fromEntries(Object.entries(changes).map(([column, [, is]]) => [column, is])) };
        for (const column of Object.keys(written)) expect(after[column] ?? null).toEqual(written[column] ?? null);
        for (const [column, [from, to]] of Object.entries(changes)) {
          expect(from).toEqual(was[column] ?? null);
          expect(from).not.toEqual(to);
        }
        expect(changesOf({ ...was, ...written }, written)).toEqual({});
      }),
    );
  });

  it('are said with what was and what is, where that says something', () => {
    expect(sayChanges({})).toBe('');
    expect(sayChanges({ name: ['Quay', 'Old Quay'], tax_exempt: [false, true] }, { tax_exempt: 'exempt from tax' })).toBe(
      'name from Quay to Old Quay, exempt from tax from no to yes',
    );
    expect(sayChanges({ domains: [['a.example'], ['a.example', 'b.example']], phone: [null, '21'] })).toBe(
      'domains from a.example to a.example, b.example, phone from nothing to 21',
    );
    expect(sayChanges({ domains: [['a.example'], []] })).toBe('domains from a.example to nothing');
    expect(changesOf({ phone: null }, { phone: '' })).toEqual({});
  });

  it('leave out ids and long texts, up to the letter', () => {
    const id = '0f0e7a54-91c3-4c8e-8f0a-2f8f1e0b7d11';
    expect(sayChanges({ site_id: [id, null] })).toBe('site');
    expect(sayChanges({ directions: ['a'.repeat(61), 'b'] })).toBe('directions');
    expect(sayChanges({ directions: ['a'.repeat(60), 'b'] })).toBe(`directions from ${'a'.repeat(60)} to b`);
  });
});
