/** What is known of how work on a ticket is mostly done; all are ids of activities. */
export interface ActivityHints {
  /** It was a visit, or is booked as one. */
  readonly onSite: boolean;
  /** What may be chosen on the ticket's kind, the first of them proposed where nothing usual is among them; empty is any. */
  readonly allowed: readonly string[];
  readonly deskUsual: string | null;
  readonly own: { readonly usual: string; readonly onSite: string };
}

/** The activity that is proposed: a visit's for a visit, else what is usual at the desk, else what its person mostly does. */
export function usualActivity({ onSite, allowed, deskUsual, own }: ActivityHints): string {
  const wanted = onSite ? [own.onSite] : [deskUsual, own.usual];
  const may = wanted.find((id): id is string => id !== null && (!allowed.length || allowed.includes(id)));
  return may ?? allowed[0] ?? own.usual;
}
