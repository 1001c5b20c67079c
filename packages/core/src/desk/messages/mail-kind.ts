/** What of a mail's head decides how it is treated; names in lower case. */
export interface MailHead {
  readonly headers: Readonly<Record<string, string>>;
  /** The envelope's return path; empty for what must not be answered (RFC 5321, 4.5.5). */
  readonly returnPath: string;
  /** It carries our mark, signed by us for just this message. */
  readonly ownSignature: boolean;
}

/** 'list' is a person who writes through a group: treated as a person, and never answered automatically. */
export type MailKind = 'person' | 'list' | 'automatic' | 'report' | 'own loop';

/** The header by which Drumline knows its own mail. Its value is a signature: anybody can write a name. */
export const OWN_HEADER = 'x-drumline-origin';

/**
 * Tells mail written by a person from what machines send, so that no answer sets off another.
 * Source: RFC 3834 sections 2 and 5, RFC 3464 section 2, RFC 2919 (List-Id).
 */
export function mailKindOf({ headers, returnPath, ownSignature }: MailHead): MailKind {
  if (ownSignature) return 'own loop';
  const type = headers['content-type'] ?? '';
  if (/^multipart\/report\b/i.test(type) && /report-type\s*=\s*"?delivery-status/i.test(type)) return 'report';
  const submitted = (headers['auto-submitted'] ?? 'no').trim().toLowerCase();
  if (!/^no\b/.test(submitted)) return 'automatic';
  if (returnPath === '') return 'automatic';
  if (/^\s*(bulk|junk|auto_reply)\b/i.test(headers['precedence'] ?? '')) return 'automatic';
  if (headers['x-autoreply'] || headers['x-autorespond']) return 'automatic';
  return headers['list-id'] || /^\s*list\b/i.test(headers['precedence'] ?? '') ? 'list' : 'person';
}

/** Whether a person wrote it, by themselves or through a group. */
export function isOfPerson(kind: MailKind): boolean {
  return kind === 'person' || kind === 'list';
}
