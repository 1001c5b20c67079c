import { count, defineRoutes, id, instant, list, oneOf, optionalId, optionalText, record, shape, text, whole, type Wire } from '../routes';
import { WAYS_IN, WHO_KINDS } from './who';

export const MOST_EVENTS = 500;
/** A reader's place in the log: the transaction and the id of the event it read last. */
const PLACE = /^\d{1,20}\.[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

export const eventSchema = record({
  id: id('event'),
  /** `record.what-happened`, such as ticket.routed. */
  type: text(80),
  /** Of the shape of its data. */
  version: count(),
  data: shape<Readonly<Record<string, unknown>>>(),
  record: text(40),
  recordId: id(),
  ticketId: optionalId('ticket'),
  clientId: optionalId('client'),
  contractId: optionalId(),
  projectId: optionalId(),
  divisionId: optionalId('division'),
  happenedAt: instant(),
  writtenAt: instant(),
  who: oneOf(WHO_KINDS),
  whoId: optionalId(),
  whoName: text(),
  via: oneOf(WAYS_IN),
  /** The event that led to it. */
  causeId: optionalId(),
});
export type EventWire = Wire<typeof eventSchema>;

export const eventRoutes = defineRoutes({
  readEvents: {
    method: 'GET',
    path: '/events',
    summary: 'All that happened, oldest first, from where a reader was: none is left out and none comes twice, however long it was away',
    permission: 'setup.read',
    query: record({
      /** The place that the last answer named; without it, from the first event on. */
      after: optionalText(60).default(null).matches(PLACE, 'the place that an answer named'),
      most: whole(1, MOST_EVENTS).default(MOST_EVENTS),
    }),
    answer: record({ events: list(eventSchema), place: optionalText(60) }),
  },
});
