import fc from 'fast-check';
import { type Instant, parseCalendar, parseInstant, plusSeconds, workingSeconds } from '../../ground';
import { replayClock, type ClockFact, type PromiseVersion } from '../clocks';
import { HOLD_REASONS, memberStandsInTheWay, STATUSES, type ClosingFacts } from '../tickets';
import { namesOthers, publicStatus } from '.';

const office = parseCalendar({ name: 'office hours', zone: 'Europe/Dublin', week: [...Array(5).fill(['08:00-18:00']), [], []] });
const minutes = (n: number) => ({ seconds: n * 60, calendar: office });
const each = (n: number) => ({ P1: minutes(n), P2: minutes(n * 2), P3: minutes(n * 4), P4: minutes(n * 8) });
const promise: PromiseVersion = {
  name: 'House',
  version: 1,
  defaultPriority: 'P3',
  warnAt: [75],
  triage: minutes(15),
  response: each(30),
  update: each(60),
  resolution: each(240),
};
const at = (text: string) => parseInstant(`2026-11-${text}:00Z`);
const read = (clock: 'triage' | 'response' | 'update' | 'resolution', facts: ClockFact[], now: Instant) =>
  replayClock({ clock, promise, facts, now })!;
const received: ClockFact = { at: at('24T09:00'), is: 'received' };
const joined = (time: Instant): ClockFact => ({ at: time, is: 'held', reason: 'umbrella' });

describe("a member's clocks", () => {
  it('all hold, response and triage too, and go on where they were when it is detached', () => {
    const facts: ClockFact[] = [received, joined(at('24T09:05')), { at: at('24T15:00'), is: 'runs' }];
    for (const clock of ['triage', 'response', 'resolution'] as const) {
      expect(read(clock, facts, at('24T14:00')).state).toEqual({ is: 'holding', reason: 'umbrella' });
      expect(read(clock, facts, at('24T15:10')).elapsed).toBe(15 * 60);
    }
    expect(read('triage', facts, at('24T15:10')).state).toEqual({ is: 'running', due: at('24T15:10') });
  });

  it('meet a held response at its held elapsed time by an update to all', () => {
    const facts: ClockFact[] = [received, joined(at('24T09:10')), { at: at('24T17:00'), is: 'public-contact' }];
    const response = read('response', facts, at('25T12:00'));
    expect([response.state, response.elapsed]).toEqual([{ is: 'met', at: at('24T17:00') }, 600]);
    expect(read('update', facts, at('25T12:00'))).toMatchObject({ elapsed: 0, state: { is: 'holding', reason: 'umbrella' } });
  });

  it('hold by the umbrella though it was on hold for the client before, and are back to that when detached', () => {
    const facts: ClockFact[] = [received, { at: at('24T10:00'), is: 'held', reason: 'client' }, joined(at('24T11:00'))];
    expect(read('resolution', facts, at('24T12:00')).state).toEqual({ is: 'holding', reason: 'umbrella' });
    const left: ClockFact[] = [...facts, { at: at('24T13:00'), is: 'runs' }, { at: at('24T13:00'), is: 'held', reason: 'client' }];
    expect(read('resolution', left, at('24T16:00'))).toMatchObject({ elapsed: 3600, state: { is: 'holding', reason: 'client' } });
    expect(read('response', left, at('24T13:30')).elapsed).toBe(2 * 3600 + 1800);
  });

  const ownLife = fc.uniqueArray(
    fc
      .record({ n: fc.integer({ min: 1, max: 90_000 }), is: fc.constantFrom('routed', 'public-contact', 'runs', 'held') })
      .map(({ n, is }) => ({ at: plusSeconds(received.at, n), is, reason: 'client' }) as ClockFact),
    { maxLength: 6, selector: (f) => f.at },
  );

  it('are never missed because of the time it was a member, however long that was', () => {
    fc.assert(
      fc.property(ownLife, fc.integer({ min: 1, max: 2_000_000 }), (life, as) => {
        const join = plusSeconds(received.at, 90_001);
        const end = plusSeconds(join, as);
        const before = [received, ...life];
        const facts: ClockFact[] = [...before, joined(join), { at: end, is: 'resolved' }];
        for (const clock of ['triage', 'response', 'resolution'] as const) {
          const [was, now] = [read(clock, before, join), read(clock, facts, plusSeconds(end, 60))];
          expect('missedAt' in now.state ? now.state.missedAt : undefined).toBe('missedAt' in was.state ? was.state.missedAt : undefined);
          expect(now.elapsed).toBe(was.elapsed);
        }
      }),
    );
  });
});

describe("an umbrella's clocks", () => {
  const umbrella: ClockFact = { at: at('24T12:00'), is: 'received' };
  const took = (when: string, earliest: string): ClockFact => ({ at: at(when), is: 'earlier-receipt', received: at(earliest) });

  it('count from the earliest receipt, and are missed at the joining at the earliest', () => {
    const facts = [umbrella, took('24T12:10', '24T09:00')];
    expect(read('resolution', facts, at('24T13:00')).elapsed).toBe(4 * 3600);
    expect(read('response', facts, at('24T12:20')).state).toEqual({ is: 'missed and running', missedAt: at('24T12:10') });
    expect(read('resolution', facts, at('24T13:00')).segments[0]).toEqual({
      from: at('24T09:00'),
      to: at('24T12:00'),
      did: 'ran',
      seconds: 3 * 3600,
    });
  });

  it('do not move once they have ended, nor for a report that came later', () => {
    const answered = [umbrella, { at: at('24T12:05'), is: 'public-contact' } as const];
    expect(read('response', [...answered, took('24T12:10', '23T09:00')], at('24T13:00')).state).toEqual({ is: 'met', at: at('24T12:05') });
    expect(read('resolution', [umbrella, took('24T12:10', '24T12:30')], at('24T13:00')).elapsed).toBe(3600);
  });

  it('come to the same however the members joined', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 400_000 }), { minLength: 1, maxLength: 6 }), (before) => {
        const facts = [
          umbrella,
          ...before.map((n, i): ClockFact => ({
            at: plusSeconds(umbrella.at, i + 1),
            is: 'earlier-receipt',
            received: plusSeconds(umbrella.at, -n),
          })),
        ];
        const now = plusSeconds(umbrella.at, 3600);
        const earliest = plusSeconds(umbrella.at, -Math.max(...before));
        expect(read('resolution', facts, now).elapsed).toBe(workingSeconds(office, earliest, now));
        const { state } = read('resolution', facts, now);
        if ('missedAt' in state) expect(state.missedAt).toBeGreaterThan(umbrella.at);
      }),
    );
  });
});

describe('what members are asked and told', () => {
  it('asks only for an unanswered message and what is always asked', () => {
    const facts: ClosingFacts = {
      kind: 'incident',
      checklist: [{ id: 'i', text: 'Label it', answered: false }],
      bookings: [],
      timers: [],
      minutes: 0,
      assetId: null,
      clientId: 'c',
      assetClientId: null,
      contactIsPlaceholder: false,
      resolution: null,
      replyOwed: true,
      pendingCharges: [{ id: 'c1', words: 'Cable, €4.00' }],
      feeHint: null,
      fee: null,
      condition: { ticket: {}, field: {} },
    };
    expect(memberStandsInTheWay([], facts).map((o) => o.check)).toEqual(['unanswered message']);
    expect(memberStandsInTheWay(['open checklist items'], facts).map((o) => o.check)).toEqual([
      'open checklist items',
      'unanswered message',
    ]);
    expect(memberStandsInTheWay([], { ...facts, replyOwed: false })).toEqual([]);
  });

  it('finds another client in a text, as whole words and in any case', () => {
    const names = ['Brackwater Ferries', 'Mirebank Schools', 'Bram Osei'];
    expect(namesOthers('As at BRACKWATER\n ferries, so with you', names)).toEqual(['Brackwater Ferries']);
    expect(namesOthers('The schools of Mirebank-on-Sea and Bram Oseille', names)).toEqual([]);
    expect(namesOthers('It hit (Bram Osei).', names)).toEqual(['Bram Osei']);
    fc.assert(fc.property(fc.string(), (text) => namesOthers(text, names).every((n) => names.includes(n))));
  });

  it('says where a report stands in words for a client, whatever its status', () => {
    for (const status of STATUSES)
      for (const holdReason of [...HOLD_REASONS, null]) expect(publicStatus({ status, holdReason })).toMatch(/^(It|Somebody) .*\.$/);
  });
});
