import { isSame, KeptCells, keyOfCell, withCell, withoutCells, withSaid, type KeptCell } from './kept-cells';

const cell = (day: string, typed: string, more: Partial<KeptCell> = {}): KeptCell => ({
  workId: 't',
  activityId: 'a',
  day,
  typed,
  was: 0,
  note: undefined,
  is: 'waiting',
  says: '',
  ...more,
});

describe('cells that are not stored yet', () => {
  it('are one for each place: what is typed later takes the place of what was', () => {
    const cells = withCell(withCell([cell('2026-11-23', '1:00')], cell('2026-11-24', '2:00')), cell('2026-11-23', '3:00'));
    expect(cells.map((c) => [c.day, c.typed])).toEqual([
      ['2026-11-24', '2:00'],
      ['2026-11-23', '3:00'],
    ]);
    expect(withoutCells(cells, [cell('2026-11-23', '')]).map(keyOfCell)).toEqual(['t a 2026-11-24']);
  });

  it('keep what was said of them until it is stored, whatever is said after it', () => {
    const [before] = [cell('2026-11-23', '1:00', { note: 'Cables', billable: false, reason: 'goodwill' })];
    const later = cell('2026-11-23', '2:00', { insideNote: 'hard to reach' });
    expect(withSaid(later, [before])).toMatchObject({
      typed: '2:00',
      note: 'Cables',
      insideNote: 'hard to reach',
      billable: false,
      reason: 'goodwill',
    });
    expect(withSaid(later, [{ ...before, is: 'stored' }])).toEqual(later);
    expect(withSaid({ ...later, note: null }, [before]).note).toBeNull();
    expect([
      isSame(before, cell('2026-11-23', '1:00', { note: 'Cables', billable: false, reason: 'goodwill', is: 'stored' })),
      isSame(before, withSaid(later, [before])),
      isSame(later, cell('2026-11-24', '2:00')),
    ]).toEqual([true, false, false]);
  });

  it('show until the week is read again once they are stored, and are not kept over a closed window then', () => {
    const sora = new KeptCells('sora');
    sora.write('2026-11-23', { cells: [cell('2026-11-24', '0:20', { is: 'stored' }), cell('2026-11-25', '0:30')], rows: [] });
    expect(sora.read('2026-11-23').cells.map((c) => c.day)).toEqual(['2026-11-25']);
    sora.write('2026-11-23', { cells: [], rows: [] });
  });

  it('are kept by person and week, and leave nothing behind once they are stored', () => {
    const [sora, deepa] = [new KeptCells('sora'), new KeptCells('deepa')];
    const kept = { cells: [cell('2026-11-24', '0:20')], rows: [] };
    sora.write('2026-11-23', kept);
    expect(new KeptCells('sora').read('2026-11-23')).toEqual({ cells: [{ ...kept.cells[0], note: undefined }], rows: [] });
    expect(sora.read('2026-11-30')).toEqual({ cells: [], rows: [] });
    expect(deepa.read('2026-11-23').cells).toEqual([]);
    sora.write('2026-11-23', { cells: [], rows: [] });
    expect(Object.keys(localStorage).filter((k) => k.startsWith('drumline.week'))).toEqual([]);
  });
});
