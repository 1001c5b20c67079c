import fc from 'fast-check';
import { money, parseCalendar, parseInstant, parseZone, plusSeconds } from '../../ground';
import { chargeOfCorrection, correctTo, markOdd, type JudgedEntry } from '.';

const eur = (minor: number) => money(minor, 'EUR');
const calendar = parseCalendar({
  name: 'house',
  zone: parseZone('Europe/Dublin'),
  week: [...Array<string[]>(5).fill(['08:00-18:00']), [], []],
});
const rules = { calendar, longMinutes: 240 };
const morning = parseInstant('2026-11-24T09:00:00Z');
const entry = ({
  id,
  minute,
  minutes,
  more = {},
}: {
  readonly id: string;
  readonly minute: number;
  readonly minutes: number;
  readonly more?: Partial<JudgedEntry>;
}): JudgedEntry => ({
  id,
  from: plusSeconds(morning, minute * 60),
  to: plusSeconds(morning, (minute + minutes) * 60),
  note: 'done',
  closedAt: null,
  ...more,
});
const marks = (entries: readonly JudgedEntry[]) => new Map([...markOdd(entries, rules)].map(([id, odd]) => [id, odd.map((o) => o.mark)]));

describe('what is odd', () => {
  it('is named with its numbers: long, overlapping, no note, out of hours, on closed work', () => {
    const odd = markOdd(
      [
        entry({ id: 'a', minute: 0, minutes: 241 }),
        entry({ id: 'b', minute: 230, minutes: 30, more: { note: ' ' } }),
        entry({ id: 'c', minute: 520, minutes: 60 }),
        entry({ id: 'd', minute: 600, minutes: 10, more: { closedAt: morning } }),
      ],
      rules,
    );
    expect(odd.get('a')).toEqual([
      { mark: 'long', says: '4 h 01 in one piece, more than 4 h' },
      { mark: 'overlapping', says: '11 min lie over other time' },
    ]);
    expect(odd.get('b')!.map((o) => o.mark)).toEqual(['overlapping', 'no note']);
    expect(odd.get('c')).toEqual([{ mark: 'out of hours', says: '40 min out of hours' }]);
    expect(odd.get('d')!.map((o) => o.mark)).toEqual(['out of hours', 'on closed work']);
    expect(marks([entry({ id: 'a', minute: 0, minutes: 60 }), entry({ id: 'b', minute: 60, minutes: 60 })])).toEqual(
      new Map([
        ['a', []],
        ['b', []],
      ]),
    );
  });

  it('overlaps just where a minute lies in two entries, whatever their order', () => {
    const some = fc.array(fc.tuple(fc.nat(200), fc.integer({ min: 1, max: 90 })), { maxLength: 12 });
    fc.assert(
      fc.property(some, (spans) => {
        const entries = spans.map(([from, length], n) => entry({ id: `${n}`, minute: from, minutes: length }));
        const found = marks([...entries].reverse());
        for (const [n, [from, length]] of spans.entries()) {
          const others = spans.filter((_, m) => m !== n);
          const minute = (m: number) => others.some(([f, l]) => f <= m && m < f + l);
          const shared = Array.from({ length }, (_, m) => from + m).filter(minute).length;
          expect(found.get(`${n}`)!.includes('overlapping')).toBe(shared > 0);
        }
      }),
    );
  });
});

describe('a correction', () => {
  it('adds up to what is right, whatever was corrected before, in minutes and in money', () => {
    const worth = (minutes: number) => ({ minutes, amount: minutes ? eur(minutes * 137 + 11) : null });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1440 }), fc.array(fc.nat(1440), { minLength: 1, maxLength: 8 }), (first, rights) => {
        let [minutes, minor] = [first, worth(first).amount!.minor];
        for (const right of rights) {
          const correction = correctTo(minutes, right);
          if (correction.is === 'nothing to correct') {
            expect(right).toBe(minutes);
            continue;
          }
          minor += chargeOfCorrection(worth(minutes), worth(right)).net?.minor ?? 0;
          minutes += correction.minutes;
        }
        expect(minutes).toBe(rights.at(-1));
        expect(minor).toBe(worth(minutes).amount?.minor ?? 0);
      }),
    );
  });

  it('of what charges nothing charges nothing, and says from what to what', () => {
    const { net, explanation } = chargeOfCorrection({ minutes: 60, amount: null }, { minutes: 30, amount: null });
    expect(net).toBeNull();
    expect(explanation.map((s) => s.rule)).toEqual(['recorded before', 'corrected to']);
  });
});
