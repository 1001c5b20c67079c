import { number } from 'yup';
import { PRIORITIES } from '../../desk';
import {
  count,
  defineRoutes,
  id,
  instant,
  list,
  oneOf,
  optionalOneOf,
  optionalText,
  record,
  text,
  why,
  type Wire,
  workFields,
  yes,
} from '../../ground';

const fitFields = {
  startsAt: instant(),
  endsAt: instant(),
  minutes: count(),
  travelBefore: count(),
  travelAfter: count(),
  points: count(),
  says: text(),
  why: why(),
};
export const gapFitSchema = record({
  ...workFields,
  client: optionalText(),
  priority: optionalOneOf(PRIORITIES),
  needsVisit: yes(),
  estimateSays: text(),
  ...fitFields,
});
export type GapFitWire = Wire<typeof gapFitSchema>;
export const workFitSchema = record({ personId: id('person'), person: text(), ...fitFields });
export type WorkFitWire = Wire<typeof workFitSchema>;

export const overrunSchema = record({
  bookingId: id('booking'),
  ...workFields,
  technician: text(),
  endedAt: instant(),
  /** The booking it runs into, and where that could go. */
  next: record({
    bookingId: id('booking'),
    version: count(),
    ...workFields,
    client: optionalText(),
    startsAt: instant(),
    minutes: count(),
  }),
  proposals: list(
    record({ how: oneOf(['move', 'hand over']), personId: id('person'), person: text(), startsAt: instant(), says: text(), why: why() }),
  ),
});
export type OverrunWire = Wire<typeof overrunSchema>;

export const fittingRoutes = defineRoutes({
  listOverruns: {
    method: 'GET',
    path: '/dispatch/overruns',
    summary: 'Bookings that run into the next, with where that could go',
    permission: 'dispatch.book',
    answer: record({ overruns: list(overrunSchema) }),
  },
  settleOverrun: {
    method: 'POST',
    path: '/dispatch/overruns/:bookingId/settled',
    summary: 'An overrun has been seen to',
    permission: 'dispatch.book',
    answer: record({ settled: count() }),
  },
  listGapFits: {
    method: 'GET',
    path: '/fits/gap',
    summary: 'The unbooked work that fits a gap of a technician, the best first',
    permission: 'dispatch.read',
    query: record({ personId: id('person'), from: instant(), to: instant() }),
    answer: record({ fits: list(gapFitSchema) }),
  },
  listWorkFits: {
    method: 'GET',
    path: '/work/:workId/fits',
    summary: 'Who can and when: the gaps that fit a piece of work, the best first, from now over so many days',
    permission: 'dispatch.read',
    query: record({ days: number().integer().min(1).max(31, 'at most 31').default(5) }),
    answer: record({ fits: list(workFitSchema), minutes: count(), estimateSays: text() }),
  },
});
