import fc from 'fast-check';
import { formatInstant, type Instant, parseCalendar, parseInstant, plusSeconds, ROUND_THE_CLOCK, workingSeconds } from '../../ground';
import type { Priority } from '../priority';
import { drawClock, replayClock, type ClockFact, type PromiseVersion } from '.';

const office = parseCalendar({ name: 'office hours', zone: 'Europe/Dublin', week: [...Array(5).fill(['08:00-18:00']), [], []] });
const minutes = (n: number, calendar: PromiseVersion['triage']['calendar'] = office) => ({ seconds: n * 60, calendar });
const promise: PromiseVersion = {
  name: 'House',
  version: 1,
  defaultPriority: 'P3',
  warnAt: [50, 75],
  triage: minutes(15),
  response: { P1: minutes(15, ROUND_THE_CLOCK), P2: minutes(60), P3: minutes(240), P4: minutes(480) },
  update: { P1: minutes(60, ROUND_THE_CLOCK), P2: minutes(120), P3: minutes(480), P4: minutes(960) },
  resolution: { P1: minutes(240, ROUND_THE_CLOCK), P2: minutes(480), P3: minutes(960), P4: minutes(2400) },
};
const at = (text: string) => parseInstant(`2026-11-${text}:00Z`);
const read = (clock: 'triage' | 'response' | 'update' | 'resolution', facts: ClockFact[], now: Instant) =>
  replayClock({ clock, promise, facts, now })!;

describe('clocks', () => {
  const received: ClockFact = { at: at('24T09:00'), is: 'received' };

  it('is met when stopped at its due instant, and missed a second later', () => {
    const due = at('24T09:15');
    expect(read('triage', [received, { at: due, is: 'routed' }], at('24T10:00')).state).toEqual({ is: 'met', at: due });
    expect(read('triage', [received], due).state).toEqual({ is: 'running', due });
    expect(read('triage', [received], plusSeconds(due, 1)).state).toEqual({ is: 'missed and running', missedAt: due });
    const late = plusSeconds(due, 1);
    expect(read('triage', [received, { at: late, is: 'routed' }], at('24T10:00')).state).toEqual({
      is: 'missed and ended',
      missedAt: due,
      endedAt: late,
    });
  });

  it('keeps elapsed time at a priority change and misses at that instant when it is above the new target', () => {
    const facts: ClockFact[] = [received, { at: at('24T11:00'), is: 'priority', priority: 'P2' }];
    expect(read('response', facts, at('24T11:00')).state).toEqual({ is: 'missed and running', missedAt: at('24T11:00') });
    expect(read('resolution', facts, at('24T11:00')).elapsed).toBe(7200);
    expect(read('resolution', facts, at('24T11:00')).state).toEqual({ is: 'running', due: at('24T17:00') });
  });

  it('counts from an earlier receipt where it has not ended, and the update clock from its own contact', () => {
    const joined: ClockFact = { at: at('24T10:00'), is: 'earlier-receipt', received: at('24T08:30') };
    expect(read('response', [received, joined], at('24T11:00')).elapsed).toBe(2.5 * 3600);
    expect(read('resolution', [received, joined], at('24T11:00')).segments.map((s) => s.from)).toEqual([at('24T08:30'), received.at]);
    // A report that came later than what is counted from changes nothing.
    const later: ClockFact = { ...joined, received: at('24T09:30') };
    expect(read('response', [received, later], at('24T11:00')).elapsed).toBe(2 * 3600);
    const answered: ClockFact = { at: at('24T09:45'), is: 'public-contact' };
    expect(read('response', [received, answered, joined], at('24T11:00')).state).toEqual({ is: 'met', at: answered.at });
    expect(read('update', [received, answered, joined], at('24T11:00')).elapsed).toBe(75 * 60);
    const held: ClockFact = { at: at('24T09:30'), is: 'held', reason: 'client' };
    expect(read('resolution', [received, held, joined], at('24T11:00')).elapsed).toBe(3600);
  });

  it('holds resolution only, and a holding clock above a new target is missed when it resumes', () => {
    const facts: ClockFact[] = [
      received,
      { at: at('24T13:30'), is: 'held', reason: 'client' },
      { at: at('24T14:00'), is: 'priority', priority: 'P1' },
    ];
    const held = read('resolution', facts, at('24T15:00'));
    expect(held.state).toEqual({ is: 'holding', reason: 'client' });
    expect(read('response', facts, at('24T13:45')).holding).toBe(false);
    const resumed = read('resolution', [...facts, { at: at('25T08:00'), is: 'runs' }], at('25T09:00'));
    expect(resumed.state).toEqual({ is: 'missed and running', missedAt: at('25T08:00') });
    expect(resumed.segments.map((s) => s.did)).toEqual(['ran', 'held', 'ran']);
  });

  it('goes on from its elapsed time after reopening, and what was missed stays missed', () => {
    const facts: ClockFact[] = [received, { at: at('24T10:00'), is: 'resolved' }, { at: at('26T09:00'), is: 'reopened' }];
    const again = read('resolution', facts, at('26T10:00'));
    expect([again.elapsed, again.state.is]).toEqual([7200, 'running']);
    const missed = [
      received,
      { at: at('27T10:00'), is: 'resolved' },
      { at: at('27T11:00'), is: 'reopened' },
      { at: at('27T12:00'), is: 'resolved' },
    ] as ClockFact[];
    expect(read('resolution', missed, at('27T13:00')).state.is).toBe('missed and ended');
  });

  it('answers a call at its receipt with no time used', () => {
    const reading = read('response', [received, { at: received.at, is: 'public-contact' }], at('24T12:00'));
    expect([reading.state.is, reading.elapsed]).toEqual(['met', 0]);
  });

  const fact = fc
    .record({
      n: fc.nat(400_000),
      is: fc.constantFrom('routed', 'public-contact', 'priority', 'held', 'runs', 'resolved', 'reopened'),
      priority: fc.constantFrom<Priority>('P1', 'P2', 'P3', 'P4'),
    })
    .map(({ n, is, priority }) => ({ at: plusSeconds(received.at, n), is, priority, reason: 'client' }) as ClockFact);

  it('warns at each percentage of the promise before the miss, and not after', () => {
    // P3 response: 240 working minutes from 09:00.
    expect(read('response', [received], at('24T09:30')).warns).toEqual({ percent: 50, at: at('24T11:00') });
    expect(read('response', [received], at('24T11:00')).warns).toEqual({ percent: 75, at: at('24T12:00') });
    expect(read('response', [received], at('24T12:30')).warns).toBeUndefined();
    expect(read('response', [received], at('24T14:00')).warns).toBeUndefined();
    const held = [received, { at: at('24T09:30'), is: 'held', reason: 'client' } as const];
    expect(read('resolution', held, at('24T10:00')).warns).toBeUndefined();
    fc.assert(
      fc.property(fc.uniqueArray(fact, { maxLength: 8, selector: (f) => f.at }), fc.nat(500_000), (facts, n) => {
        const now = plusSeconds(received.at, n);
        const reading = read('resolution', [received, ...facts.filter((f) => f.at > received.at)], now);
        if (!reading.warns) return;
        expect(reading.warns.at).toBeGreaterThan(now);
        if (reading.state.is === 'running' && reading.state.due !== 'never')
          expect(reading.warns.at).toBeLessThanOrEqual(reading.state.due);
      }),
    );
  });

  describe('the update clock', () => {
    const contact = (time: string): ClockFact => ({ at: at(time), is: 'public-contact' });

    it('is not there before the first public contact, restarts at each, and ends with the ticket', () => {
      expect(replayClock({ clock: 'update', promise, facts: [received], now: at('25T09:00') })).toBeUndefined();
      const first = read('update', [received, contact('24T10:00')], at('24T11:00'));
      expect([first.state, first.elapsed, first.past]).toEqual([{ is: 'running', due: at('24T18:00') }, 3600, []]);
      const second = read('update', [received, contact('24T10:00'), contact('24T15:00')], at('24T15:30'));
      expect([second.elapsed, second.past]).toEqual([1800, [{ from: at('24T10:00'), endedAt: at('24T15:00'), missedAt: undefined }]]);
      const ended = read('update', [received, contact('24T10:00'), { at: at('24T12:00'), is: 'resolved' }], at('26T12:00'));
      expect(ended.state).toEqual({ is: 'met', at: at('24T12:00') });
    });

    it('counts each run by itself: one missed does not miss the next', () => {
      const facts = [received, contact('24T09:00'), contact('25T10:00'), contact('25T11:00')];
      const now = read('update', facts, at('25T12:00'));
      expect(now.past).toEqual([
        { from: at('24T09:00'), endedAt: at('25T10:00'), missedAt: at('24T17:00') },
        { from: at('25T10:00'), endedAt: at('25T11:00'), missedAt: undefined },
      ]);
      expect(now.state.is).toBe('running');
    });

    it('holds with the ticket, also where it begins while the ticket holds', () => {
      const held: ClockFact = { at: at('24T10:00'), is: 'held', reason: 'supplier' };
      const inside = read('update', [received, held, contact('24T11:00')], at('24T16:00'));
      expect([inside.state, inside.elapsed]).toEqual([{ is: 'holding', reason: 'supplier' }, 0]);
      const resumed = read('update', [received, held, contact('24T11:00'), { at: at('24T12:00'), is: 'runs' }], at('24T13:00'));
      expect([resumed.state.is, resumed.elapsed]).toEqual(['running', 3600]);
    });

    it('starts anew on reopening, once the client was told something', () => {
      const ends: ClockFact[] = [
        { at: at('24T12:00'), is: 'resolved' },
        { at: at('24T13:00'), is: 'reopened' },
      ];
      const again = read('update', [received, contact('24T10:00'), ...ends], at('24T14:00'));
      expect([again.elapsed, again.past.length, again.state.is]).toEqual([3600, 1, 'running']);
      expect(replayClock({ clock: 'update', promise, facts: [received, ...ends], now: at('24T14:00') })).toBeUndefined();
      const told = [received, ends[0]!, contact('24T12:30'), ends[1]!];
      expect(read('update', told, at('24T14:00')).elapsed).toBe(3600);
    });

    it('has runs that follow one another, whatever happens', () => {
      fc.assert(
        fc.property(fc.uniqueArray(fact, { maxLength: 12, selector: (f) => f.at }), fc.nat(500_000), (facts, n) => {
          const now = plusSeconds(received.at, n);
          const reading = replayClock({ clock: 'update', promise, facts: [received, ...facts.filter((f) => f.at > received.at)], now });
          const known = facts.filter((f) => f.at <= now && f.at > received.at);
          if (!reading) return expect(known.some((f) => f.is === 'public-contact') && !known.some((f) => f.is === 'resolved')).toBe(false);
          let last = received.at;
          for (const run of reading.past) {
            expect(run.from).toBeGreaterThanOrEqual(last);
            expect(run.endedAt).toBeGreaterThanOrEqual(run.from);
            if (run.missedAt !== undefined) expect(run.missedAt >= run.from && run.missedAt < run.endedAt).toBe(true);
            last = run.endedAt;
          }
          expect(reading.segments.reduce((a, s) => a + s.seconds, 0)).toBe(reading.elapsed);
          expect(reading.segments.every((s) => s.from >= last || reading.past.length === 0)).toBe(true);
          return undefined;
        }),
        { numRuns: 400 },
      );
    });
  });

  /** The slow way: steps through time in units of a second's worth of events, knowing only "what is on now". */
  function slowElapsed(facts: ClockFact[], now: Instant): number {
    let [mode, priority, frozen, ended] = ['ran', 'P3' as Priority, undefined as Priority | undefined, false];
    let elapsed = 0;
    let missed = false;
    const times = [...new Set([received.at, ...facts.map((f) => f.at), now])].sort((a, b) => a - b);
    times.forEach((t, i) => {
      for (const f of facts.filter((x) => x.at === t)) {
        if (f.is === 'priority') {
          priority = f.priority;
          if (!ended && !missed) {
            frozen = undefined;
            if (mode === 'ran' && elapsed > promise.resolution[priority].seconds) {
              missed = true;
              frozen = priority;
            }
          }
        }
        if (f.is === 'held' && mode === 'ran' && !ended) mode = 'held';
        if (f.is === 'runs' && mode === 'held' && !ended) {
          mode = 'ran';
          if (!missed && elapsed > promise.resolution[frozen ?? priority].seconds) {
            missed = true;
            frozen = priority;
          }
        }
        if (f.is === 'resolved' && !ended) {
          ended = true;
          frozen ??= priority;
        }
        if (f.is === 'reopened' && ended) {
          ended = false;
          mode = 'ran';
          if (!missed) frozen = undefined;
        }
      }
      const next = times[i + 1];
      if (next === undefined || ended || mode !== 'ran') return;
      const target = promise.resolution[frozen ?? priority];
      const worked = workingSeconds(target.calendar, t, next);
      elapsed += worked;
      const overByNext =
        elapsed > target.seconds ||
        (elapsed === target.seconds && (worked === 0 || workingSeconds(target.calendar, plusSeconds(next, -1), next) === 0));
      if (!missed && overByNext) {
        missed = true;
        frozen = frozen ?? priority;
      }
    });
    return elapsed;
  }

  it('counts what a slow replay counts, in whatever order the facts are written', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fact, { maxLength: 8, selector: (f) => f.at }), fc.nat(500_000), (facts, n) => {
        const now = plusSeconds(received.at, n);
        const known = facts.filter((f) => f.at <= now && f.at > received.at);
        const reading = read('resolution', [...known].reverse().concat(received), now);
        expect(reading.elapsed).toBe(slowElapsed(known, now));
        expect(reading.segments.reduce((a, s) => a + s.seconds, 0)).toBe(reading.elapsed);
        expect(reading.remaining).toBe(reading.target - reading.elapsed);
        if (reading.state.is === 'running' && reading.state.due !== 'never') expect(reading.state.due).toBeGreaterThanOrEqual(now);
        const drawing = drawClock(reading);
        expect(drawing.parts.reduce((a, p) => a + p.width, 0)).toBeLessThanOrEqual(100.001);
        expect(drawing.parts.some((p) => p.did === 'late')).toBe(reading.remaining < 0);
      }),
      { numRuns: 400 },
    );
  });

  it('counts several changes of one act as one: nothing is missed by what held for no time', () => {
    // Leaving an umbrella onto a hold: what was held above a new target stays held, and is missed when it resumes.
    const onto: ClockFact[] = [
      received,
      { at: at('24T14:00'), is: 'held', reason: 'umbrella' },
      { at: at('24T15:00'), is: 'priority', priority: 'P1' },
      { at: at('24T16:00'), is: 'runs' },
      { at: at('24T16:00'), is: 'held', reason: 'client' },
    ];
    expect(read('resolution', onto, at('24T17:00')).state).toEqual({ is: 'holding', reason: 'client' });
    // A promise and a priority changed together: only what holds after both is judged.
    const strict: PromiseVersion = {
      ...promise,
      name: 'Strict',
      triage: minutes(5),
      response: { ...promise.response, P3: minutes(10), P4: minutes(600) },
    };
    const both: ClockFact[] = [
      received,
      { at: at('24T11:00'), is: 'promise', promise: strict },
      { at: at('24T11:00'), is: 'priority', priority: 'P4' },
    ];
    expect(read('response', both, at('24T11:30')).state.is).toBe('running');
    expect(read('response', both.slice(0, 2), at('24T11:30')).state).toEqual({ is: 'missed and running', missedAt: at('24T11:00') });
    // A change of promise moves triage too; a change of priority does not.
    const early = at('24T09:07');
    expect(read('triage', [received, { at: early, is: 'promise', promise: strict }], early).state).toEqual({
      is: 'missed and running',
      missedAt: early,
    });
    expect(read('triage', [received, { at: early, is: 'priority', priority: 'P1' }], early).state).toEqual({
      is: 'running',
      due: at('24T09:15'),
    });
  });

  it('is the same with a change that is taken back in the same act as without it', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fact, { maxLength: 8, selector: (f) => f.at }),
        fc.nat(500_000),
        fc.constantFrom('P1' as const, 'P4' as const),
        fc.constantFrom('response' as const, 'resolution' as const),
        (facts, n, other, clock) => {
          const now = plusSeconds(received.at, n);
          const known = [received, ...facts.filter((f) => f.at > received.at)].sort((a, b) => a.at - b.at);
          let priority: Priority = 'P3';
          const fussy = known.flatMap((f): ClockFact[] => {
            if (f.is === 'priority') priority = f.priority;
            return [{ at: f.at, is: 'priority', priority: other }, f, { at: f.at, is: 'priority', priority }];
          });
          const plain = read(clock, known, now);
          const taken = read(clock, fussy, now);
          expect([taken.state, taken.elapsed, taken.target]).toEqual([plain.state, plain.elapsed, plain.target]);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('explains itself with the instants that decided', () => {
    const steps = read('resolution', [received], at('24T10:00')).explanation;
    expect(steps[0]!.rule).toBe('promise House, version 1');
    expect(steps.at(-1)).toEqual({
      rule: 'due: the earliest instant with the target worked',
      figure: { unit: 'instant', value: at('25T15:00') },
    });
    expect(formatInstant(at('25T15:00'))).toBe('2026-11-25T15:00:00Z');
  });
});
