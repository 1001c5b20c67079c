import fc from 'fast-check';
import type { AnySchema, SchemaDescription, SchemaFieldDescription, SchemaInnerTypeDescription, SchemaObjectDescription } from 'yup';

/** Texts that look right somewhere: what a field of that name or check may take. */
const RIGHT: Readonly<Record<string, readonly string[]>> = {
  instant: ['2026-11-24T10:40:00Z', '2026-11-25T09:00:00Z', '1900-01-01T00:00:00Z', '2199-12-31T23:59:59Z'],
  date: ['2026-11-24', '2026-11-30', '1900-01-01', '2199-12-31'],
  decimal: ['1', '89.50', '0.0001', '9999999999', '-5'],
  duration: ['25', '1:30', '1.5', '24 h', '0'],
  email: ['orla.devane@hollin.example', 'a@b.example'],
};
const WRONG: readonly unknown[] = [
  '\0',
  'a\0b',
  '\ud800',
  'x'.repeat(70_000),
  '-'.repeat(36),
  '99999-99-99',
  '0000-00-00',
  '1e400',
  '9'.repeat(400),
  '%ff',
  "'; drop table client",
  -1,
  1e308,
  2_147_483_648,
  1.5,
  true,
  null,
  {},
  [],
  [[]],
  { toString: 'x' },
  ['x', 'y'],
  { $ne: 1 },
  Array(5000).fill('x'),
];

/** Bodies and queries of a schema: mostly what it takes, now and then something else in one place. */
export function inputOf(schema: AnySchema | undefined, ids: readonly string[]): fc.Arbitrary<unknown> {
  return schema ? valueOf(schema.describe(), ids) : fc.constant(undefined);
}

function valueOf(described: SchemaFieldDescription, ids: readonly string[]): fc.Arbitrary<unknown> {
  return fc.oneof({ weight: 14, arbitrary: rightOf(described, ids) }, { weight: 1, arbitrary: fc.constantFrom(...WRONG) });
}

function rightOf(described: SchemaFieldDescription, ids: readonly string[]): fc.Arbitrary<unknown> {
  const { oneOf = [], nullable, tests = [] } = described as SchemaDescription;
  const none = nullable ? [fc.constant(null)] : [];
  if (oneOf.length) return fc.oneof(...none, fc.constantFrom(...oneOf));
  const has = (name: string) => tests.find((test) => test.name === name);
  switch (described.type) {
    case 'object': {
      const fields = (described as SchemaObjectDescription).fields;
      const all = Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, valueOf(field, ids)]));
      return fc.oneof(...none, fc.record(all, { requiredKeys: Object.keys(all) }), fc.record(all, { requiredKeys: [] }));
    }
    case 'array': {
      const most = Number(has('max')?.params?.['max'] ?? has('length')?.params?.['length'] ?? 3);
      return fc.array(valueOf((described as SchemaInnerTypeDescription).innerType as SchemaFieldDescription, ids), {
        maxLength: Math.min(most, 7),
      });
    }
    case 'number': {
      const [min, max] = [Number(has('min')?.params?.['min'] ?? 0), Number(has('max')?.params?.['max'] ?? 2_147_483_647)];
      return fc.oneof(...none, fc.integer({ min: Math.ceil(min), max: Math.max(Math.ceil(min), Math.floor(max)) }));
    }
    case 'boolean':
      return fc.oneof(...none, fc.boolean());
    case 'string': {
      if (has('uuid')) return fc.oneof(...none, fc.constantFrom(...ids), fc.uuid());
      const kind = Object.keys(RIGHT).find((name) => has(name));
      const words = kind
        ? fc.constantFrom(...RIGHT[kind]!)
        : fc.oneof(
            fc.string({ maxLength: 30 }),
            fc.constantFrom(...Object.values(RIGHT).flat(), 'HV-PRN-003', 'Till 4', 'IE', 'text/calendar', '08:30-17:00'),
          );
      return fc.oneof(...none, words);
    }
    default:
      return fc.oneof(
        ...none,
        fc.constantFrom<unknown>(true, 'x', 7, { '==': [{ var: 'ticket.kind' }, 'alert'] }, { and: [true, { no: 1 }] }, { var: '' }),
      );
  }
}
