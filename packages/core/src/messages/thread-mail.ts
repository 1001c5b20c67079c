import { step, type Explanation } from '../explanation';
import type { MailKind } from './mail-kind';

/** A ticket that a mail may belong to, as the store found it. */
export interface ThreadCandidate {
  readonly ticketId: string;
  /** Whether the sender wrote on this ticket or is a contact of its client. */
  readonly senderBelongs: boolean;
  /** Closed for longer than a reply reopens; it takes no more but thanks. */
  readonly closedForGood: boolean;
}

export interface ThreadQuestion {
  readonly kind: MailKind;
  /** Plainly thanks, which opens nothing. */
  readonly thanks: boolean;
  /** By Message-ID, In-Reply-To and References, newest reference first. */
  readonly byReference: ThreadCandidate | undefined;
  /** By the token in the subject. */
  readonly byToken: ThreadCandidate | undefined;
}

export type Threading =
  | { readonly do: 'join'; readonly ticketId: string; readonly quiet: boolean; readonly why: Explanation }
  | { readonly do: 'open'; readonly linkedTicketId: string | undefined; readonly why: Explanation }
  | { readonly do: 'keep aside'; readonly why: Explanation };

/**
 * Where a mail goes. References come first; a token in the subject counts only from a sender who belongs
 * to that ticket or its client, else a new ticket is opened and linked for a person to decide. What
 * machines sent joins its ticket quietly (nothing reopens, nothing is answered) and never opens one,
 * save automatic notices that answer nothing of ours.
 */
export function threadMail({ kind, thanks, byReference, byToken }: ThreadQuestion): Threading {
  if (kind === 'own loop') return { do: 'keep aside', why: [step('our own mail came back: a loop')] };
  const quiet = kind !== 'person';
  const own = byReference?.senderBelongs ? byReference : byToken?.senderBelongs ? byToken : undefined;
  if (own?.closedForGood && !quiet && !thanks)
    return {
      do: 'open',
      linkedTicketId: own.ticketId,
      why: [step('the ticket it answers was closed too long ago to reopen: a new one, linked')],
    };
  if (byReference?.senderBelongs)
    return { do: 'join', ticketId: byReference.ticketId, quiet, why: [step('it refers to a message of this ticket')] };
  if (byToken?.senderBelongs)
    return {
      do: 'join',
      ticketId: byToken.ticketId,
      quiet,
      why: [step("its subject carries this ticket's token, and the sender belongs to it")],
    };
  const other = byReference ?? byToken;
  if (quiet && (other || kind === 'bounce')) {
    if (other && byReference)
      return { do: 'join', ticketId: other.ticketId, quiet, why: [step('sent by a machine in answer to this ticket')] };
    return { do: 'keep aside', why: [step('sent by a machine, and no ticket to join')] };
  }
  if (other)
    return {
      do: 'open',
      linkedTicketId: other.ticketId,
      why: [step('the sender does not belong to the ticket it refers to: a person decides')],
    };
  return { do: 'open', linkedTicketId: undefined, why: [step('no message or token of ours: a new ticket')] };
}
