import fc from 'fast-check';
import { type LocalDate, plusDays } from '../../ground';
import { MOST_READINGS, pasteReadings } from '.';

const TODAY = '2026-11-24' as LocalDate;
const paste = (text: string) => pasteReadings(text, TODAY);

describe('readings of a file', () => {
  it('are a day, how much and what names it; headings and empty rows are passed over', () => {
    const { readings, wrong } = paste('Day;Used;Ref\n3.11.2026;60;a-1\n\n"2026-11-04";"75,5"\n2026-11-05\t-60\tback\n2026-11-06,12.25,x');
    expect(readings).toEqual([
      { on: '2026-11-03', quantity: '60', key: 'a-1' },
      { on: '2026-11-04', quantity: '75.5', key: null },
      { on: '2026-11-05', quantity: '-60', key: 'back' },
      { on: '2026-11-06', quantity: '12.25', key: 'x' },
    ]);
    expect(wrong).toEqual([]);
  });

  it('are named where they are not understood, with the row', () => {
    const { readings, wrong } = paste(`soon;4\n3.11.2026;\n3.11.2026;0\n3.11.2026;1;${'k'.repeat(81)}\n3.11.2026;1;a;b\n3.11.2026;1`);
    expect(readings).toHaveLength(1);
    expect(wrong.map((w) => [w.row, w.why])).toEqual([
      [1, 'soon is no day'],
      [2, 'nothing is no number with up to 4 places'],
      [3, '0 is no number with up to 4 places'],
      [4, 'what names it has 81 characters, at most 80'],
      [5, 'it has more than three cells: the day, how much, and what names it'],
    ]);
  });

  it('beyond those of one command are said, not cut off silently', () => {
    const { readings, wrong } = paste('3.11.2026;1\n'.repeat(MOST_READINGS.atOnce + 5));
    expect([readings.length, wrong.map((w) => w.row)]).toEqual([MOST_READINGS.atOnce, [MOST_READINGS.atOnce + 1]]);
  });

  it('come back as they were written, whatever parts them', () => {
    const reading = fc.record({
      on: fc.nat(3000).map((n) => plusDays(TODAY, -n)),
      quantity: fc.integer({ min: 1, max: 999_999 }).map((n) => String(n / 100)),
      key: fc.option(fc.stringMatching(/^[a-z][a-z0-9-]{0,20}$/)),
    });
    fc.assert(
      fc.property(
        fc.array(reading, { maxLength: 20 }),
        fc.constantFrom('\t', ';', ','),
        fc.constantFrom('\n', '\r\n'),
        (all, parted, end) => {
          const text = all.map((r) => [r.on, r.quantity, ...(r.key === null ? [] : [r.key])].join(parted)).join(end);
          expect(paste(text)).toEqual({ readings: all, wrong: [] });
        },
      ),
    );
  });
});
