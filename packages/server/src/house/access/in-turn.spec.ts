import { inTurn, TooManyWait } from './in-turn';

describe('work in turn', () => {
  it('lets only so many run at once, serves the rest in order, and turns away who finds the room full', async () => {
    const turns = inTurn({ atOnce: 2, mostWaiting: 3 });
    let now = 0;
    let most = 0;
    const ended: number[] = [];
    const one = (n: number) =>
      turns(async () => {
        most = Math.max(most, ++now);
        await new Promise((done) => setTimeout(done, 5));
        now--;
        ended.push(n);
        if (n === 1) throw new Error('one that fails makes room too');
      });
    const all = await Promise.allSettled([0, 1, 2, 3, 4, 5].map(one));
    expect(most).toBe(2);
    expect(ended).toEqual([0, 1, 2, 3, 4]);
    expect((all[5] as PromiseRejectedResult).reason).toBeInstanceOf(TooManyWait);
    await one(6);
    expect(now).toBe(0);
  });
});
