/** What of a mail's head decides how it is treated; names in lower case. */
export interface MailHead {
  readonly headers: Readonly<Record<string, string>>;
  /** The envelope's return path; empty for bounces. */
  readonly returnPath: string;
}

export type MailKind = 'person' | 'automatic' | 'bounce' | 'own loop';

/** The header by which Drumline knows its own mail. */
export const OWN_HEADER = 'x-drumline-origin';

/**
 * Tells mail written by a person from what machines send, so that no answer sets off another.
 * Source: RFC 3834 section 2 and 5, RFC 3464.
 */
export function mailKindOf({ headers, returnPath }: MailHead): MailKind {
  if (headers[OWN_HEADER]) return 'own loop';
  if (returnPath === '' || /^multipart\/report\b/i.test(headers['content-type'] ?? '')) return 'bounce';
  const submitted = (headers['auto-submitted'] ?? 'no').trim().toLowerCase();
  if (!/^no\b/.test(submitted)) return 'automatic';
  if (/^\s*(bulk|junk|list|auto_reply)\b/i.test(headers['precedence'] ?? '')) return 'automatic';
  if (headers['list-id'] || headers['x-autoreply'] || headers['x-autorespond']) return 'automatic';
  return 'person';
}
