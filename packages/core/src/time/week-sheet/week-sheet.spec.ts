import fc from 'fast-check';
import { intersect, secondsIn, subtract, unite, type Instant, type Interval } from '../../ground';
import { placeEntry, planCell, readGrid, settleCell, writeGrid, type CellEntry, type DayOfCell } from '.';

const entries = fc
  .array(fc.record({ startsAt: fc.integer({ min: 0, max: 86_000 }), minutes: fc.integer({ min: 1, max: 300 }), frozen: fc.boolean() }), {
    maxLength: 6,
  })
  .map((all) => all.map((e, n): CellEntry => ({ ...e, startsAt: e.startsAt as Instant, id: String(n) })));
const at = (hour: number) => (hour * 3600) as Instant;

describe('a cell of the week', () => {
  it('comes to the very minutes that were typed, touches nothing frozen, and names only what changes', () => {
    fc.assert(
      fc.property(entries, fc.integer({ min: 0, max: 1440 }), (all, wanted) => {
        const done = settleCell(all, wanted);
        const frozen = all.filter((e) => e.frozen).reduce((s, e) => s + e.minutes, 0);
        if (done.is === 'frozen') return void expect([done.least, wanted < frozen]).toEqual([frozen, true]);
        const { add, change, remove } = done.change;
        const after = all.filter((e) => !remove.includes(e.id)).map((e) => change.find((c) => c.id === e.id)?.minutes ?? e.minutes);
        expect(after.reduce((s, m) => s + m, 0) + add).toBe(wanted);
        for (const { id, minutes } of change) {
          expect(all.find((e) => e.id === id)!.frozen).toBe(false);
          expect(minutes).toBeGreaterThan(0);
          expect(minutes).not.toBe(all.find((e) => e.id === id)!.minutes);
        }
        for (const id of remove) expect(all.find((e) => e.id === id)!.frozen).toBe(false);
        expect(change.length).toBeLessThanOrEqual(1);
        if (wanted === all.reduce((s, e) => s + e.minutes, 0)) expect([add, change, remove]).toEqual([0, [], []]);
      }),
    );
  });

  it('puts time that has no time of day where there is room, and never after it can have been worked', () => {
    const day = { from: at(0), to: at(24) };
    const working: Interval[] = [
      { from: at(8), to: at(12) },
      { from: at(13), to: at(17) },
    ];
    expect(placeEntry({ working, recorded: [], day, minutes: 60, latest: at(24) })).toBe(at(8));
    expect(placeEntry({ working, recorded: [{ from: at(8), to: at(11.5) }], day, minutes: 60, latest: at(24) })).toBe(at(13));
    expect(placeEntry({ working, recorded: [{ from: at(8), to: at(17) }], day, minutes: 60, latest: at(24) })).toBe(at(17));
    expect(placeEntry({ working, recorded: [], day, minutes: 180, latest: at(10) })).toBe(at(7));
    const quarter = fc.tuple(fc.integer({ min: 0, max: 90 }), fc.integer({ min: 1, max: 20 }));
    const of = ([from, n]: [number, number]): Interval => ({
      from: (from * 900) as Instant,
      to: Math.min(86_400, (from + n) * 900) as Instant,
    });
    fc.assert(
      fc.property(
        fc.array(quarter, { maxLength: 4 }),
        fc.array(quarter, { maxLength: 4 }),
        fc.integer({ min: 1, max: 600 }),
        fc.integer({ min: 600, max: 1440 }),
        (w, r, minutes, now) => {
          const [work, recorded] = [w.map(of).sort((a, b) => a.from - b.from), r.map(of)];
          const from = placeEntry({ working: work, recorded, day, minutes, latest: (now * 60) as Instant });
          expect(from).toBeGreaterThanOrEqual(0);
          expect(from + minutes * 60).toBeLessThanOrEqual(now * 60);
          const room = work.some((g) => secondsIn(intersect([g], recorded)) === 0 && Math.min(g.to, now * 60) - g.from >= minutes * 60);
          if (room) expect(secondsIn(intersect([{ from, to: (from + minutes * 60) as Instant }], recorded))).toBe(0);
        },
      ),
    );
  });

  it('is planned so that time that is new or grows lies over nothing where there is room, and is never still to come', () => {
    const span = { from: at(0), to: at(24) };
    const entry = (id: string, from: number, minutes: number): CellEntry => ({ id, startsAt: at(from), minutes, frozen: false });
    const day = (taken: readonly CellEntry[], now = 24): DayOfCell => ({
      span,
      working: [{ from: at(8), to: at(17) }],
      taken: taken.map((e) => ({ id: e.id, from: e.startsAt, to: (e.startsAt + e.minutes * 60) as Instant })),
      now: at(now),
    });
    const startOf = ({
      all,
      own,
      wanted,
      now,
    }: {
      readonly all: CellEntry[];
      readonly own: CellEntry;
      readonly wanted: number;
      readonly now?: number;
    }) => {
      const plan = planCell([own], wanted, day(all, now));
      return plan.is === 'planned' ? (plan.change[0]?.startsAt ?? plan.add?.startsAt)! / 3600 : plan.is;
    };
    const [nine, ten] = [entry('a', 9, 30), entry('b', 10, 60)];
    expect(startOf({ all: [nine, ten], own: nine, wanted: 60 })).toBe(9);
    // Ten o'clock is taken, so it began earlier; there are two hours before it.
    expect(startOf({ all: [nine, ten], own: nine, wanted: 90 })).toBe(8.5);
    expect(startOf({ all: [nine, ten], own: nine, wanted: 120 })).toBe(8);
    // More than the gap between: out of working time, and where there is no gap at all it stays.
    expect(startOf({ all: [nine, ten], own: nine, wanted: 150 })).toBe(7.5);
    expect(startOf({ all: [entry('c', 0, 540), nine, ten], own: nine, wanted: 90 })).toBe(9);
    expect(startOf({ all: [nine], own: nine, wanted: 120, now: 10 })).toBe(8);
    expect(startOf({ all: [entry('c', 0, 540), nine], own: nine, wanted: 120, now: 10 })).toBe(8);
    expect(startOf({ all: [nine], own: nine, wanted: 660, now: 10 })).toBe('no room');
    expect(startOf({ all: [nine], own: nine, wanted: 15 })).toBe(9);
    const quarters = fc.array(fc.tuple(fc.integer({ min: 0, max: 80 }), fc.integer({ min: 1, max: 16 }), fc.boolean()), { maxLength: 5 });
    fc.assert(
      fc.property(
        quarters,
        fc.integer({ min: 0, max: 2 }),
        fc.integer({ min: 0, max: 900 }),
        fc.integer({ min: 40, max: 96 }),
        (all, own, wanted, now) => {
          const entries = all
            .map(([from, n, frozen], id): CellEntry => ({ id: String(id), startsAt: at(from / 4), minutes: n * 15, frozen }))
            .filter((e) => e.startsAt + e.minutes * 60 <= now * 900);
          const cell = entries.slice(0, own);
          const plan = planCell(cell, wanted, day(entries, now / 4));
          if (plan.is !== 'planned') return;
          const kept = cell.filter((e) => !plan.remove.includes(e.id)).map((e) => plan.change.find((c) => c.id === e.id) ?? e);
          const after = [...kept, ...(plan.add ? [plan.add] : [])];
          expect(after.reduce((s, e) => s + e.minutes, 0)).toBe(wanted);
          for (const e of [...plan.change, ...(plan.add ? [plan.add] : [])]) {
            expect(e.startsAt).toBeGreaterThanOrEqual(0);
            expect(e.startsAt + e.minutes * 60).toBeLessThanOrEqual(now * 900);
          }
          // What grows lies over no more than it did, where the gap around it has room.
          for (const e of plan.change) {
            const was = cell.find((c) => c.id === e.id)!;
            const others = entries
              .filter((o) => o.id !== e.id)
              .map((o) => ({ from: o.startsAt, to: (o.startsAt + o.minutes * 60) as Instant }));
            const over = (from: number, minutes: number) =>
              secondsIn(intersect([{ from: from as Instant, to: (from + minutes * 60) as Instant }], unite(others)));
            const gap = subtract([{ from: at(0), to: (now * 900) as Instant }], unite(others)).find(
              (g) => g.from <= was.startsAt && g.to >= was.startsAt + was.minutes * 60,
            );
            if (gap && gap.to - gap.from >= e.minutes * 60) expect(over(e.startsAt, e.minutes)).toBe(0);
            if (e.minutes <= was.minutes) expect(e.startsAt).toBe(was.startsAt);
          }
        },
      ),
    );
  });

  it('goes to a spreadsheet and comes back the same, and says which cell it cannot read', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.integer({ min: 0, max: 1440 }), { minLength: 2, maxLength: 5 }), { minLength: 1, maxLength: 5 }),
        (rows) => {
          const back = readGrid(writeGrid(rows));
          expect(back.wrong).toEqual([]);
          expect(back.rows).toEqual(rows.map((r) => r.map((m) => m || undefined)));
        },
      ),
    );
    expect(readGrid('1:30\t1,5\r\n\t90m\r\n')).toEqual({
      rows: [
        [90, 90],
        [undefined, 90],
      ],
      wrong: [],
    });
    expect(readGrid('1:30\tsoon\n25:61\t8').wrong).toEqual([
      { row: 0, column: 1, text: 'soon' },
      { row: 1, column: 0, text: '25:61' },
    ]);
  });
});
