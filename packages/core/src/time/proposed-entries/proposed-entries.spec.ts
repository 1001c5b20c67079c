import fc from 'fast-check';
import { intersect, secondsIn, type Instant } from '../../ground';
import { EVIDENCE, judgeProposals, proposeEntries, type Evidence, type EvidenceKind, type Recorded } from '.';

const at = (clock: string) => {
  const [h, m] = clock.split(':').map(Number) as [number, number];
  return (h * 3600 + m * 60) as Instant;
};
const trace = ({
  is,
  workId,
  from,
  to = from,
  id = `${is}${from}`,
}: {
  readonly is: EvidenceKind;
  readonly workId: string | null;
  readonly from: string;
  readonly to?: string;
  readonly id?: string;
}): Evidence => ({
  id,
  is,
  workId,
  from: at(from),
  to: at(to),
  says: 'x',
});
const says = (all: ReturnType<typeof proposeEntries>) =>
  all.map((p) => `${p.workId ?? '-'} ${[p.from, p.to].map((t) => new Date(t * 1000).toISOString().slice(11, 16)).join('-')}`);
const evening = at('23:00');

describe('a day written from what is left of it', () => {
  it('gathers traces near each other, gives a call its minutes and lets what lies beside a booking join it', () => {
    const day = [
      trace({ is: 'message', workId: 'a', from: '09:10' }),
      trace({ is: 'change', workId: 'a', from: '09:25' }),
      trace({ is: 'call', workId: 'b', from: '10:00' }),
      trace({ is: 'booking', workId: 'c', from: '11:00', to: '12:00' }),
      trace({ is: 'message', workId: 'c', from: '12:10' }),
      trace({ is: 'message', workId: 'a', from: '15:00' }),
    ];
    const found = proposeEntries(day, [], evening);
    expect(says(found)).toEqual(['a 09:00-09:25', 'b 10:00-10:10', 'c 11:00-12:00', 'a 14:50-15:00']);
    expect(found[2]!.evidence.map((e) => e.is)).toEqual(['booking', 'message']);
  });

  it('leaves out what is recorded, on the ticket or over the time, and what has not happened yet', () => {
    const recorded: Recorded[] = [
      { workId: 'a', from: at('09:05'), to: at('09:30') },
      { workId: 'x', from: at('11:00'), to: at('11:20') },
    ];
    const day = [
      trace({ is: 'message', workId: 'a', from: '09:10' }),
      trace({ is: 'booking', workId: 'c', from: '11:00', to: '12:00' }),
      trace({ is: 'booking', workId: 'd', from: '14:00', to: '15:00' }),
    ];
    expect(says(proposeEntries(day, recorded, at('14:30')))).toEqual(['c 11:20-12:00', 'd 14:00-14:30']);
  });

  it('takes the surest first: a timer before a booking before a message', () => {
    const day = [
      trace({ is: 'booking', workId: 'b', from: '09:00', to: '10:00' }),
      trace({ is: 'timer', workId: 'a', from: '09:30', to: '10:30' }),
      trace({ is: 'message', workId: 'c', from: '09:20' }),
    ];
    expect(says(proposeEntries(day, [], evening))).toEqual(['b 09:00-09:30', 'a 09:30-10:30']);
    expect(proposeEntries([trace({ is: 'appointment', workId: null, from: '09:00', to: '10:00' })], [], evening)[0]!.sure).toBe(false);
  });

  it('proposes nothing twice, over recorded time or ahead of now, and nothing again once it is recorded', () => {
    const minute = fc.integer({ min: 0, max: 1400 });
    const piece = fc.tuple(
      fc.constantFrom(...EVIDENCE),
      fc.constantFrom('a', 'b', 'c'),
      minute,
      fc.integer({ min: 1, max: 120 }),
      fc.integer({ min: 0, max: 59 }),
    );
    const entry = fc.tuple(fc.constantFrom('a', 'b', 'z'), minute, fc.integer({ min: 1, max: 90 }));
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), fc.array(entry, { maxLength: 5 }), minute, (pieces, entries, nowAt) => {
        const evidence = pieces.map(([is, workId, from, length, second], n): Evidence => {
          const start = (from * 60 + second) as Instant;
          const isSpan = is === 'timer' || is === 'booking' || is === 'appointment';
          return { id: String(n), is, workId, from: start, to: (isSpan ? start + length * 60 : start) as Instant, says: 'x' };
        });
        const recorded = entries.map(([workId, from, n]): Recorded => ({
          workId,
          from: (from * 60) as Instant,
          to: ((from + n) * 60) as Instant,
        }));
        const now = (nowAt * 60) as Instant;
        const found = proposeEntries(evidence, recorded, now);
        for (const [i, p] of found.entries()) {
          expect(p.to).toBeLessThanOrEqual(now);
          expect(p.minutes).toBeGreaterThanOrEqual(5);
          expect((p.to - p.from) / 60).toBe(p.minutes);
          expect(secondsIn(intersect([p], recorded))).toBe(0);
          if (i) expect(p.from).toBeGreaterThanOrEqual(found[i - 1]!.to);
        }
        const shown = found.flatMap((p) => p.evidence.map((e) => e.id));
        expect(new Set(shown).size).toBe(shown.length);
        expect(new Set(found.map((p) => p.key)).size).toBe(found.length);
        const keys = new Set(found.map((p) => p.key));
        const then = proposeEntries(evidence, [...recorded, ...found], now);
        expect(then.filter((p) => keys.has(p.key))).toEqual([]);
      }),
    );
  });

  it('is judged by how much of what was recorded it covers, and how far apart they are', () => {
    const recorded: Recorded[] = [
      { workId: 'a', from: at('09:00'), to: at('10:00') },
      { workId: 'b', from: at('11:00'), to: at('11:30') },
    ];
    const found = proposeEntries([trace({ is: 'booking', workId: 'a', from: '09:15', to: '10:15' })], [], evening);
    expect(judgeProposals(found, recorded)).toEqual({ recordedMinutes: 90, coveredMinutes: 45, apartMinutes: 30 });
  });
});
