import { string } from 'yup';
import { amount, count, date, defineRoutes, id, list, oneOf, optionalId, optionalText, record, text, type Wire, yes } from '../../ground';

/** The most characters of an entry's note. */
const NOTE_TEXT = 2000;

/** What was done for a client and charged to nobody. */
export const NEVER_CHARGED = ['not billable', 'no fee', 'new person', 'new device'] as const;
export type NeverChargedIs = (typeof NEVER_CHARGED)[number];

/** How far back is looked, in days, and how many of each are listed; sums are over all. */
export const NEVER_CHARGED_DAYS = 90;
export const MOST_NEVER_CHARGED = 200;

export const neverChargedSchema = record({
  is: oneOf(NEVER_CHARGED),
  clientId: id('client'),
  client: text(),
  ticketId: optionalId('ticket'),
  ticketNumber: count().nullable(),
  on: date(),
  /** Time: its note or ticket's subject; a job: its subject; a person or device: its name. */
  what: text(NOTE_TEXT),
  /** Who did the work. */
  person: optionalText(),
  minutes: count().nullable(),
  /** Why it is not billable, as it was said; or the fee that it looks like, and by what. */
  because: optionalText(600),
  /** What it would come to. */
  worth: amount(),
  /** Whether the work has a rate; without one its worth is not known. */
  isRated: yes(),
});
export type NeverChargedWire = Wire<typeof neverChargedSchema>;

/** The most reasons that are listed, the most frequent first. */
export const MOST_REASONS = 50;
export const neverChargedFilterSchema = record({ reason: string().max(300) });

export const neverChargedRoutes = defineRoutes({
  listNeverCharged: {
    method: 'GET',
    path: '/never-charged',
    summary: 'What was done for clients in the last 90 days and charged to nobody, with what it would come to',
    permission: 'charges.read',
    query: neverChargedFilterSchema,
    answer: record({
      from: date(),
      sums: list(record({ is: oneOf(NEVER_CHARGED), count: count(), worth: amount() })),
      /** Why time is not billable, as people said it; null is without a word. */
      reasons: list(record({ reason: optionalText(300), count: count(), worth: amount() })),
      /** Of time, what has no reason, or the one that is asked for; of the rest all. */
      rows: list(neverChargedSchema),
    }),
  },
});
