import { type Explanation, type Id, step } from '../../ground';
import { isOfPerson, type MailKind } from './mail-kind';

/** A ticket that a mail may belong to, as the store found it. */
export interface ThreadCandidate {
  readonly ticketId: Id<'ticket'>;
  /** Whether the sender wrote on this ticket, was written to there, or is a contact of its client. */
  readonly senderBelongs: boolean;
  /** Closed for longer than a reply reopens; it takes no more but thanks. */
  readonly closedForGood: boolean;
  /** Somebody of the house answered on it, noted, booked or recorded time, or it moved on from the queue. */
  readonly worked: boolean;
}

export interface ThreadQuestion {
  readonly kind: MailKind;
  /** Plainly thanks, which opens nothing. */
  readonly thanks: boolean;
  /** Of every message it cites, of those that cite it, and of those that cite what it cites; the nearest first. */
  readonly byReference: readonly ThreadCandidate[];
  /** By the token in the subject. */
  readonly byToken: ThreadCandidate | undefined;
  /** The ticket that the sender has already opened beside one of these, as somebody new in the talk. */
  readonly openedBeside: ThreadCandidate | undefined;
}

/** A second ticket of one talk: a double where nobody worked on it, else related, as two people may be at work. */
export interface Gathered {
  readonly ticketId: Id<'ticket'>;
  readonly as: 'double' | 'related';
}

export type Threading =
  | {
      readonly do: 'join';
      readonly ticketId: Id<'ticket'>;
      readonly quiet: boolean;
      /** Tickets that this mail shows to be of the same talk. */
      readonly gathers: readonly Gathered[];
      readonly why: Explanation;
    }
  | { readonly do: 'open'; readonly linkedTicketId: Id<'ticket'> | undefined; readonly why: Explanation }
  | { readonly do: 'keep aside'; readonly why: Explanation };

/**
 * Where a mail goes. What it cites comes first, whichever of the cited tickets its sender belongs to; then the token
 * in the subject. A mail that cites several tickets of its sender shows that they are one talk. Who belongs to neither opens a ticket of their own, linked for a person to decide, and goes on in
 * that one. What machines send joins quietly (nothing reopens, nothing is answered), and only where its sender belongs.
 */
export function threadMail({ kind, thanks, byReference, byToken, openedBeside }: ThreadQuestion): Threading {
  if (kind === 'own loop') return { do: 'keep aside', why: [step('our own mail came back: a loop')] };
  const quiet = !isOfPerson(kind);
  const cited = nearestOf(byReference);
  const own = cited ?? (byToken?.senderBelongs ? byToken : undefined);
  if (own?.closedForGood && !quiet && !thanks)
    return {
      do: 'open',
      linkedTicketId: own.ticketId,
      why: [step('the ticket it answers was closed too long ago to reopen: a new one, linked')],
    };
  if (own)
    return {
      do: 'join',
      ticketId: own.ticketId,
      quiet,
      gathers: quiet ? [] : gathered(byReference, own),
      why: [
        step(cited ? 'it refers to a message of this ticket' : "its subject carries this ticket's token, and the sender belongs to it"),
      ],
    };
  const other = byReference[0] ?? byToken;
  if (other && openedBeside && !openedBeside.closedForGood)
    return {
      do: 'join',
      ticketId: openedBeside.ticketId,
      quiet,
      gathers: [],
      why: [step('the sender is new in this talk, and has a ticket beside it')],
    };
  if (other)
    return {
      do: 'open',
      linkedTicketId: other.ticketId,
      why: [step('the sender does not belong to the ticket it refers to: a person decides')],
    };
  return { do: 'open', linkedTicketId: undefined, why: [step('no message or token of ours: a new ticket')] };
}

/** The nearest that the sender belongs to; where nobody worked on that, and somebody did on another, the other. */
function nearestOf(byReference: readonly ThreadCandidate[]): ThreadCandidate | undefined {
  const belongs = byReference.filter((each) => each.senderBelongs);
  const [nearest] = belongs;
  if (!nearest || nearest.worked) return nearest;
  return belongs.find((each) => each.worked && !each.closedForGood) ?? nearest;
}

function gathered(byReference: readonly ThreadCandidate[], own: ThreadCandidate): Gathered[] {
  return byReference
    .filter((each) => each.senderBelongs && !each.closedForGood && each.ticketId !== own.ticketId)
    .map(({ ticketId, worked }) => ({ ticketId, as: worked ? 'related' : 'double' }));
}
