import fc from 'fast-check';
import { idsIn, type LiveEvent, touches } from '.';

const TOPICS = ['ticket', 'entry', 'booking'];
const id = fc.constantFrom('a', 'b', 'c', null);
const event: fc.Arbitrary<LiveEvent> = fc.record({
  topic: fc.constantFrom(...TOPICS),
  id,
  ticketId: id,
  clientId: id,
  personId: id,
  by: id,
});
const interest = fc.record({
  topics: fc.subarray(TOPICS),
  records: fc.array(fc.constantFrom<string>('a', 'b', 'c')).map((ids) => new Set(ids)),
  clientId: id,
  personId: id,
});

describe('what a change touches', () => {
  it('is nothing of another topic, and everything of its own where it names nothing', () => {
    fc.assert(
      fc.property(event, interest, (e, i) => {
        if (!i.topics.includes(e.topic)) expect(touches(e, i)).toBe(false);
        const nameless = { ...e, id: null, ticketId: null, clientId: null, personId: null };
        expect(touches(nameless, i)).toBe(i.topics.includes(e.topic));
      }),
    );
  });

  it('is only what shares a name with it', () => {
    fc.assert(
      fc.property(event, interest, (e, i) => {
        const names = [e.id, e.ticketId, e.clientId, e.personId].filter((n) => n !== null);
        if (!names.length || !i.topics.includes(e.topic)) return;
        const shared =
          [e.id, e.ticketId].some((n) => n !== null && i.records.has(n)) ||
          (e.clientId !== null && e.clientId === i.clientId) ||
          (e.personId !== null && e.personId === i.personId) ||
          (e.by !== null && e.by === i.personId);
        expect(touches(e, i)).toBe(shared);
      }),
    );
  });

  it('is everything of the topics of a screen that names nothing', () => {
    fc.assert(fc.property(event, (e) => expect(touches(e, { topics: ['ticket', 'entry'] })).toBe(e.topic !== 'booking')));
  });

  it('grows with what is shown', () => {
    fc.assert(
      fc.property(event, interest, fc.constantFrom<string>('a', 'b', 'c'), (e, i, more) => {
        if (touches(e, i)) expect(touches(e, { ...i, records: new Set([...i.records, more]) })).toBe(true);
      }),
    );
  });
});

describe('the ids of what was read', () => {
  it('are found at any depth, and nothing else is', () => {
    const [one, two] = ['00000000-0000-4000-8000-00000000000a', '00000000-0000-4000-8000-00000000000b'];
    expect(idsIn({ id: one, rows: [{ ticket: { id: two }, name: 'Orla', at: '2026-11-24' }], none: null, n: 3 })).toEqual(
      new Set([one, two]),
    );
    expect(idsIn(undefined)).toEqual(new Set());
  });
});
