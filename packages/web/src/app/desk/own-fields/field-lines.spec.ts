import type { OwnField } from '@core/desk';
import { fieldLines, valuesById } from './field-lines';

const field = (part: Partial<OwnField>): OwnField => ({
  id: 'f',
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
    expect(fieldLines(all, FACTS, [], CHOICES).map((l) => l.name)).toEqual(['f']);
  });

  it('write their value beside those of other fields, and read it again', () => {
    const [line] = fieldLines(
      [field({ kind: 'yes/no' })],
      FACTS,
      [
        { fieldId: 'x', value: 1 },
        { fieldId: 'f', value: true },
      ],
      CHOICES,
    );
    const written = line!.write!('no') as { fields: { fieldId: string; value: unknown }[] };
    expect(written.fields).toEqual([
      { fieldId: 'x', value: 1 },
      { fieldId: 'f', value: false },
    ]);
    expect([line!.read!(written), line!.read!({ fields: [] }), valuesById(written.fields as never)]).toEqual([
      'no',
      null,
      { x: 1, f: false },
    ]);
    expect((line!.write!('') as typeof written).fields[1]!.value).toBeNull();
  });

  it.each([
    ['choice', ['wear', 'tear']],
    ['person', ['p']],
    ['asset', ['a']],
    ['yes/no', ['yes', 'no']],
    ['text', []],
  ] as const)('of a %s offer %j', (kind, values) => {
    const [line] = fieldLines([field({ kind, choices: kind === 'choice' ? ['wear', 'tear'] : [] })], FACTS, [], CHOICES);
    expect(line!.options!.map((o) => o.value)).toEqual(values);
  });
});
