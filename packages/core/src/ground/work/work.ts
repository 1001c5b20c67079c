import type { Id } from '../ids';
import { count, id, oneOf, text } from '../routes';

/** What can be booked, timed, approved and charged; the database knows of each piece which it is. */
export const WORK_KINDS = ['ticket', 'internal work', 'project task'] as const;
export type WorkKind = (typeof WORK_KINDS)[number];

/** Work as it is named wherever something is done on it. */
export interface NamedWork {
  readonly workId: Id<'work'>;
  readonly workKind: WorkKind;
  /** Of a ticket; other work has none. */
  readonly number: number | null;
  /** A ticket's subject, or the name of other work. */
  readonly subject: string;
}

/** The fields by which the API names work. */
export const workFields = {
  workId: id('work'),
  workKind: oneOf(WORK_KINDS),
  /** Of a ticket; other work has none. */
  number: count().nullable(),
  subject: text(),
};

/** What names work, of what may say far more. */
export function naming({ workId, workKind, number, subject }: NamedWork): NamedWork {
  return { workId, workKind, number, subject };
}

/** The ticket that work of the kind ticket is: its id is the same. */
export function ticketIdOf(workId: Id<'work'>): Id<'ticket'> {
  return workId as Id<'ticket'>;
}

/** Its number and subject, or its name. */
export function sayWork({ number, subject }: Pick<NamedWork, 'number' | 'subject'>): string {
  return number === null ? subject : `#${number} ${subject}`;
}

/** As little as tells it from others: its number, else its name. */
export function sayWorkShortly({ number, subject }: Pick<NamedWork, 'number' | 'subject'>): string {
  return number === null ? subject : `#${number}`;
}
