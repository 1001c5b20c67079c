import fc from 'fast-check';
import type { Instant } from '../../ground';
import { proposeMinutes } from '.';

const at = (minute: number) => (1_800_000_000 + minute * 60) as Instant;
const none = { timerSeconds: null, booking: null, recordedUntil: null, history: [] };

describe('how long an action took', () => {
  it('goes by the timer, then the booking, then what was before', () => {
    const booking = { from: at(0), to: at(60) };
    const history = [5, 5, 10, 10, 15, 15, 20, 200];
    expect(proposeMinutes({ ...none, timerSeconds: 1_530, booking, history }, at(50))).toEqual({ minutes: 26, from: 'timer' });
    expect(proposeMinutes({ ...none, booking, history }, at(50))).toEqual({ minutes: 50, from: 'booking' });
    expect(proposeMinutes({ ...none, booking, history }, at(90))).toEqual({ minutes: 60, from: 'booking' });
    expect(proposeMinutes({ ...none, booking, recordedUntil: at(40), history }, at(50))).toEqual({ minutes: 10, from: 'booking' });
    expect(proposeMinutes({ ...none, booking, recordedUntil: at(55), history }, at(50))).toEqual({ minutes: 10, from: 'history' });
    expect(proposeMinutes({ ...none, history: history.slice(1) }, at(50))).toEqual({ minutes: 0, from: 'nothing' });
  });

  it('never proposes more of a booking than is over and not recorded', () => {
    fc.assert(
      fc.property(fc.nat(600), fc.nat(600), fc.nat(1200), fc.nat(1200), (start, length, until, now) => {
        const booking = { from: at(start), to: at(start + length) };
        const { minutes, from } = proposeMinutes({ ...none, booking, recordedUntil: at(until) }, at(now));
        if (from === 'booking') {
          expect(minutes).toBeLessThanOrEqual(length);
          expect(Math.max(start, until) + minutes).toBeLessThanOrEqual(now);
        } else expect(minutes).toBe(0);
      }),
    );
  });

  it('is never nothing of a timer', () => {
    expect(proposeMinutes({ ...none, timerSeconds: 3 }, at(0))).toEqual({ minutes: 1, from: 'timer' });
  });
});
