import fc from 'fast-check';
import type { Id, LocalDate } from '../../ground';
import { isNothing, pasteSeats, planChange, seatState, type SeatOfLine, unitsAfter } from '.';

const day = (text: string) => text as LocalDate;
const today = day('2026-11-24');

describe('how somebody stands to the lines', () => {
  it('is what is odd first: left and billed, billed for nothing, on none', () => {
    const of = (isOn: boolean, hasLeft: boolean, wasSeen: boolean) => seatState({ isOn, hasLeft, wasSeen });
    expect([of(true, true, true), of(true, true, false)]).toEqual(['left, still billed', 'left, still billed']);
    expect([of(true, false, false), of(true, false, true)]).toEqual(['billed for nothing', 'billed']);
    expect([of(false, false, true), of(false, false, false)]).toEqual(['on no line', 'on no line']);
    expect(of(false, true, true)).toBeUndefined();
  });
});

describe('rows of a spreadsheet', () => {
  const units = [
    { id: 'a', name: 'Ada Quill', also: 'ada@pilots.example' },
    { id: 'b', name: 'Bo Yard', also: 'bo@pilots.example' },
    { id: 'c', name: 'Bo Yard', also: 'bo2@pilots.example' },
  ];
  const lines = [
    { id: 'w', name: 'Workplace' },
    { id: 'p', name: 'Phone' },
  ];
  const paste = (text: string, which = lines) => pasteSeats(text, { units, lines: which, today });

  it('say who, on which line, from when and until when', () => {
    expect(paste('ada quill\tPhone\t1.12.2026\t24 Dec 2026\n\nbo2@pilots.example;workplace').seats).toEqual([
      { row: 1, unitId: 'a', lineId: 'p', startsOn: '2026-12-01', lastDay: '2026-12-24' },
      { row: 3, unitId: 'c', lineId: 'w', startsOn: today, lastDay: null },
    ]);
    expect(paste('Ada Quill\t1.12.2026', [lines[0]!]).seats).toMatchObject([{ lineId: 'w', startsOn: '2026-12-01' }]);
  });

  it('are named with the reason where they are not understood, and the others are read', () => {
    const { seats, wrong } = paste(
      'Bo Yard\tPhone\nNobody\tPhone\nAda Quill\tFax\nAda Quill\tPhone\tsoon\nAda Quill\tPhone\t2.12.2026\t1.12.2026\nAda Quill\tPhone',
    );
    expect(seats).toHaveLength(1);
    expect(wrong.map((w) => [w.row, w.why])).toEqual([
      [1, 'several are called Bo Yard'],
      [2, 'nobody here is called Nobody'],
      [3, 'name the line: Workplace, Phone'],
      [4, 'soon is no day'],
      [5, 'the last day 2026-12-01 is before the first 2026-12-02'],
    ]);
  });

  it('lose nothing: every row that says anything is understood or named, up to a most', () => {
    const cell = fc.oneof(
      fc.constantFrom('Ada Quill', 'Phone', 'Workplace', '1.12.2026', '', 'x'),
      fc.string({ maxLength: 5 }).filter((t) => !/[\r\n\t]/.test(t)),
    );
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 5 }), { maxLength: 12 }), (rows) => {
        const text = rows.map((r) => r.join('\t')).join('\n');
        const { seats, wrong } = paste(text);
        const said = text.split('\n').flatMap((r, n) => (r.trim() ? [n + 1] : []));
        expect([...seats, ...wrong].map((r) => r.row).sort((a, b) => a - b)).toEqual(said);
      }),
    );
    const many = paste(Array.from({ length: 2500 }, () => 'Ada Quill\tPhone').join('\n'));
    expect(many.seats).toHaveLength(2000);
    expect(many.wrong).toMatchObject([{ row: 2001 }]);
  });
});

describe('who is on a line after a change', () => {
  it('are those who stay, with their new ends, and those who are put on it', () => {
    const seat = (seatId: string, lineId: string): SeatOfLine => ({
      seatId,
      lineId,
      of: seatId,
      name: seatId,
      from: day('2026-09-01'),
      to: null,
    });
    const put = { lineId: 'w', of: 'n', name: 'New', from: today, to: null };
    const after = unitsAfter('w', [seat('a', 'w'), seat('b', 'w'), seat('c', 'w'), seat('d', 'p')], {
      put: [put, { ...put, lineId: 'p' }],
      end: new Map([['b', today]]),
      takeOff: new Set(['c']),
    });
    expect(after.map((u) => [u.of, u.to])).toEqual([
      ['a', null],
      ['b', today],
      ['n', null],
    ]);
  });
});

describe('what is meant for those who are chosen', () => {
  const [w, p] = ['w' as Id<'contract_line'>, 'p' as Id<'contract_line'>];
  const seat = (seatId: string, lineId: Id<'contract_line'>, startsOn: string, lastDay: string | null = null) => ({
    seatId: seatId as Id<'contract_seat'>,
    lineId,
    startsOn,
    lastDay,
  });
  const rows = [
    { unitId: 'ada', seats: [seat('1', w, '2026-09-01'), seat('2', p, '2026-12-15')] },
    { unitId: 'bo', seats: [seat('3', w, '2026-09-01', '2026-11-10')] },
    { unitId: 'cy', seats: [] },
  ];

  it('puts on a line who is not on it from that day on', () => {
    const { put } = planChange(rows, { act: 'put on', lineId: w, day: today });
    expect(put.map((u) => [u.unitId, u.startsOn])).toEqual([
      ['bo', today],
      ['cy', today],
    ]);
    expect(isNothing(planChange(rows, { act: 'put on', lineId: null, day: today }))).toBe(true);
    expect(isNothing(planChange(rows.slice(0, 1), { act: 'put on', lineId: w, day: today }))).toBe(true);
  });

  it('ends what goes on past the day, and takes off what would begin after it', () => {
    expect(planChange(rows, { act: 'last day', lineId: null, day: today })).toEqual({
      put: [],
      end: [{ seatId: '1', lastDay: today }],
      takeOff: ['2'],
    });
    expect(planChange(rows, { act: 'last day', lineId: p, day: today })).toMatchObject({ end: [], takeOff: ['2'] });
    expect(planChange(rows, { act: 'last day', lineId: w, day: day('2026-11-10') }).end.map((e) => e.seatId)).toEqual(['1']);
  });

  it('takes off all of a line, or of all', () => {
    expect(planChange(rows, { act: 'take off', lineId: w, day: today }).takeOff).toEqual(['1', '3']);
    expect(planChange(rows, { act: 'take off', lineId: null, day: today }).takeOff).toEqual(['1', '2', '3']);
  });
});
