import fc from 'fast-check';
import { parseCalendar, parseInstant } from '../../ground';
import { escalates } from '.';

const office = parseCalendar({
  name: 'office hours',
  zone: 'Europe/Dublin',
  week: [...Array(5).fill(['08:00-18:00']), [], []],
  dates: { '2026-11-25': [] },
});
const at = (text: string) => parseInstant(`2026-11-${text}:00Z`);

describe('escalation', () => {
  it('rings for a priority contact outside working hours only', () => {
    const one = (when: string, priorityContact: boolean) => escalates(office, 3, { at: at(when), priorityContact, messages: 1 });
    expect(one('24T17:59', true)).toBeUndefined();
    expect(one('24T18:00', true)).toBe('a priority contact wrote outside working hours');
    expect(one('25T12:00', true)).toBe('a priority contact wrote outside working hours');
    expect(one('28T12:00', true)).toBe('a priority contact wrote outside working hours');
    expect(one('24T22:00', false)).toBeUndefined();
  });

  it('rings for anybody at every so many messages without an answer, and never before', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 2, max: 20 }), (messages, after) => {
        const rung = escalates(office, after, { at: at('24T10:00'), priorityContact: false, messages });
        expect(rung !== undefined).toBe(messages % after === 0);
      }),
    );
    expect(escalates(office, 3, { at: at('24T10:00'), priorityContact: false, messages: 3 })).toBe('they wrote 3 times without an answer');
  });
});
