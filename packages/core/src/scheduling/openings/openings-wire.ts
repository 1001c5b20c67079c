import { array, number } from 'yup';
import { count, defineRoutes, id, instant, list, optionalText, record, text, whole, yes, type Wire } from '../../ground';
import { workFitSchema } from '../fitting';

/** For how long openings can be held, in hours. */
export const HELD_HOURS = [1, 2, 4, 8, 24, 48] as const;
export const OPENINGS_PROPOSED = 3;
const MOST_OPENINGS = 5;

export const openingSchema = record({ personId: id('person'), startsAt: instant(), minutes: whole(5, 1440) });
export const offerOpeningsSchema = record({
  openings: array(openingSchema)
    .defined()
    .required()
    .min(1, 'choose at least one opening')
    .max(MOST_OPENINGS, `at most ${MOST_OPENINGS} openings`),
  heldHours: number()
    .typeError('a number of hours')
    .oneOf([...HELD_HOURS], `one of ${HELD_HOURS.join(', ')}`)
    .defined()
    .required(),
  onSite: yes(),
});
export type OfferOpeningsForm = Wire<typeof offerOpeningsSchema>;

export const openingRoutes = defineRoutes({
  proposeOpenings: {
    method: 'GET',
    path: '/tickets/:ticketId/openings',
    summary: 'Three openings that give the client a real choice, with who they would be offered to',
    permission: 'dispatch.book',
    query: record({ days: number().integer().min(1).max(31, 'at most 31').default(5) }),
    answer: record({ openings: list(workFitSchema), estimateSays: text(), to: optionalText(320) }),
  },
  offerOpenings: {
    method: 'POST',
    path: '/tickets/:ticketId/openings',
    summary: 'Hold openings and mail them to the client, who takes one by a press',
    permission: 'dispatch.book',
    body: offerOpeningsSchema,
    answer: record({ id: id('opening_set'), heldUntil: instant() }),
  },
  releaseOpenings: {
    method: 'DELETE',
    path: '/openings/:setId',
    summary: 'Let openings go before the client took one',
    permission: 'dispatch.book',
    answer: record({ released: count() }),
  },
});
