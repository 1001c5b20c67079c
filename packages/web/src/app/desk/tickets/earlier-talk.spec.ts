import type { MessageWire, TicketWire } from '@core/desk';
import type { StoryWire } from '@core/ground';
import { beforeAll as beforeWhat, EarlierTalk, hasEarlier } from './earlier-talk';

const at = (n: number) => `2026-11-24T10:00:${String(n).padStart(2, '0')}Z`;
const message = (n: number) => ({ id: `m${String(n).padStart(2, '0')}`, at: at(n) }) as MessageWire;
const line = (n: number | null) => ({ id: n === null ? null : `e${String(n).padStart(2, '0')}`, at: at(n ?? 0), what: 'x' }) as StoryWire;
/** A ticket read with the newest three of each. */
const ticket = (all: number, id = 't1') => {
  const first = Math.max(1, all - 2);
  const numbers = Array.from({ length: all - first + 1 }, (_, n) => first + n);
  const story = [...(first > 1 ? [line(null)] : []), ...numbers.map(line)];
  return { id, messages: numbers.map(message), earlierMessages: first - 1, story } as unknown as TicketWire;
};
const shown = (t: TicketWire) => t.messages.map((m) => m.id).join(' ');

describe('the earlier talk of a ticket', () => {
  it('is asked for before the first that is shown, and stands before it', () => {
    const talk = new EarlierTalk();
    const t = talk.with(ticket(5));
    expect([shown(t), t.earlierMessages, hasEarlier(t), beforeWhat(t)]).toEqual(['m03 m04 m05', 2, true, { message: 'm03', event: 'e03' }]);
    talk.add({ messages: [message(1), message(2)], story: [line(1), line(2)] });
    const all = talk.with(ticket(5));
    expect([shown(all), all.earlierMessages, hasEarlier(all)]).toEqual(['m01 m02 m03 m04 m05', 0, false]);
    expect(all.story.map((s) => s.id)).toEqual(['e01', 'e02', 'e03', 'e04', 'e05']);
  });

  it('leaves no gap where newer ones push out what was shown', () => {
    const talk = new EarlierTalk();
    talk.with(ticket(5));
    talk.add({ messages: [message(1), message(2)], story: [line(1), line(2)] });
    expect(shown(talk.with(ticket(7)))).toBe('m01 m02 m03 m04 m05 m06 m07');
  });

  it('is of one ticket, and says that there is more of its story', () => {
    const talk = new EarlierTalk();
    talk.with(ticket(9));
    const other = talk.with(ticket(2, 't2'));
    expect([shown(other), hasEarlier(other)]).toEqual(['m01 m02', false]);
    const first = talk.with(ticket(9));
    talk.add({ messages: [message(5), message(6)], story: [line(null), line(5), line(6)] });
    const more = talk.with(ticket(9));
    expect([first.earlierMessages, more.earlierMessages, hasEarlier(more), more.story[0]!.id]).toEqual([6, 4, true, null]);
  });

  it('keeps the order of the server at one instant, and nothing that was split off', () => {
    const talk = new EarlierTalk();
    const [first, second] = [
      { id: 'z', at: at(1) },
      { id: 'a', at: at(1) },
    ] as MessageWire[];
    const t = { id: 't1', messages: [first, second], earlierMessages: 0, story: [] } as unknown as TicketWire;
    expect(shown(talk.with(t))).toBe('z a');
    expect(shown(talk.with({ ...t, messages: [second!] }))).toBe('a');
  });
});
