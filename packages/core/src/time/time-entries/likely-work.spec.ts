import fc from 'fast-check';
import type { Instant } from '../../ground';
import { likelyWork } from '.';

const at = (minute: number) => (1_800_000_000 + minute * 60) as Instant;
const of = (work: string, from: number, to: number) => ({ work, from: at(from), to: at(to) });
const gap = { from: at(100), to: at(160) };

describe('what a gap was likely spent on', () => {
  it('is what was booked then, by most of it, before what was worked on around it', () => {
    const around = [of('before', 60, 100), of('after', 160, 200)];
    expect(likelyWork(gap, [of('a', 90, 110), of('b', 120, 160)], around)).toEqual({ work: 'b', because: 'booked then' });
    expect(likelyWork(gap, [of('a', 10, 100)], around)).toEqual({ work: 'before', because: 'worked on before' });
    expect(likelyWork(gap, [], [of('long ago', 0, 39), around[1]!])).toEqual({ work: 'after', because: 'worked on after' });
    expect(likelyWork(gap, [], [of('long ago', 0, 39), of('later', 221, 300)])).toBeUndefined();
  });

  it('touches the gap where it was booked, and is within an hour of it where it was worked on', () => {
    const some = fc.array(
      fc.tuple(fc.nat(300), fc.integer({ min: 1, max: 60 })).map(([from, length]) => of(`${from}`, from, from + length)),
    );
    fc.assert(
      fc.property(some, some, (booked, recorded) => {
        const found = likelyWork(gap, booked, recorded);
        const from = (found?.because === 'booked then' ? booked : recorded).filter((x) => x.work === found?.work);
        if (!found) expect(booked.some((b) => b.from < gap.to && b.to > gap.from)).toBe(false);
        else if (found.because === 'booked then') expect(from.some((b) => b.from < gap.to && b.to > gap.from)).toBe(true);
        else expect(from.some((e) => gap.from - e.to <= 3600 && e.from - gap.to <= 3600)).toBe(true);
      }),
    );
  });
});
