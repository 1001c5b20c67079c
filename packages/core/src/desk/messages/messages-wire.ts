import { array, string } from 'yup';
import {
  defineRoutes,
  id,
  instant,
  MOST_UPLOADS,
  oneOf,
  optionalId,
  optionalInstant,
  optionalOneOf,
  record,
  text,
  type Wire,
} from '../../ground';
import { optionalActionTime } from '../action-time';
import { CALL_OUTCOMES, STATUSES } from '../tickets';

export const callSchema = record({
  way: oneOf(['in', 'out']),
  outcome: oneOf(CALL_OUTCOMES),
  text: text(1000),
  /** When it was, where that is not now; it takes its place by that. */
  at: optionalInstant(),
  /** Puts a call on the person's own day. */
  callBackAt: optionalInstant(),
  time: optionalActionTime(),
});
export type CallForm = Wire<typeof callSchema>;
/** Files that were put in while it was written. */
const uploadIds = () => array(id('upload')).max(MOST_UPLOADS, `at most ${MOST_UPLOADS} files`).default([]);
export const replySchema = record({
  text: text(50_000),
  time: optionalActionTime(),
  cc: array(string().defined().max(254).email('write an address')).defined().max(20),
  then: optionalOneOf(STATUSES),
  seenMessageId: optionalId('message'),
  uploadIds: uploadIds(),
});
export const noteSchema = record({ text: text(50_000), uploadIds: uploadIds(), time: optionalActionTime() });

export const messageRoutes = defineRoutes({
  replyToTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/replies',
    summary: 'Write to the client; it leaves after ten seconds',
    permission: 'tickets.work',
    body: replySchema,
    answer: record({ id: id('message'), leavesAt: instant() }),
  },
  takeBackReply: {
    method: 'POST',
    path: '/messages/:messageId/take-back',
    summary: 'Take a reply back before it leaves',
    permission: 'tickets.work',
    answer: record({ text: string().defined() }),
  },
  addNote: {
    method: 'POST',
    path: '/tickets/:ticketId/notes',
    summary: 'Write an inside note',
    permission: 'tickets.work',
    body: noteSchema,
    answer: record({ id: id('message') }),
  },
  writeCall: {
    method: 'POST',
    path: '/tickets/:ticketId/calls',
    summary: 'Write down a call; where the two spoke it counts as public contact',
    permission: 'tickets.work',
    body: callSchema,
    answer: record({ id: id('message') }),
  },
  getAttachment: {
    method: 'GET',
    path: '/attachments/:attachmentId',
    summary: 'An attachment as a download',
    permission: 'tickets.read',
    file: 'application/octet-stream',
    answer: text(),
  },
  getMessageSource: {
    method: 'GET',
    path: '/messages/:messageId/source',
    summary: 'The raw source of a mail',
    permission: 'tickets.read',
    file: 'message/rfc822',
    answer: text(),
  },
});
