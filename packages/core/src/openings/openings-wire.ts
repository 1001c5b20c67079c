import { array } from 'yup';
import { count, defineRoutes, id, instant, list, oneOf, optionalInstant, record, text, whole, type Wire } from '../routes';

/** How many openings a client is offered at most, and for how long they are held, in minutes. */
export const MOST_OPENINGS = 3;
export const OFFER_STATES = ['held', 'taken', 'released'] as const;
export const openingSchema = record({ personId: id(), startsAt: instant(), minutes: whole(5, 1440) });
export const offerSchema = record({
  id: id(),
  state: oneOf(OFFER_STATES),
  offeredAt: instant(),
  heldUntil: instant(),
  to: text(),
  mailedAt: optionalInstant(),
  openings: list(record({ bookingId: id(), person: text(), startsAt: instant(), endsAt: instant() })),
});
export type OfferWire = Wire<typeof offerSchema>;

export const openingRoutes = defineRoutes({
  listOffers: {
    method: 'GET',
    path: '/tickets/:ticketId/offers',
    summary: 'Openings that the client was offered',
    permission: 'dispatch.read',
    answer: record({ offers: list(offerSchema) }),
  },
  offerOpenings: {
    method: 'POST',
    path: '/tickets/:ticketId/offers',
    summary: 'Offer the client real openings by mail; they are held, and the others let go once one is taken',
    permission: 'dispatch.book',
    body: record({
      openings: array(openingSchema).min(1, 'one at least').max(MOST_OPENINGS, `at most ${MOST_OPENINGS}`).defined(),
      holdMinutes: whole(15, 14 * 1440),
    }),
    answer: record({ id: id(), heldUntil: instant() }),
  },
  releaseOffer: {
    method: 'POST',
    path: '/offers/:offerId/release',
    summary: 'Let openings go that are still held',
    permission: 'dispatch.book',
    answer: record({ released: count() }),
  },
});
