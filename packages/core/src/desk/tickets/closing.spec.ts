import fc from 'fast-check';
import { dateOf, hoursOn, type Instant, parseCalendar, parseInstant, plusSeconds, wallMinuteOf } from '../../ground';
import {
  CLOSING_CHECK_NAMES,
  closesAt,
  DEFAULT_CLOSING_RULES,
  KINDS,
  standsInTheWay,
  type ClosingBook,
  type ClosingFacts,
  type ClosingRules,
} from '.';

const office = parseCalendar({
  name: 'office',
  zone: 'Europe/Dublin',
  week: [...Array(5).fill(['08:00-18:00']), [], []],
  dates: { '2026-12-25': [], '2026-12-28': [] },
});
const at = (text: string) => parseInstant(`${text}:00Z`);

describe('closing by itself', () => {
  it('comes at the same local time on the fifth later date with working hours', () => {
    expect(closesAt(office, at('2026-11-24T10:40'), 5)).toBe(at('2026-12-01T10:40'));
    // Over a weekend, two holidays, and in winter as in summer by the wall clock.
    expect(closesAt(office, at('2026-12-22T09:15'), 5)).toBe(at('2026-12-31T09:15'));
    expect(closesAt(office, at('2026-03-27T09:15'), 5)).toBe(at('2026-04-03T08:15'));
    expect(closesAt(office, at('2026-11-28T23:30'), 1)).toBe(at('2026-11-30T23:30'));
  });

  it('never comes on a calendar without working hours', () => {
    const never = parseCalendar({ name: 'never', zone: 'Europe/Dublin', week: Array(7).fill([]) });
    expect(closesAt(never, at('2026-11-24T10:40'), 5)).toBeUndefined();
  });

  it('counts as a person with a paper calendar does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 * 86_400 }), fc.integer({ min: 1, max: 12 }), (seconds, dates) => {
        const resolved = plusSeconds(at('2026-01-01T00:00'), seconds - (seconds % 60)) as Instant;
        const closes = closesAt(office, resolved, dates)!;
        const days: string[] = [];
        for (let t = plusSeconds(resolved, 43_200); dateOf(t, office.zone) <= dateOf(closes, office.zone); t = plusSeconds(t, 43_200)) {
          const day = dateOf(t, office.zone);
          if (day > dateOf(resolved, office.zone) && hoursOn(office, day).length && !days.includes(day)) days.push(day);
        }
        expect(days.length).toBe(dates);
        expect(days.at(-1)).toBe(dateOf(closes, office.zone));
        const [before, after] = [wallMinuteOf(resolved, office.zone), wallMinuteOf(closes, office.zone)];
        // In the hour that the clocks skip, the wall shows an hour later.
        expect([before, (before + 60) % 1440]).toContain(after);
      }),
      { numRuns: 300 },
    );
  });
});

const NOTHING: ClosingFacts = {
  kind: 'incident',
  checklist: [],
  bookings: [],
  timers: [],
  minutes: 30,
  assetId: null,
  clientId: 'c',
  assetClientId: null,
  contactIsPlaceholder: false,
  resolution: 'New roll',
  replyOwed: false,
  pendingCharges: [],
  feeHint: null,
  fee: null,
  condition: { ticket: { kind: 'incident', priority: 'P2', minutes: 30 }, field: {} },
};
const asked = (resolved: ClosingRules): ClosingBook => ({ rules: { resolved }, conditions: [], fields: [] });
const ALL = Object.fromEntries(KINDS.map((kind) => [kind, CLOSING_CHECK_NAMES]));

describe('closing checks', () => {
  it('name each thing that stands in the way, with the row it is about', () => {
    const facts: ClosingFacts = {
      ...NOTHING,
      checklist: [
        { id: 'i1', text: 'Label the cable', answered: false },
        { id: 'i2', text: 'Tell reception', answered: true },
      ],
      bookings: [
        { id: 'b1', person: 'Deepa', over: true, open: true },
        { id: 'b2', person: null, over: false, open: true },
        { id: 'b3', person: 'Sora', over: true, open: false },
      ],
      timers: [{ id: 't1', person: 'Yusuf' }],
      minutes: 0,
      assetId: 'a',
      assetClientId: 'another',
      replyOwed: true,
    };
    expect(standsInTheWay(asked(DEFAULT_CLOSING_RULES), facts, 'resolved')).toEqual([
      { check: 'open checklist items', what: 'not answered: Label the cable', id: 'i1' },
      { check: 'open bookings', what: 'a past booking of Deepa is still open', id: 'b1' },
      { check: 'open bookings', what: 'a coming booking of nobody is still open', id: 'b2' },
      { check: 'running timers', what: 'the timer of Yusuf runs', id: 't1' },
      { check: 'no time logged', what: 'no time is logged', id: null },
      { check: 'asset of another client', what: 'the asset belongs to another client', id: null },
      { check: 'unanswered message', what: 'the client waits for an answer', id: null },
    ]);
  });

  it('ask of a kind only what its rules say', () => {
    const facts = {
      ...NOTHING,
      minutes: 0,
      resolution: ' ',
      pendingCharges: [{ id: 'c1', words: 'Cable, €4.00' }],
      contactIsPlaceholder: true,
    };
    expect(standsInTheWay(asked(DEFAULT_CLOSING_RULES), { ...facts, kind: 'internal' }, 'resolved')).toEqual([]);
    expect(standsInTheWay(asked({}), facts, 'resolved')).toEqual([]);
    expect(standsInTheWay(asked(ALL), facts, 'resolved').map((o) => o.check)).toEqual([
      'no time logged',
      'no asset',
      'placeholder contact',
      'no resolution text',
      'pending charges',
    ]);
  });

  it('find nothing where nothing is open, and more where more is', () => {
    const asset = { ...NOTHING, assetId: 'a', assetClientId: 'c' };
    expect(standsInTheWay(asked(ALL), asset, 'resolved')).toEqual([]);
    fc.assert(
      fc.property(fc.array(fc.boolean(), { maxLength: 6 }), fc.array(fc.boolean(), { maxLength: 6 }), (items, bookings) => {
        const facts: ClosingFacts = {
          ...asset,
          checklist: items.map((answered, i) => ({ id: `${i}`, text: 'x', answered })),
          bookings: bookings.map((open, i) => ({ id: `${i}`, person: 'P', over: true, open })),
        };
        const open = items.filter((answered) => !answered).length + bookings.filter(Boolean).length;
        expect(standsInTheWay(asked(ALL), facts, 'resolved').length).toBe(open);
      }),
    );
  });

  it('ask other moves for what is set for them, and nothing more', () => {
    const facts = { ...NOTHING, minutes: 0, timers: [{ id: 't1', person: 'Yusuf' }] };
    const book: ClosingBook = { ...asked(ALL), rules: { 'on hold': { incident: ['running timers'] } } };
    expect(standsInTheWay(book, facts, 'on hold').map((o) => o.check)).toEqual(['running timers']);
    expect(standsInTheWay(book, facts, 'resolved')).toEqual([]);
  });

  it('ask for fields and own conditions, which may look at where the ticket goes', () => {
    const book: ClosingBook = {
      rules: {},
      fields: [
        {
          id: 'f',
          on: 'ticket',
          name: 'Cause',
          kind: 'text',
          choices: [],
          shown: true,
          required: { '===': [{ var: 'ticket.priority' }, 'P2'] },
          asked: ['resolving'],
        },
        {
          id: 'g',
          on: 'ticket',
          name: 'Seat',
          kind: 'text',
          choices: [],
          shown: true,
          required: { '===': [{ var: 'ticket.to' }, 'underway'] },
          asked: ['moving'],
        },
      ],
      conditions: [
        { id: 'c', name: 'too little time', kinds: ['incident'], moves: ['resolved'], rule: { '<': [{ var: 'ticket.minutes' }, 45] } },
        { id: 'd', name: 'of another kind', kinds: ['alert'], moves: ['resolved'], rule: true },
      ],
    };
    expect(standsInTheWay(book, NOTHING, 'resolved')).toEqual([
      { check: 'missing field', what: 'Cause is not filled', id: 'f' },
      { check: 'own condition', what: 'too little time', id: 'c' },
    ]);
    expect(standsInTheWay(book, NOTHING, 'underway').map((o) => o.id)).toEqual(['g']);
    const filled = {
      ...NOTHING,
      minutes: 60,
      condition: { ...NOTHING.condition, ticket: { priority: 'P2', minutes: 60 }, field: { f: 'Ink' } },
    };
    expect(standsInTheWay(book, filled, 'resolved')).toEqual([]);
  });
});
