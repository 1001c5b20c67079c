import type { LocalDate } from '../../ground';
import { drawDown, levelsReached } from '.';

describe('levels of use', () => {
  it('are told lowest first, each once', () => {
    expect(levelsReached(79, [100, 80], [])).toEqual([]);
    expect(levelsReached(80, [100, 80], [])).toEqual([80]);
    expect(levelsReached(130, [100, 80], [])).toEqual([80, 100]);
    expect(levelsReached(130, [100, 80], [80])).toEqual([100]);
  });
});

const day = (text: string) => text as LocalDate;
const NOVEMBER = { from: day('2026-11-01'), to: day('2026-12-01'), granted: 720 };
const at = (on: string, units: number) => ({ on: day(on), units });

describe('what was granted', () => {
  it('is drawn down day by day, and runs out at the present pace', () => {
    const draws = [at('2026-11-10', 100), at('2026-11-03', 200), at('2026-11-10', 60)];
    expect(drawDown(NOVEMBER, { draws, recent: 840, today: day('2026-11-12') })).toEqual({
      points: [
        { on: '2026-11-01', left: 720 },
        { on: '2026-11-03', left: 520 },
        { on: '2026-11-10', left: 360 },
      ],
      used: 360,
      usedPercent: 50,
      runsOut: '2026-11-24',
    });
  });
  it('lasts where the pace is slow enough, and where nothing is drawn', () => {
    expect(drawDown(NOVEMBER, { draws: [at('2026-11-01', 60)], recent: 60, today: day('2026-11-24') })).toMatchObject({
      runsOut: null,
      points: [{ on: '2026-11-01', left: 660 }],
    });
    expect(drawDown(NOVEMBER, { draws: [], recent: 0, today: day('2026-11-24') })).toMatchObject({
      runsOut: null,
      used: 0,
      usedPercent: 0,
    });
    // One day more would be the next period's.
    expect(drawDown(NOVEMBER, { draws: [at('2026-11-02', 360)], recent: 720, today: day('2026-11-16') }).runsOut).toBe('2026-11-30');
    expect(drawDown(NOVEMBER, { draws: [at('2026-11-02', 360)], recent: 720, today: day('2026-11-17') }).runsOut).toBeNull();
  });
  it('is empty on the day of the last draw', () => {
    expect(
      drawDown(NOVEMBER, { draws: [at('2026-11-05', 719), at('2026-11-09', 1)], recent: 720, today: day('2026-11-24') }),
    ).toMatchObject({
      runsOut: '2026-11-09',
      usedPercent: 100,
    });
    expect(drawDown({ ...NOVEMBER, granted: 0 }, { draws: [], recent: 0, today: day('2026-11-24') })).toMatchObject({
      usedPercent: 0,
      runsOut: null,
    });
  });
  it('rises where more was granted since, and is used of all of it', () => {
    const draws = [at('2026-11-03', 600), at('2026-11-20', 100)];
    const found = drawDown(NOVEMBER, { draws, added: [at('2026-11-10', 280)], recent: 100, today: day('2026-11-24') });
    expect(found).toEqual({
      points: [
        { on: '2026-11-01', left: 720 },
        { on: '2026-11-03', left: 120 },
        { on: '2026-11-10', left: 400 },
        { on: '2026-11-20', left: 300 },
      ],
      used: 700,
      usedPercent: 70,
      runsOut: null,
    });
  });
});
