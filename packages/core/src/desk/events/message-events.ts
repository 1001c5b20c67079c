import { type Id, plural, type WordsOf } from '../../ground';
import type { CallOutcome, Look, Status } from '../tickets';

type Nothing = Record<never, never>;

/** What was said on a ticket, in and out, and how it was answered for. */
export interface MessageEvents {
  'ticket.message-received': Nothing;
  'ticket.message-sent': {
    readonly to: readonly string[];
    /** The update to the members of an umbrella that it was part of. */
    readonly updateId: Id<'member_update'> | null;
  };
  'ticket.reply-taken-back': Nothing;
  /** It was to move once the reply had left, and could not. */
  'ticket.not-moved-with-reply': { readonly to: Status; readonly why: string };
  'ticket.called': { readonly outcome: CallOutcome; readonly whom: string; readonly writtenLater: boolean };
  'ticket.reply-waived': { readonly reason: string };
  'ticket.reply-waiver-taken-back': { readonly reason: string };
  'ticket.mail-reached': { readonly address: string };
  'ticket.mail-delayed': { readonly address: string; readonly why: string };
  'ticket.mail-failed': { readonly address: string; readonly why: string };
  'ticket.looked-at': { readonly look: Look };
  'ticket.rang': { readonly people: readonly string[]; readonly why: string };
  'ticket.ringing-taken': Nothing;
  'ticket.members-written-to': { readonly mails: number; readonly asks: boolean; readonly text: string };
  'ticket.members-mail-taken-back': { readonly takenBack: number; readonly mails: number };
  /** Whoever answered is who did it; on the umbrella it says of which member. */
  'ticket.back-answered': { readonly back: boolean; readonly memberNumber: number | null };
  'ticket.status-link-revoked': Nothing;
}

const SPOKEN: Readonly<Record<CallOutcome, (whom: string) => string>> = {
  spoke: (whom) => `spoke with ${whom}`,
  'left a message': (whom) => `left ${whom} a message`,
  nobody: (whom) => `reached nobody, rang ${whom}`,
};

export const messageWords: WordsOf<MessageEvents> = {
  'ticket.message-received': () => 'wrote',
  'ticket.message-sent': ({ to }) => `wrote to ${to.join(', ')}`,
  'ticket.reply-taken-back': () => 'took a reply back before it left',
  'ticket.not-moved-with-reply': ({ to, why }) => ({ what: `not ${to} as asked with the reply`, detail: why }),
  'ticket.called': ({ outcome, whom, writtenLater }) => `${SPOKEN[outcome](whom)}${writtenLater ? ', written down later' : ''}`,
  'ticket.reply-waived': ({ reason }) => `waived the reply: ${reason}`,
  'ticket.reply-waiver-taken-back': ({ reason }) => `took back that the reply was waived (${reason})`,
  'ticket.mail-reached': ({ address }) => `our mail reached ${address}`,
  'ticket.mail-delayed': ({ address, why }) => `our mail to ${address} is delayed: ${why}`,
  'ticket.mail-failed': ({ address, why }) => sayMailFailed(address, why),
  'ticket.looked-at': ({ look }) => (look === 'third party' ? 'looked at what a third party wrote' : 'looked at what was not delivered'),
  'ticket.rang': ({ people, why }) => `rang ${people.join(', ') || 'nobody, for nobody is there to ring'}: ${why}`,
  'ticket.ringing-taken': () => 'has it: nobody else is rung',
  'ticket.members-written-to': ({ mails, asks, text }) => ({
    what: `${asks ? 'asked whether it is back' : 'wrote to the members'}: ${plural(mails, 'mail')}`,
    detail: text,
  }),
  'ticket.members-mail-taken-back': ({ takenBack, mails }) => `took ${takenBack} of ${mails} mails of an update back`,
  'ticket.back-answered': ({ back, memberNumber }) =>
    `says it ${back ? 'is back' : 'is not back'}${memberNumber === null ? '' : ` (#${memberNumber})`}`,
  'ticket.status-link-revoked': () => "revoked the address of the client's own page",
};

export function sayMailFailed(address: string, why: string): string {
  return `our mail to ${address} is not delivered: ${why}`;
}
