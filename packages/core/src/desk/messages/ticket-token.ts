/** The mark that a subject carries: the ticket's number and a secret of six letters or digits. */
export interface TicketToken {
  readonly number: number;
  readonly secret: string;
}

const MARK = /\(ref (\d{1,9})-([a-z2-9]{6})\)/i;

export function findTicketToken(subject: string): TicketToken | undefined {
  const found = MARK.exec(subject);
  return found ? { number: Number(found[1]), secret: found[2]!.toLowerCase() } : undefined;
}

/** The subject of a reply, with the token once and "Re:" once. */
export function subjectWithToken(subject: string, token: TicketToken): string {
  const bare = plainSubject(subject);
  return `Re: ${bare} (ref ${token.number}-${token.secret})`;
}

/** A subject without reply prefixes and token; "(no subject)" where nothing is left. */
export function plainSubject(subject: string): string {
  const bare = subject
    .replace(MARK, '')
    .replace(/^(\s*(re|fwd?|aw|wg|sv|antw)\s*:\s*)+/i, '')
    .replace(/\s+/g, ' ')
    .trim();
  return bare || '(no subject)';
}
