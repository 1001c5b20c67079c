import { PLAIN_BILLING_EVENTS } from '../../testing/billing-events';
import { PLAIN_EVENTS } from '../../testing/plain-events';
import type { Happenings } from './happening';
import { EVENT_TYPES, subjectOf, versionOf } from './happening';
import { readEvent, sayEvent } from './say-event';

const ID = '00000000-0000-4000-8000-000000000001';
const other = { ticketId: ID, number: 4479 };

const before = { holdReason: null, ownStatusId: null, resolvedAt: null, closedAt: null, closesAt: null, outcome: null, factIds: [] };

/** What is said of an event on its own record, and on the ticket that belongs to; null where nothing is. */
type Said = readonly [own: string | null, ticket?: string | null];
type Cases = { readonly [Type in keyof Happenings]?: readonly (readonly [Happenings[Type], Said])[] };

const CASES: Cases = {
  'ticket.opened': [
    [{ how: 'mail' }, ['opened it by a mail']],
    [{ how: 'form', form: 'New starter' }, ['opened it with the form New starter']],
    [{ how: 'hand', whom: 'Orla Devane' }, ['opened it by hand for Orla Devane']],
    [{ how: 'call', whom: 'Orla Devane' }, ['opened it on a call of Orla Devane']],
    [{ how: 'umbrella', desk: 'Support', priority: 'P1' }, ['opened it as an umbrella at Support, P1']],
  ],
  'ticket.routed': [
    [
      {
        deskId: ID,
        desk: 'Support',
        kind: 'incident',
        ownKind: null,
        categoryId: ID,
        category: 'Connections',
        priority: [null, 'P2'],
        assigneeId: ID,
        assignee: 'Deepa Raman',
        why: [{ rule: 'least loaded', figure: { unit: 'text', value: '3 open' } }, { rule: 'has the skill' }],
      },
      ['routed to Support as incident, Connections, P2, assigned to Deepa Raman | least loaded 3 open; has the skill'],
    ],
  ],
  'ticket.assigned': [
    [{ assigneeId: ID, assignee: [null, 'Deepa Raman'] }, ['assigned to Deepa Raman']],
    [{ assigneeId: null, assignee: ['Deepa Raman', null] }, ['assigned to nobody']],
  ],
  'ticket.moved': [
    [{ status: ['queued', 'underway'], holdReason: null, ownStatusId: null, ownStatus: null, before }, ['underway']],
    [
      { status: ['queued', 'on hold'], holdReason: 'client', ownStatusId: null, ownStatus: null, before },
      ['on hold, waiting for the client'],
    ],
    [
      { status: ['queued', 'on hold'], holdReason: 'supplier', ownStatusId: ID, ownStatus: 'Part on order', before },
      ['Part on order (on hold, waiting for the supplier)'],
    ],
  ],
  'ticket.move-undone': [[{ status: ['on hold', 'booked'], movedAt: '2026-11-24T10:40:00Z' }, ['undid that it was on hold: booked again']]],
  'ticket.changed': [
    [{ priority: ['P3', 'P1'], changes: { priority: ['P3', 'P1'] } }, ['changed priority from P3 to P1']],
    [{ priority: ['P3', 'P3'], changes: { client_id: [null, ID], subject: ['a', 'b'] } }, ['changed client, subject from a to b']],
    [{ priority: ['P3', 'P3'], changes: {} }, ['changed nothing']],
  ],
  'ticket.kind-changed': [
    [
      { kind: ['incident', 'service request'], ownKind: null },
      ['changed from incident to service request: its promises, closing checks and billing hold now'],
    ],
    [
      { kind: ['incident', 'service request'], ownKind: 'lid on loan' },
      ['changed from incident to lid on loan: its promises, closing checks and billing hold now'],
    ],
  ],
  'ticket.time-rated-anew': [
    [{ rated: 2, kept: 1 }, ['2 entries rated anew, 1 kept as decided']],
    [{ rated: 1, kept: 0 }, ['1 entry rated anew, 0 kept as decided']],
  ],
  'ticket.handed-over': [
    [
      { deskId: [null, ID], desk: 'Field', line: [null, 'second'], assigneeId: [null, null], assignee: null, tried: 'a new cable' },
      ['handed to Field, second line | a new cable'],
    ],
  ],
  'ticket.mail-rule-applied': [
    [{ ruleId: ID, rule: 'Backups', did: 'looked' }, ['looked at by the mail rule Backups']],
    [{ ruleId: ID, rule: 'Backups', did: 'sorted' }, ['sorted by the mail rule Backups']],
  ],
  'ticket.fee-set': [
    [
      { feeId: ID, fee: 'New laptop', quantity: 2, asked: true, insteadOfChargeId: null },
      ['is 2 × New laptop at a flat fee; the client is asked'],
    ],
    [{ feeId: ID, fee: 'New laptop', quantity: 1, asked: false, insteadOfChargeId: ID }, ['is 1 × New laptop at a flat fee']],
  ],
  'ticket.fee-job-ended': [
    [{ result: 'success', note: null }, ['the job succeeded']],
    [{ result: 'failed', note: 'no power' }, ['the job failed: no power | no power']],
  ],
  'ticket.due-soon': [
    [{ clock: 'First reply', left: '30 min', percent: 80 }, ['First reply is due in 30 min: 80 % of the promise is used']],
  ],
  'ticket.called': [
    [{ outcome: 'spoke', whom: 'Orla', writtenLater: false }, ['spoke with Orla']],
    [{ outcome: 'left a message', whom: 'Orla', writtenLater: true }, ['left Orla a message, written down later']],
    [{ outcome: 'nobody', whom: 'Orla', writtenLater: false }, ['reached nobody, rang Orla']],
  ],
  'ticket.rang': [
    [{ people: ['Deepa', 'Sora'], why: 'a P1' }, ['rang Deepa, Sora: a P1']],
    [{ people: [], why: 'a P1' }, ['rang nobody, for nobody is there to ring: a P1']],
  ],
  'ticket.back-answered': [
    [{ back: true, memberNumber: null }, ['says it is back']],
    [{ back: false, memberNumber: 4479 }, ['says it is not back (#4479)']],
  ],
  'ticket.related': [
    [{ ticketId: ID, number: 4479, asTalk: false }, ['related to #4479']],
    [{ ticketId: ID, number: null, asTalk: true }, ['related to a ticket of the same talk, as a mail cites both']],
  ],
  'ticket.merged': [[{ into: other }, ['merged into #4479']]],
  'ticket.took-double': [[{ double: other, messages: 3 }, ['took in its double #4479: 3 messages']]],
  'ticket.members-client-set': [
    [{ clientId: ID, client: 'Hollin' }, ['stands for reports of Hollin alone']],
    [{ clientId: null, client: null }, ['stands for reports of several clients: it belongs to us, and its time is charged to nobody']],
  ],
  'ticket.booked': [
    [{ people: ['Deepa', 'Sora'], tentative: true, times: 3 }, ['tentatively booked for Deepa and Sora, 3 times']],
    [{ people: ['Deepa'], tentative: false, times: 1 }, ['booked for Deepa']],
  ],
  'ticket.openings-offered': [
    [{ openings: ['Tue 9:00'], heldUntil: 'Mon 17:00' }, ['offered an opening, held until Mon 17:00 | Tue 9:00']],
    [{ openings: ['a', 'b'], heldUntil: 'Mon' }, ['offered 2 openings, held until Mon | a\nb']],
  ],
  'booking.made': [[{}, ['booked', null]]],
  'booking.moved': [[{}, ['moved', 'booking moved']]],
  'booking.handed-over': [[{ personId: ID, person: 'Sora' }, ['handed over to Sora', 'booking handed over to Sora']]],
  'booking.cancelled': [[{ reason: 'ill' }, ['booking cancelled | ill', 'booking cancelled | ill']]],
  'booking.let-go': [[{ why: 'nobody answered' }, ['booking cancelled | nobody answered', null]]],
  'entry.recorded': [[{ minutes: 30, note: 'new cable' }, ['recorded 30 min', 'recorded 30 min | new cable']]],
  'entry.removed': [[{ minutes: 30 }, ['removed', 'removed 30 min']]],
  'entry.changed': [[{ minutes: [30, 45], personId: ID, workId: [ID, ID] }, ['changed to 45 min', null]]],
  'entry.corrected': [
    [{ minutes: [30, 15], reason: 'lunch', byEntryId: ID }, ['corrected 30 min to 15 min | lunch', 'corrected 30 min to 15 min | lunch']],
  ],
  'entry.approved': [[{ remark: null }, ['approved it', null]]],
  'charge.added': [[{ itemId: ID, item: 'Cable', quantity: '2' }, ['added 2 × Cable', 'charged 2 × Cable']]],
  'charge.waived': [[{ reason: 'our fault' }, ['waived | our fault', null]]],
  'charges.approved': [[{ charges: 2, net: { minor: 12_050, currency: 'EUR' }, clientId: ID }, ['approved 2 charges over €120.50']]],
  'invoice.paid': [[{ amount: { minor: 12_050, currency: 'EUR' }, paymentId: ID, reference: 'transfer 7' }, ['€120.50 paid | transfer 7']]],
  'invoice.credited': [
    [
      { creditNoteId: ID, number: 'PHC-00041', gross: { minor: 12_050, currency: 'EUR' }, undoes: true, reason: 'twice' },
      ['credit note PHC-00041 over €120.50, its billing undone | twice'],
    ],
    [
      { creditNoteId: ID, number: 'PHC-00041', gross: { minor: 12_050, currency: 'EUR' }, undoes: false, reason: 'goodwill' },
      ['credit note PHC-00041 over €120.50, given back for good | goodwill'],
    ],
  ],
  'invoice.not-delivered': [[{ address: 'a@hollin.example', why: 'no such box' }, ['not delivered: a@hollin.example: no such box']]],
  'absence.moved': [
    [
      { personId: ID, move: 'asked for', kind: 'leave', from: '2026-12-01', to: '2026-12-02', length: '2 days' },
      ['asked for leave, 2026-12-01 to 2026-12-02, 2 days'],
    ],
    [
      { personId: ID, move: 'withdrew', kind: 'leave', from: '2026-12-01', to: '2026-12-02', length: null },
      ['withdrew leave of 2026-12-01 to 2026-12-02'],
    ],
  ],
  'person.skill-set': [
    [{ skill: 'Networks', level: 2 }, ['set the skill Networks to level 2']],
    [{ skill: 'Networks', level: null }, ['took the skill Networks away']],
  ],
  'client.promise-set': [
    [
      { promiseId: [null, ID], promise: 'Gold', calendarId: [null, null], calendar: null, openTicketsToo: true },
      ['set the promise to Gold on our calendar from now on, open tickets too'],
    ],
    [
      { promiseId: [ID, null], promise: null, calendarId: [null, ID], calendar: 'Round the clock', openTicketsToo: false },
      ['set the promise to that of the house on Round the clock from now on'],
    ],
  ],
  'desk.inside-reach-set': [
    [{ name: 'Support', reach: 'team' }, ["opened what is inside of Support's tickets to its team"]],
    [{ name: 'Support', reach: 'house' }, ["opened what is inside of Support's tickets to the house"]],
  ],
};

const joined = (said: ReturnType<typeof sayEvent>) => (said ? [said.what, said.detail].filter((part) => part !== null).join(' | ') : null);

describe('an event is said', () => {
  for (const [type, cases] of Object.entries(CASES))
    it.each(cases as [object, Said][])(`${type} %j`, (data, [own, ticket]) => {
      const stored = { type, version: 1, data };
      expect(joined(sayEvent(stored, 'own'))).toBe(own);
      if (ticket !== undefined) expect(joined(sayEvent(stored, 'ticket'))).toBe(ticket);
    });

  for (const [type, data, own, ticket] of [...PLAIN_EVENTS, ...PLAIN_BILLING_EVENTS])
    it(`${type} ${JSON.stringify(data)}`, () => {
      const stored = { type, version: 1, data };
      expect(joined(sayEvent(stored, 'own'))).toBe(own);
      if (ticket !== undefined) expect(joined(sayEvent(stored, 'ticket'))).toBe(ticket);
    });

  it('whatever its type: none is without a case here', () => {
    const cased = new Set<string>([...Object.keys(CASES), ...[...PLAIN_EVENTS, ...PLAIN_BILLING_EVENTS].map(([type]) => type)]);
    expect(EVENT_TYPES.filter((type) => !cased.has(type))).toEqual([]);
  });

  it('and refused where its type or its version is not known', () => {
    expect(() => readEvent({ type: 'ticket.vanished', version: 1, data: {} })).toThrow('ticket.vanished is not known');
    expect(() => readEvent({ type: 'toString', version: 1, data: {} })).toThrow('is not known');
    expect(() => readEvent({ type: 'ticket.routed', version: 0, data: {} })).toThrow('of version 0');
  });
});

describe('the types of events', () => {
  it('name the record they happened to, or else are of Setup', () => {
    expect([subjectOf('ticket.routed'), subjectOf('entry.recorded'), subjectOf('mail-rule.added'), subjectOf('setup.added')]).toEqual([
      'ticket',
      'entry',
      'house',
      'house',
    ]);
  });

  it('are written one way, and each has a version', () => {
    for (const type of EVENT_TYPES) {
      expect(type).toMatch(/^[a-z]+(-[a-z]+)*\.[a-z]+(-[a-z]+)*$/);
      expect(versionOf(type)).toBeGreaterThanOrEqual(1);
    }
  });
});
