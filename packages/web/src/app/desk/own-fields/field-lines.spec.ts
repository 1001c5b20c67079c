import { type OwnField, valuesById } from '@core/desk';
import { OwnValuePipe } from './own-value';
import { openingLines, recordLines, withFieldValues } from './field-lines';

const field = (part: Partial<OwnField>): OwnField => ({
  id: 'f',
  on: 'ticket',
  name: 'Seat',
  kind: 'text',
  choices: [],
  shown: true,
  required: true,
  asked: ['opening'],
  ...part,
});
const FACTS = { ticket: { kind: 'incident' }, field: {} };
const CHOICES = { people: [{ value: 'p', label: 'Deepa' }], assets: [{ value: 'a', label: 'HV-1' }] };

describe('own fields as lines of a form', () => {
  it('are those alone that must be filled at opening', () => {
    const all = [
      field({}),
      field({ id: 'g', asked: ['resolving'] }),
      field({ id: 'h', required: false }),
      field({ id: 'i', shown: false }),
    ];
    expect(openingLines(all, FACTS, CHOICES).map((l) => l.name)).toEqual(['f']);
  });

  it('write their value beside those of other fields, and read it again', () => {
    const [line] = openingLines([field({ kind: 'yes/no' })], FACTS, CHOICES);
    const before = {
      fields: [
        { fieldId: 'x', value: 1 },
        { fieldId: 'f', value: true },
      ],
    };
    const written = line!.write!('no', before) as { fields: { fieldId: string; value: unknown }[] };
    expect(written.fields).toEqual([
      { fieldId: 'x', value: 1 },
      { fieldId: 'f', value: false },
    ]);
    expect([line!.read!(written), line!.read!({ fields: [] }), valuesById(written.fields as never)]).toEqual([
      'no',
      null,
      { x: 1, f: false },
    ]);
    expect((line!.write!('', before) as typeof written).fields[1]!.value).toBeNull();
  });

  it.each([
    ['choice', ['wear', 'tear']],
    ['person', ['p']],
    ['asset', ['a']],
    ['yes/no', ['yes', 'no']],
    ['text', []],
  ] as const)('of a %s offer %j', (kind, values) => {
    const [line] = openingLines([field({ kind, choices: kind === 'choice' ? ['wear', 'tear'] : [] })], FACTS, CHOICES);
    expect(line!.options!.map((o) => o.value)).toEqual(values);
  });
});

describe('own fields of a record, in its form', () => {
  const printers = { '===': [{ var: 'asset.make' }, 'Inkwell'] };
  const lines = recordLines(
    [field({ on: 'asset', shown: printers, asked: ['saving'] }), field({ id: 'g', name: 'Key', on: 'asset', asked: [] })],
    {
      on: 'asset',
      factsOf: ({ make }) => ({ make: make as string }),
      choices: CHOICES,
    },
  );

  it('say which must be filled whatever else is so', () => {
    expect(lines.map((l) => l.label)).toEqual(['Seat (must be filled)', 'Key']);
  });

  it('are there while their rule shows them, or they hold something', () => {
    const shown = (make: string, fields: object[]) => lines.filter((l) => l.when!({ make, fields })).map((l) => l.name);
    expect(shown('Inkwell', [])).toEqual(['f', 'g']);
    expect(shown('Other', [])).toEqual(['g']);
    expect(shown('Other', [{ fieldId: 'f', value: 'left' }])).toEqual(['f', 'g']);
  });

  it('start with what the record holds', () => {
    const held = { id: 'f', name: 'Seat', kind: 'text' as const, choices: [], value: 'left', words: 'left', required: true };
    expect(withFieldValues({ name: 'HV-1', fields: [held] })).toEqual({ name: 'HV-1', fields: [{ fieldId: 'f', value: 'left' }] });
  });
});

describe('what an own field holds', () => {
  it.each([
    ['date', '2026-11-24', false, '24 Nov 2026'],
    ['text', '2026-11-24', false, '2026-11-24'],
    ['text', null, true, 'must be filled'],
    ['text', null, false, 'not filled'],
  ] as const)('of a %s with %j, required %j, reads %s', (kind, words, required, read) =>
    expect(new OwnValuePipe().transform({ kind, words, required })).toBe(read),
  );
});
