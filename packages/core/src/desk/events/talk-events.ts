import { type Id, plural, type WordsOf } from '../../ground';

import type { Impact, Priority, Urgency } from '../priority';
import type { Kind, Status } from '../tickets';

interface OtherTicket {
  readonly ticketId: Id<'ticket'>;
  readonly number: number;
}

/** What resolving with its umbrella may change on a member beside the move, as it stood. */
export interface BeforeResolving {
  readonly kind: Kind;
  readonly impact: Impact | null;
  readonly urgency: Urgency | null;
  readonly priority: Priority | null;
  readonly deskId: Id<'desk'> | null;
  readonly resolution: string | null;
}

/** How tickets came to belong together, and apart. */
export interface TalkEvents {
  'ticket.merged': { readonly into: OtherTicket };
  'ticket.took-double': { readonly double: OtherTicket; readonly messages: number };
  'ticket.unmerged': { readonly from: OtherTicket; readonly messages: number };
  'ticket.double-left': { readonly double: OtherTicket };
  'ticket.split-off': { readonly from: OtherTicket };
  'ticket.message-split-off': { readonly to: OtherTicket; readonly author: string };
  'ticket.related': { readonly ticketId: Id<'ticket'>; readonly number: number | null; readonly asTalk: boolean };
  'ticket.unrelated': { readonly ticketId: Id<'ticket'> };
  'ticket.joined-umbrella': { readonly umbrella: OtherTicket; readonly was: Status };
  'ticket.member-joined': { readonly member: OtherTicket; readonly subject: string };
  'ticket.left-umbrella': { readonly umbrella: OtherTicket; readonly status: Status };
  'ticket.member-left': { readonly member: OtherTicket };
  'ticket.resolved-with-umbrella': { readonly umbrella: OtherTicket; readonly before: BeforeResolving };
  'ticket.back-under-umbrella': { readonly umbrella: OtherTicket };
  /** Whose tickets an umbrella stands for: one client's, or several's. */
  'ticket.members-client-set': { readonly clientId: Id<'client'> | null; readonly client: string | null };
}

export const talkWords: WordsOf<TalkEvents> = {
  'ticket.merged': ({ into }) => `merged into #${into.number}`,
  'ticket.took-double': ({ double, messages }) => `took in its double #${double.number}: ${plural(messages, 'message')}`,
  'ticket.unmerged': ({ from, messages }) =>
    `no longer merged into #${from.number}: ${plural(messages, 'message is', 'messages are')} back`,
  'ticket.double-left': ({ double }) => `#${double.number} stands by itself again`,
  'ticket.split-off': ({ from }) => `split off #${from.number}`,
  'ticket.message-split-off': ({ to, author }) => `a message of ${author} became #${to.number}`,
  'ticket.related': ({ number, asTalk }) =>
    asTalk ? 'related to a ticket of the same talk, as a mail cites both' : `related to #${number}`,
  'ticket.unrelated': () => 'took a relation away',
  'ticket.joined-umbrella': ({ umbrella }) => `joined umbrella #${umbrella.number}`,
  'ticket.member-joined': ({ member, subject }) => `took in #${member.number} ${subject}`,
  'ticket.left-umbrella': ({ umbrella }) => `left umbrella #${umbrella.number}`,
  'ticket.member-left': ({ member }) => `let #${member.number} go`,
  'ticket.resolved-with-umbrella': ({ umbrella }) => `resolved with umbrella #${umbrella.number}`,
  'ticket.back-under-umbrella': ({ umbrella }) => `under umbrella #${umbrella.number} again, whose resolving was undone`,
  'ticket.members-client-set': ({ client }) =>
    client
      ? `stands for reports of ${client} alone`
      : 'stands for reports of several clients: it belongs to us, and its time is charged to nobody',
};
