import type { WeekSheetWire } from '@core/time';
import { makeGrid, type RowOfWeek } from './grid';
import type { KeptCell } from './kept-cells';

const DAYS = ['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27', '2026-11-28', '2026-11-29'];
const sheet: WeekSheetWire = {
  days: DAYS.map((day, n) => ({ day, expectedMinutes: n < 5 ? 480 : 0, closed: n === 0, holiday: null })),
  rows: [],
};
const cell = (day: string, minutes: number, more: object = {}) => ({
  day,
  minutes,
  frozenMinutes: 0,
  approvedMinutes: 0,
  returned: null,
  note: null,
  insideNote: null,
  distance: null,
  distanceUnit: null,
  billable: true,
  reason: null,
  entries: 1,
  ...more,
});
const row = (id: string, cells: ReturnType<typeof cell>[], more: object = {}): RowOfWeek => ({
  workId: id,
  workKind: 'ticket',
  number: 7,
  subject: 'Printer',
  client: 'Hollin',
  activityId: 'remote',
  activity: 'remote',
  cells,
  ...more,
});
const typed = (workId: string, day: string, text: string): KeptCell => ({
  workId,
  activityId: 'remote',
  day,
  typed: text,
  was: 0,
  note: undefined,
  is: 'waiting',
  says: '',
});
const grid = (rows: RowOfWeek[], kept: KeptCell[] = [], seven = false) => makeGrid({ sheet, rows, kept, today: '2026-11-24', seven });

describe('the week as it is drawn', () => {
  it('adds up by day and week, with what is expected and missing on days that have come', () => {
    const g = grid([row('a', [cell('2026-11-23', 90), cell('2026-11-24', 30)]), row('b', [cell('2026-11-23', 390)])]);
    expect(g.days.map((d) => d.minutes)).toEqual([480, 30, 0, 0, 0]);
    expect(g.days.map((d) => d.missing)).toEqual([0, 450, 0, 0, 0]);
    expect([g.minutes, g.expected]).toEqual([510, 2400]);
    expect(g.rows.map((r) => r.minutes)).toEqual([120, 390]);
  });

  it('shows what was typed in place of what is stored, and counts it', () => {
    const g = grid([row('a', [cell('2026-11-24', 30)])], [typed('a', '2026-11-24', '1:15')]);
    expect(g.rows[0]!.cells[1]).toMatchObject({ text: '1:15', minutes: 75 });
    expect(g.minutes).toBe(75);
    expect(grid([row('a', [])], [typed('a', '2026-11-24', 'soon')]).rows[0]!.cells[1]).toMatchObject({ text: 'soon', minutes: 0 });
  });

  it('takes nothing on closed days and days to come, and shows what is approved', () => {
    const g = grid([row('a', [cell('2026-11-23', 60, { approvedMinutes: 60 }), cell('2026-11-24', 60, { approvedMinutes: 30 })])]);
    expect(g.rows[0]!.cells.map((c) => c.readOnly)).toEqual([true, false, true, true, true]);
    expect(g.rows[0]!.cells.map((c) => c.approved)).toEqual([true, false, false, false, false]);
    expect(g.days.map((d) => d.approved)).toEqual([60, 30, 0, 0, 0]);
  });

  it('has five days, and the weekend where something is in it or somebody asks for it', () => {
    expect(grid([row('a', [])]).days).toHaveLength(5);
    expect(grid([row('a', [])], [], true).days).toHaveLength(7);
    const g = grid([row('a', [cell('2026-11-28', 20)])]);
    expect(g.days).toHaveLength(7);
    expect(g.rows[0]!.cells).toHaveLength(7);
  });

  it('names a cell by its ticket or internal work, how, and day', () => {
    expect(grid([row('a', [])]).rows[0]!.cells[0]!.label).toBe('#7, remote, Mon 23');
    const internal = row('i', [], { workId: 'i', workKind: 'internal work', number: null, subject: 'Training' });
    expect(grid([internal]).rows[0]!.cells[1]!.label).toBe('Training, remote, Tue 24');
  });
});
