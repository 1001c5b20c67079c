import fc from 'fast-check';
import { isRefusal } from '../../ground';
import { FIELD_KINDS, FIELD_MOMENTS, isRequired, isShown, missingFields, readFieldValue, type FieldKind, type OwnField } from '.';

const field = (part: Partial<OwnField>): OwnField => ({
  id: 'f',
  on: 'ticket',
  name: 'Start day',
  kind: 'text',
  choices: [],
  shown: true,
  required: true,
  asked: ['opening'],
  ...part,
});
const facts = (kind: string, values: Record<string, string | number | boolean | null> = {}) => ({ ticket: { kind }, field: values });

describe('values of own fields', () => {
  it.each<[FieldKind, unknown, unknown]>([
    ['text', '  two words ', 'two words'],
    ['text', '   ', null],
    ['number', '2.5', 2.5],
    ['number', 0, 0],
    ['choice', 'blue', 'blue'],
    ['date', '2026-11-24', '2026-11-24'],
    ['yes/no', false, false],
    ['person', '00000000-0000-4000-8000-000000000001', '00000000-0000-4000-8000-000000000001'],
    ['date', '', null],
    ['yes/no', null, null],
  ])('of a %s are read from %j', (kind, given, read) => {
    expect(readFieldValue(field({ kind, choices: ['blue', 'red'] }), given)).toBe(read);
  });

  it.each<[FieldKind, unknown, string]>([
    ['number', 'three', 'a number such as 12'],
    ['number', true, 'a number such as 12'],
    ['choice', 'green', 'one of blue, red'],
    ['date', '2026-13-01', 'a date such as'],
    ['date', '24.11.2026', 'a date such as'],
    ['yes/no', 'perhaps', 'yes or no'],
    ['person', 'Deepa', 'one of the people'],
    ['asset', '12', "one of the client's assets"],
    ['text', 'x'.repeat(1001), 'up to 1000 characters'],
  ])('of a %s refuse %j and say what is allowed', (kind, given, allowed) => {
    const read = readFieldValue(field({ kind, choices: ['blue', 'red'] }), given);
    expect(
      isRefusal(read) && [read.detail.startsWith('Start day: '), read.detail.includes(allowed), read.fields?.['f']?.includes(allowed)],
    ).toEqual([true, true, true]);
  });

  it('are stable: reading what was read changes nothing', () => {
    fc.assert(
      fc.property(fc.constantFrom(...FIELD_KINDS), fc.anything(), (kind, given) => {
        const own = field({ kind, choices: ['blue', 'red'] });
        const read = readFieldValue(own, given);
        if (!isRefusal(read)) expect(readFieldValue(own, read)).toBe(read);
      }),
    );
  });
});

describe('what must be filled', () => {
  const forRequests = { '===': [{ var: 'ticket.kind' }, 'service request'] };

  it('is what is shown, required, asked for now, and empty; "no" fills', () => {
    const own = field({ kind: 'yes/no', shown: forRequests });
    expect(missingFields([own], facts('incident'), 'opening')).toEqual([]);
    expect(missingFields([own], facts('service request'), 'opening')).toEqual([own]);
    expect(missingFields([own], facts('service request'), 'resolving')).toEqual([]);
    expect(missingFields([own], facts('service request', { f: false }), 'opening')).toEqual([]);
  });

  it('is never asked of a field that is not shown, whatever its rules', () => {
    fc.assert(
      fc.property(
        fc.boolean(),
        fc.boolean(),
        fc.subarray([...FIELD_MOMENTS]),
        fc.constantFrom(...FIELD_MOMENTS),
        (shown, required, asked, moment) => {
          const own = field({ shown, required, asked });
          const missing = missingFields([own], facts('incident'), moment).length === 1;
          expect(missing).toBe(shown && required && asked.includes(moment));
          expect(isRequired(own, facts('incident'))).toBe(shown && required && asked.length > 0);
          expect(isShown(own, facts('incident'))).toBe(shown);
        },
      ),
    );
  });
});
