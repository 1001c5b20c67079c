/** From where an event is looked at: from the record it happened to, or from the ticket that record belongs to. */
export type SeenFrom = 'own' | 'ticket';

/** What happened, after the name of who did it ("routed to Support"), and what more there is to say; null where it is not shown. */
export type EventWords = string | { readonly what: string; readonly detail: string | null | undefined } | null;

/** How each event of a domain is said. Meaning is read from the data alone, never from these. */
export type WordsOf<Events> = { readonly [Type in keyof Events]: (data: Events[Type], seen: SeenFrom) => EventWords };

/** What was, and what is. */
export type Was<T> = readonly [was: T, is: T];

export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
