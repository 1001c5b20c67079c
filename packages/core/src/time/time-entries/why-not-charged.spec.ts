import fc from 'fast-check';
import { isChargedByTime, NOT_CHARGED, whyNotCharged } from './why-not-charged';

describe('why time is charged to nobody', () => {
  it('says the first reason there is: for nobody, internal, a flat fee, not billable', () => {
    const time = { billable: false, clientId: null, ticketKind: 'internal' };
    expect(whyNotCharged(time)).toBe('internal');
    expect(whyNotCharged({ ...time, clientId: 'c' })).toBe('internal ticket');
    expect(whyNotCharged({ ...time, clientId: 'c', ticketKind: 'flat-fee job' })).toBe('flat fee');
    expect(whyNotCharged({ ...time, clientId: 'c', ticketKind: 'incident' })).toBe('not billable');
    expect(whyNotCharged({ billable: true, clientId: 'c', ticketKind: null })).toBeUndefined();
  });

  it('is nothing exactly where it is for a client, by the hour and billable', () => {
    const times = fc.record({
      billable: fc.boolean(),
      clientId: fc.constantFrom('c', null),
      ticketKind: fc.constantFrom('incident', 'service request', 'alert', 'sales follow-up', 'internal', 'flat-fee job', null),
    });
    fc.assert(
      fc.property(times, (time) => {
        const charged = time.billable && time.clientId !== null && !['internal', 'flat-fee job'].includes(time.ticketKind ?? '');
        expect(isChargedByTime(time)).toBe(charged);
        const why = whyNotCharged(time);
        if (why) expect(NOT_CHARGED[why]).toContain('no charge');
      }),
    );
  });
});
