import { type Id, plural, type WordsOf } from '../../ground';

type Nothing = Record<never, never>;

export interface BookingEvents {
  /** One for each booking; that a ticket was booked, for whom and how often, is told of the ticket too. */
  'booking.made': Nothing;
  'booking.held-as-opening': Nothing;
  'booking.taken-by-client': Nothing;
  /** It is no longer held in case: its work is booked by it. */
  'booking.became-sure': { readonly workId: Id<'work'> };
  'booking.begun': { readonly workId: Id<'work'> };
  'booking.moved': Nothing;
  'booking.moved-with-others': Nothing;
  'booking.changed': Nothing;
  'booking.handed-over': { readonly personId: Id<'person'> | null; readonly person: string };
  'booking.done': Nothing;
  'booking.not-done-after-all': Nothing;
  'booking.cancelled': { readonly reason: string | null };
  'booking.brought-back': Nothing;
  'booking.fitted': Nothing;
  /** Why an opening's booking was let go; the ticket is told once how its openings ended. */
  'booking.let-go': { readonly why: string };
  'booking.moved-to-umbrella': { readonly umbrellaId: Id<'ticket'>; readonly number: number };
  'ticket.booked': { readonly people: readonly string[]; readonly tentative: boolean; readonly times: number };
  'ticket.openings-offered': { readonly openings: readonly string[]; readonly heldUntil: string };
  'ticket.opening-taken': { readonly opening: string };
  'ticket.openings-ended': { readonly why: string };
  'ticket.needs-visit-set': { readonly needsVisit: boolean };
  'ticket.estimate-set': { readonly minutes: number | null };
  'person.calendar-read-in': { readonly name: string };
  'person.calendar-removed': Nothing;
  'person.feed-made': Nothing;
}

/** Of the ticket it is said that it is a booking. */
const on = (seen: 'own' | 'ticket', what: string) => (seen === 'ticket' ? `booking ${what}` : what);

export const bookingWords: WordsOf<BookingEvents> = {
  'booking.made': (_, seen) => (seen === 'own' ? 'booked' : null),
  'booking.held-as-opening': (_, seen) => (seen === 'own' ? 'held as an opening' : null),
  'booking.taken-by-client': (_, seen) => (seen === 'own' ? 'taken by the client' : null),
  'booking.became-sure': (_, seen) => (seen === 'own' ? 'became sure' : null),
  'booking.begun': (_, seen) => on(seen, 'begun'),
  'booking.moved': (_, seen) => on(seen, 'moved'),
  'booking.moved-with-others': (_, seen) => (seen === 'own' ? 'moved with the others' : null),
  'booking.changed': (_, seen) => on(seen, 'changed'),
  'booking.handed-over': ({ person }, seen) => on(seen, `handed over to ${person}`),
  'booking.done': () => 'booking done',
  'booking.not-done-after-all': () => 'booking not done after all',
  'booking.cancelled': ({ reason }) => ({ what: 'booking cancelled', detail: reason }),
  'booking.brought-back': () => 'booking brought back',
  'booking.fitted': (_, seen) => (seen === 'own' ? 'fitted its span to the time that was logged' : null),
  'booking.let-go': ({ why }, seen) => (seen === 'own' ? { what: 'booking cancelled', detail: why } : null),
  'booking.moved-to-umbrella': ({ number }, seen) => (seen === 'own' ? `moved to umbrella #${number}` : null),
  'ticket.booked': ({ people, tentative, times }) =>
    `${tentative ? 'tentatively ' : ''}booked for ${people.join(' and ')}${times > 1 ? `, ${times} times` : ''}`,
  'ticket.openings-offered': ({ openings, heldUntil }) => ({
    what: `offered ${openings.length === 1 ? 'an opening' : plural(openings.length, 'opening')}, held until ${heldUntil}`,
    detail: openings.join('\n'),
  }),
  'ticket.opening-taken': ({ opening }) => `took an opening: ${opening}`,
  'ticket.openings-ended': ({ why }) => `openings ended: ${why}`,
  'ticket.needs-visit-set': ({ needsVisit }) => (needsVisit ? 'needs somebody on site' : 'needs nobody on site'),
  'ticket.estimate-set': ({ minutes }) => (minutes ? `estimated at ${minutes} min` : 'took the estimate away'),
  'person.calendar-read-in': ({ name }) => `reads the calendar ${name} in`,
  'person.calendar-removed': () => 'reads a calendar no more',
  'person.feed-made': () => 'made a secret address for the schedule',
};
