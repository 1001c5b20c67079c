import type { Id } from '../ids';
/** A change as screens are told of it: what it is about, the record, and what that belongs to; null where nothing is, or nobody knows. */
export interface LiveEvent {
  readonly topic: string;
  readonly id: string | null;
  readonly ticketId: Id<'ticket'> | null;
  readonly clientId: Id<'client'> | null;
  /** Whose record it is, such as of a booking or time entry. */
  readonly personId: Id<'person'> | null;
  /** Who caused it. */
  readonly by: string | null;
}

/** What a screen shows, so that it is read anew for that alone; without records, client and person it is everything of its topics. */
export interface Interest {
  readonly topics: readonly string[];
  /** Records that are shown, of any kind; a ticket stands for all that belongs to it. */
  readonly records?: ReadonlySet<string>;
  readonly clientId?: Id<'client'> | null;
  /** Whose records are shown, and what they do. */
  readonly personId?: Id<'person'> | null;
}

/** Whether a change may alter what a screen shows. One that names nothing may alter everything of its topic. */
export function touches(e: LiveEvent, { topics, records, clientId, personId }: Interest): boolean {
  if (!topics.includes(e.topic)) return false;
  if (records === undefined && clientId === undefined && personId === undefined) return true;
  if (e.id === null && e.ticketId === null && e.clientId === null && e.personId === null) return true;
  const has = (id: string | null) => id !== null && (records?.has(id) ?? false);
  const isOf = (id: string | null, whose: string | null | undefined) => id !== null && id === whose;
  return has(e.id) || has(e.ticketId) || isOf(e.clientId, clientId) || isOf(e.personId, personId) || isOf(e.by, personId);
}

const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** All ids that stand anywhere in what was read. */
export function idsIn(read: unknown): ReadonlySet<string> {
  const found = new Set<string>();
  const walk = (value: unknown): void => {
    if (typeof value === 'string') {
      if (ID.test(value)) found.add(value);
    } else if (typeof value === 'object' && value !== null) Object.values(value).forEach(walk);
  };
  walk(read);
  return found;
}
