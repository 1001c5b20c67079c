import fc from 'fast-check';
import type { Schema } from 'yup';
import {
  anyId,
  date,
  decimal,
  degrees,
  distanceTyped,
  durationTyped,
  email,
  id,
  instant,
  isDateText,
  isInstantText,
  listOf,
  oneOf,
  optionalDate,
  optionalDay,
  optionalDecimal,
  optionalId,
  optionalInstant,
  optionalOneOf,
  optionalPositiveDecimal,
  optionalText,
  positiveDecimal,
  record,
  text,
  whole,
} from './fields';

const takes = (schema: Schema, value: unknown) => schema.isValidSync(value);
const says = (schema: Schema, value: unknown): string => {
  try {
    schema.validateSync(value);
    return '';
  } catch (fault) {
    return (fault as Error).message;
  }
};
const ID = '00000000-0000-4000-8000-000000000001';

describe('dates and instants that are given', () => {
  it('are those the calendar has, in the years of this business', () => {
    const days = fc.date({ min: new Date('1900-01-01T00:00:00Z'), max: new Date('2199-12-31T23:59:59Z'), noInvalidDate: true });
    fc.assert(
      fc.property(days, (day) => {
        const at = `${day.toISOString().slice(0, 19)}Z`;
        expect([isDateText(at.slice(0, 10)), isInstantText(at), takes(date(), at.slice(0, 10)), takes(instant(), at)]).toEqual([
          true,
          true,
          true,
          true,
        ]);
      }),
    );
    for (const wrong of ['1899-12-31', '2200-01-01', '2026-02-29', '2026-13-01', '2026-04-31', '2026-1-1', '24.11.2026', ''])
      expect([wrong, isDateText(wrong), takes(optionalDate(), wrong)]).toEqual([wrong, false, false]);
    expect(['1900-01-01', '2199-12-31', '2024-02-29'].map((d) => isDateText(d))).toEqual([true, true, true]);
  });

  it('are to the second and in UTC, and no hour that a day does not have', () => {
    for (const wrong of [
      '2026-11-24T10:40Z',
      '2026-11-24T10:40:00',
      '2026-11-24T10:40:00+01:00',
      '2026-11-24T24:01:00Z',
      '2026-11-24T10:60:00Z',
      '2026-02-30T10:00:00Z',
    ])
      expect([wrong, isInstantText(wrong)]).toEqual([wrong, false]);
    expect(says(instant(), '2026-11-24')).toBe('a time in UTC such as 2026-11-24T10:40:00Z');
    expect(says(date(), 'tomorrow')).toBe('a date of the calendar, such as 2026-11-24');
  });

  it('may be nothing only where that is said', () => {
    expect([date(), instant(), id(), text()].map((s) => takes(s, null))).toEqual([false, false, false, false]);
    expect([optionalDate(), optionalInstant(), optionalId(), optionalText(), optionalDecimal()].map((s) => takes(s, null))).toEqual([
      true,
      true,
      true,
      true,
      true,
    ]);
    expect([date(), instant(), optionalDate(), optionalInstant(), optionalId()].map((s) => takes(s, undefined))).toEqual([
      false,
      false,
      false,
      false,
      false,
    ]);
    expect([takes(optionalDay(), undefined), takes(optionalDay(), '2026-02-29')]).toEqual([true, false]);
  });
});

describe('texts and numbers that are given', () => {
  it('have a largest size, and the one below it is taken', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), (most) => {
        const of = (n: number) => 'x'.repeat(n);
        expect([takes(text(most), of(most)), says(text(most), of(most + 1))]).toEqual([true, `at most ${most} characters`]);
        expect([takes(optionalText(most), of(most)), takes(optionalText(most), of(most + 1))]).toEqual([true, false]);
        expect([takes(listOf(text(), most), Array(most).fill('a')), says(listOf(text(), most), Array(most + 1).fill('a'))]).toEqual([
          true,
          `at most ${most}`,
        ]);
      }),
    );
    expect([says(text(), '   '), text().cast('  a  ')]).toEqual(['write something', 'a']);
  });

  it('keep to their bounds, each end being inside', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1000, max: 1000 }), fc.nat(1000), (least, span) => {
        const field = whole(least, least + span);
        expect([least - 1, least, least + span, least + span + 1].map((n) => takes(field, n))).toEqual([false, true, true, false]);
      }),
    );
    expect([says(whole(0, 9), 1.5), says(whole(0, 9), -1), says(whole(0, 9), 10)]).toEqual(['a whole number', 'at least 0', 'at most 9']);
    expect([90, -90, 90.01, -90.01].map((n) => takes(degrees(90), n))).toEqual([true, true, false, false]);
    expect([180, 180.01, null].map((n) => takes(degrees(180), n))).toEqual([true, false, true]);
  });

  it('are decimals of ten digits and four places, above zero where that is asked', () => {
    for (const [typed, any, positive] of [
      ['0', true, false],
      ['0.0001', true, true],
      ['-1', true, false],
      ['9999999999.9999', true, true],
      ['99999999999', false, false],
      ['00000000001.5', true, true],
      ['1.00001', false, false],
      ['1,5', false, false],
      ['', false, false],
      ['NaN', false, false],
    ] as const) {
      const fields = [decimal(), optionalDecimal(), positiveDecimal(), optionalPositiveDecimal()];
      expect([typed, ...fields.map((f) => takes(f, typed))]).toEqual([typed, any, any, positive, positive]);
    }
    expect([says(positiveDecimal(), '0'), takes(optionalPositiveDecimal(), null)]).toEqual(['above zero', true]);
  });

  it('are durations up to a day and ways up to 9999 with one place', () => {
    expect(['1', '24:00', '1 h 40', '24h'].map((t) => takes(durationTyped(), t))).toEqual([true, true, true, true]);
    expect(['0', '24:01', 'soon', '', '-5'].map((t) => takes(durationTyped(), t))).toEqual([false, false, false, false, false]);
    expect(['1', '9999', '42.5', '', null].map((t) => takes(distanceTyped(), t))).toEqual([true, true, true, true, true]);
    expect(['0', '0.0', '10000', '4.25', '12.', '-3'].map((t) => takes(distanceTyped(), t))).toEqual(Array(6).fill(false));
  });

  it('are one of the words that there are, and the error names them', () => {
    expect([says(oneOf(['a', 'b']), 'c'), takes(oneOf(['a', 'b']), 'a'), takes(oneOf(['a', 'b']), null)]).toEqual([
      'choose one of a, b',
      true,
      false,
    ]);
    expect([takes(optionalOneOf(['a']), null), takes(optionalOneOf(['a']), 'a'), takes(optionalOneOf(['a']), 'b')]).toEqual([
      true,
      true,
      false,
    ]);
  });

  it('are ids in small letters, and addresses of mail in any', () => {
    fc.assert(fc.property(fc.uuid(), (given) => expect(takes(anyId(), given)).toBe(true)));
    for (const wrong of [ID.toUpperCase().replace('0001', 'ABCD'), `${ID}0`, ID.slice(1), ` ${ID}`, 'new'])
      expect([wrong, says(id(), wrong)]).toEqual([wrong, 'choose one of the list']);
    expect(email().cast(' Desk@Pellworth.Example ')).toBe('desk@pellworth.example');
    expect([says(email(), 'desk'), says(email(), `${'a'.repeat(250)}@b.example`)]).toEqual([
      'write an address such as desk@quillfeather.example',
      'at most 254 characters',
    ]);
  });

  it('hold nothing that was not asked for', () => {
    expect(() => record({ name: text() }).validateSync({ name: 'a', more: 1 }, { strict: true })).toThrow(/more/);
  });
});
