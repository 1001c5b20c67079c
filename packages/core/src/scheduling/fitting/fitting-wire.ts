import { number } from 'yup';
import { PRIORITIES } from '../../desk';
import { count, defineRoutes, id, instant, list, optionalOneOf, optionalText, record, text, why, yes, type Wire } from '../../ground';

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
  ticketId: id(),
  number: count(),
  subject: text(),
  client: optionalText(),
  priority: optionalOneOf(PRIORITIES),
  needsVisit: yes(),
  estimateSays: text(),
  ...fitFields,
});
export type GapFitWire = Wire<typeof gapFitSchema>;
export const ticketFitSchema = record({ personId: id(), person: text(), ...fitFields });
export type TicketFitWire = Wire<typeof ticketFitSchema>;

export const fittingRoutes = defineRoutes({
  listGapFits: {
    method: 'GET',
    path: '/fits/gap',
    summary: 'The unbooked work that fits a gap of a technician, the best first',
    permission: 'dispatch.read',
    query: record({ personId: id(), from: instant(), to: instant() }),
    answer: record({ fits: list(gapFitSchema) }),
  },
  listTicketFits: {
    method: 'GET',
    path: '/tickets/:ticketId/fits',
    summary: 'Who can and when: the gaps that fit a ticket, the best first, from now over so many days',
    permission: 'dispatch.read',
    query: record({ days: number().integer().min(1).max(31, 'at most 31').default(5) }),
    answer: record({ fits: list(ticketFitSchema), minutes: count(), estimateSays: text() }),
  },
});
