import { readFileSync } from 'node:fs';
import { Big } from 'big.js';
import { HOURS as HOURS_GRANTED, HOURS_A_MONTH, SEAT_LINE } from '../testing/contract-samples';
import { coverWork } from './contracts/cover';
import { periodOf, worthOfPeriod } from './contracts/recurring';
import { worthOfExpense } from './time/expenses';
import { marginPercent, netUnitPrice, invoicedGross } from './goods/catalogue';
import { billingDay, type BilledEvery, nextBillingDay } from './billing/billing-terms';
import { chargeAmount } from './billing/charges';
import { creditNote, type EarlierCredit, type InvoiceLine, invoiceTotals } from './billing/invoices';
import { type RunLine, whyDiffers } from './billing/runs';
import { replayClock, type ClockFact, type PromiseVersion } from './desk/clocks';
import { DEFAULT_PRIORITY_MATRIX, PRIORITIES, priorityOf, type Impact, type Priority, type Urgency } from './desk/priority';
import { closesAt } from './desk/tickets';
import { addWorkingSeconds, parseCalendar, workingSeconds } from './ground/calendars';
import { allocate, majorOf, roundToMinor, CURRENCY_DECIMALS, type Currency, type Money } from './ground/money';
import { formatMinutes, parseInstant, parseLocalDate, type Instant } from './ground/time';
import { roundMinutes, splitByBand, spreadRounding } from './time/time-entries';
import { travelMinutes } from './scheduling/travel';

/** The examples of docs/calculations.md: each line is computed, and what comes of it written as it stands there. */
const HOURS = parseCalendar({
  name: 'Dublin',
  zone: 'Europe/Dublin',
  week: [...Array<string[]>(5).fill(['08:30-17:30']), [], []],
  dates: { '2026-12-25': [] },
});
// The wall clock of Dublin is UTC from November to March, where the examples lie.
const at = (text: string): Instant => parseInstant(`${text.trim().replace(' ', 'T')}:00Z`);
const say = (instant: Instant): string => new Date(instant * 1000).toISOString().slice(0, 16).replace('T', ' ');
const major = (amount: Money): string => majorOf(amount).toFixed(CURRENCY_DECIMALS[amount.currency]);
const show = (amount: Money): string => `${major(amount)} ${amount.currency}`;
const amountOf = (text: string): Money => {
  const [value, currency] = text.trim().split(' ') as [string, Currency];
  return roundToMinor(new Big(value), 1, currency);
};
const numbers = (text: string): number[] => text.split(',').map(Number);
const piece: Omit<InvoiceLine, 'position' | 'net' | 'tax'> = {
  description: '',
  details: null,
  quantity: '1',
  unit: 'C62',
  unitPrice: '1',
  links: [],
  corrects: null,
};
const standard = (percent: string) => ({ category: 'S', percent: percent.replace(' %', '') }) as const;
const hours = (seconds: number): string => formatMinutes(seconds / 60);

const SIXTEEN_HOURS = { seconds: 16 * 3600, calendar: HOURS };
const ALL = Object.fromEntries(PRIORITIES.map((p) => [p, SIXTEEN_HOURS])) as Record<Priority, typeof SIXTEEN_HOURS>;
const PROMISE: PromiseVersion = {
  name: 'example',
  version: 1,
  defaultPriority: 'P3',
  triage: SIXTEEN_HOURS,
  response: ALL,
  update: ALL,
  resolution: ALL,
  warnAt: [],
};
const FACTS: Readonly<Record<string, (when: Instant) => ClockFact>> = {
  received: (when) => ({ at: when, is: 'received' }),
  held: (when) => ({ at: when, is: 'held', reason: 'supplier' }),
  'goes on': (when) => ({ at: when, is: 'runs' }),
  resolved: (when) => ({ at: when, is: 'resolved' }),
};

function resolution(line: string): string {
  const facts = line.split(';').map((part) => {
    const [, is, when] = /^\s*(\D+?) (\d.*)$/.exec(part)!;
    return FACTS[is!]!(at(when!));
  });
  const { state, elapsed } = replayClock({ clock: 'resolution', promise: PROMISE, facts, now: facts.at(-1)!.at })!;
  return state.is === 'met' ? `met after ${hours(elapsed)}` : 'missedAt' in state ? `missed at ${say(state.missedAt)}` : state.is;
}

const WORKED: Readonly<Record<string, (given: string) => string>> = {
  round: (given) => show(amountOf(given)),
  share: (given) => {
    const [total, weights] = given.split(' by ');
    return allocate(amountOf(total!), numbers(weights!)).map(major).join(', ');
  },
  'add-working-time': (given) => {
    const [from, minutes] = given.split(' and ');
    return say(addWorkingSeconds(HOURS, at(from!), parseInt(minutes!) * 60) as Instant);
  },
  'working-time': (given) => {
    const [from, to] = given.split(' to ');
    return `${workingSeconds(HOURS, at(from!), at(to!)) / 60} min`;
  },
  priority: (given) => {
    const [impact, urgency, raised] = given.split(', ') as [Impact, Urgency, string?];
    return priorityOf({ matrix: DEFAULT_PRIORITY_MATRIX, impact, urgency, priorityContact: raised !== undefined }).priority;
  },
  resolution,
  closes: (given) => {
    const [resolved, dates] = given.split(', ');
    return say(closesAt(HOURS, at(resolved!), parseInt(dates!))!);
  },
  bands: (given) => {
    const [from, to] = given.split(' to ');
    return splitByBand(HOURS, at(from!), at(to!))
      .map((s) => `${(s.to - s.from) / 60} min ${s.band}`)
      .join(', ');
  },
  minutes: (given) => {
    const [, minutes, mode, increment, minimum] = /^(\d+) min (up|nearest|down) to (\d+), at least (\d+)$/.exec(given)!;
    return String(roundMinutes(Number(minutes), { mode: mode as 'up', increment: Number(increment), minimum: Number(minimum) }));
  },
  spread: (given) => {
    const [parts, rounded] = given.split(' made ');
    return spreadRounding(numbers(parts!), Number(rounded)).join(', ');
  },
  amount: (given) => {
    const [, minutes, rate] = /^(\d+) min at ([\d.]+)$/.exec(given)!;
    return show(chargeAmount({ quantity: minutes!, unit: 'MIN', unitPrice: rate!, currency: 'EUR' }).net);
  },
  'net-price': (given) => {
    const [price, tax] = given.split(' with ');
    return netUnitPrice({ price: price!, basis: 'gross' }, standard(tax!));
  },
  'gross-on-invoice': (given) => {
    const [price, tax] = given.split(' with ');
    const { gross, asTyped } = invoicedGross({ price: price!, basis: 'gross' }, standard(tax!), 'EUR');
    return `${gross}, ${asTyped ? 'as typed' : 'not as typed'}`;
  },
  margin: (given) => {
    const [price, cost] = given.split(' at a cost of ');
    return `${marginPercent(price!, cost!)} %`;
  },
  receipt: (given) => {
    const [paid, tax] = given.split(' with ');
    const worth = worthOfExpense({ paid: amountOf(paid!), exchange: null, taxPercent: standard(tax!).percent }, 'EUR');
    return `${show(worth.tax)} tax, ${show(worth.net)} net`;
  },
  'credit-tax': (given) => {
    const [, count, net, percent] = /^(\d+) lines of ([\d.]+) with ([\d.]+) %/.exec(given)!;
    const line = { net: amountOf(`${net} EUR`), tax: standard(`${percent} %`) };
    const lines = Array.from({ length: Number(count) }, (_, n) => ({ ...piece, ...line, position: n + 1 }));
    const invoice = { currency: 'EUR' as const, lines, groups: invoiceTotals(lines, 'EUR').groups };
    const notes: EarlierCredit[] = [];
    for (const { position } of lines) {
      const note = creditNote(invoice, notes, { asked: [{ position, net: line.net }], undoes: false });
      if (note.is === 'credit note') notes.push({ lines: note.lines, groups: note.totals.groups });
    }
    return notes.map((note) => major(note.groups[0]!.amount)).join(', ');
  },
  'run-reasons': (given) => {
    const [last, now] = given.split(', then ').map((text): RunLine => {
      const [quantity, unitPrice] = text.split(/ × | EUR/) as [string, string];
      const { net } = chargeAmount({ quantity, unit: 'C62', unitPrice, currency: 'EUR' });
      return { kind: 'recurring', recurs: { lineId: 'l', line: 'l', isTrueUp: false }, quantity, unit: 'C62', unitPrice, net };
    });
    const by = (is: string) => show(whyDiffers([now!], [last!], 'EUR').find((r) => r.is === is)!.by);
    return `${by('count')} for one more, ${by('price')} for the price`;
  },
  'billing-day': (given) => {
    const [, every, numbers, date] = /^(\w+) on ([\w ]+), (\S+)$/.exec(given) as unknown as [string, BilledEvery, string, string];
    const [day, month] = [...numbers.matchAll(/\d+/g)].map(([n]) => Number(n));
    const rhythm = { every, weekday: null, day: day!, month: month ?? null };
    const on = parseLocalDate(date);
    return `as of ${billingDay(rhythm, on)}, next ${nextBillingDay(rhythm, on)}`;
  },
  cover: (given) => {
    const [terms, work] = given.split(': ') as [string, string];
    const [grant, carryDays, borrowPercent] = [...terms.matchAll(/\d+/g)].map(([n]) => Number(n));
    const entries = work.split(', ').map((text, n) => {
      const [on, hours] = text.split(' ') as [string, string];
      const minutes = Number(hours) * 60;
      const net = roundToMinor(new Big(90).times(minutes), 60, 'EUR');
      const stretches = [{ band: 'working hours' as const, minutes, rate: '90', net }];
      return {
        id: String(n),
        startsAt: at(`${on} 09:00`),
        on: parseLocalDate(on),
        gradeId: 'g',
        activityId: 'a',
        ticketId: null,
        deskId: null,
        kind: null,
        stretches,
      };
    });
    const allowances = [{ ...HOURS_GRANTED, grant: grant! * 60, carryDays: carryDays!, borrowPercent: borrowPercent! }];
    const found = coverWork({ ...HOURS_A_MONTH, allowances }, entries, { currency: 'EUR' }).entries;
    return found
      .map(({ stretches: [s] }) => {
        const drawn = s!.draws.map((d) => formatMinutes(d.units)).join(' + ');
        return s!.charge.minor ? `${drawn}, ${show(s!.charge)} to pay` : drawn;
      })
      .join(' | ');
  },
  'period-worth': (given) => {
    const [price, when, ...rest] = given.split(', ') as [string, string, ...string[]];
    const from = parseLocalDate(/from (\S+)/.exec(when)?.[1] ?? '2026-01-01');
    const minimum = Number(/minimum (\d+)/.exec(given)?.[1] ?? 0);
    const units = rest
      .filter((text) => !text.startsWith('minimum'))
      .flatMap((text) => {
        const [, n, joined = '2026-01-01'] = /^(\d+)(?: seats)?(?: from (\S+))?/.exec(text)!;
        return Array.from({ length: Number(n) }, (_, k) => ({ of: `${text} ${k}`, name: '', from: parseLocalDate(joined), to: null }));
      });
    const prices = [{ from: parseLocalDate('2026-01-01'), price: price.split(' ')[0]!, tiers: [] }];
    const november = periodOf(SEAT_LINE.schedule, parseLocalDate('2026-11-15'));
    return show(worthOfPeriod({ ...SEAT_LINE, from, minimum, prices, units }, november, 'EUR').amount);
  },
  travel: (given) => {
    const [from, to] = given.split(' to ').map((text, n) => {
      const [latitude, longitude] = numbers(text);
      return { id: String(n), latitude: latitude!, longitude: longitude! };
    });
    return `${travelMinutes(from!, to!, new Map())} min`;
  },
};

const examples = [...readFileSync('docs/calculations.md', 'utf8').matchAll(/```example (\S+)\n([^`]+)```/g)].flatMap(([, name, lines]) =>
  lines!
    .trim()
    .split('\n')
    .map((line) => [name!, ...line.split(' → ')] as [string, string, string]),
);

describe('the examples of docs/calculations.md', () => {
  it.each(examples)('%s: %s gives %s', (name, given, result) => {
    expect(WORKED[name]!(given)).toBe(result);
  });

  it('are of every kind that is known here', () => {
    expect(new Set(examples.map(([name]) => name))).toEqual(new Set(Object.keys(WORKED)));
  });
});
