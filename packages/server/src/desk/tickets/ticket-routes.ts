import { readEarlier } from './read-messages';
import { setTicketFields } from './ticket-fields';
import { undoMove } from './undo-move';
import { type ActionTime, ticketRoutes, type TimedAction } from '@core/desk';
import { isRefusal, refuse, type Outcome } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { withTime } from '../action-time/with-time';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { writeCall } from '../messages/write-call';
import { addNote, replyToTicket, takeBackReply } from '../messages/write-messages';
import { revokeStatusLink } from '../umbrellas/status-links';
import { addChecklistItem, answerChecklistItem } from './checklist';
import { readOwed, unwaiveReply, waiveReply } from './reply-owed';
import { listTickets } from './ticket-list-read-model';
import { readSeesInside } from './read-sees-inside';
import { assignTicket, editTicket, setStatus } from './move-ticket';
import { openByHand } from './open-by-hand';
import { readCounts } from './read-counts';
import { readPad } from './ticket-pad';
import { readTicket } from './ticket-read-model';
import { setNotWork, triageTicket, untriageTicket } from './triage-ticket';

export function bindTickets(app: App) {
  const { house } = app;
  /** What is work carries its time; a status that is no end of work carries none. */
  const timed = <T>(
    work: Work,
    {
      ticketId,
      action,
      body: { time, text, inside },
      act,
    }: {
      readonly ticketId: string;
      readonly action: TimedAction | null;
      readonly body: { readonly time?: ActionTime | null | undefined; readonly text?: string; readonly inside?: boolean };
      readonly act: () => Promise<Outcome<T>>;
    },
  ) =>
    action
      ? withTime(work, house, { timed: { workId: ticketId, action, time, note: text ?? action, inside: inside ?? false }, act })
      : act();
  return bindRoutes(app, ticketRoutes, {
    listTickets: ({ db, query, now }) => listTickets(db, house, { filter: query, now }),
    getTicket: async ({ db, params, now, actor }) =>
      readTicket(db, house, { ticketId: params.ticketId, now, inside: await readSeesInside(db, actor, params.ticketId) }),
    getEarlier: async ({ db, params, query, actor }) =>
      readEarlier(db, params.ticketId, { ...query, inside: await readSeesInside(db, actor, params.ticketId) }),
    getTicketPad: ({ db, params, now }) => readPad(db, house, { ticketId: params.ticketId, now }),
    createTicket: ({ work, body }) => openByHand(app, work, body),
    triageTicket: ({ work, params, version, body }) => triageTicket(work, house, { ticketId: params.ticketId, version, triage: body }),
    untriageTicket: ({ work, params, version }) => untriageTicket(work, house, { ticketId: params.ticketId, version }),
    markNotWork: ({ work, params, version }) => setNotWork(work, house, { ticketId: params.ticketId, version, notWork: true }),
    restoreTicket: ({ work, params, version }) => setNotWork(work, house, { ticketId: params.ticketId, version, notWork: false }),
    editTicket: ({ work, params, version, body }) => editTicket(work, house, { ticketId: params.ticketId, version, edit: body }),
    setTicketStatus: ({ work, params, version, body }) =>
      timed(work, {
        ticketId: params.ticketId,
        action: body.status === 'resolved' ? 'resolve' : null,
        body,
        act: () =>
          setStatus(work, house, {
            ticketId: params.ticketId,
            version,
            to: body.status,
            holdReason: body.holdReason ?? null,
            ownStatusId: body.ownStatusId ?? null,
            override: body.override ?? null,
          }),
      }),
    assignTicket: ({ work, params, version, body }) => assignTicket(work, { ticketId: params.ticketId, version, personId: body.personId }),
    replyToTicket: ({ work, params, body }) =>
      timed(work, {
        ticketId: params.ticketId,
        action: 'reply',
        body,
        act: () => replyToTicket(app, work, { ticketId: params.ticketId, reply: body }),
      }),
    takeBackReply: ({ work, params }) => takeBackReply(work, params.messageId),
    revokeOwnPage: async ({ work, params }) => ({ revoked: await revokeStatusLink(work, params.ticketId) }),
    addNote: ({ work, params, body }) =>
      timed(work, {
        ticketId: params.ticketId,
        action: 'note',
        body: { ...body, inside: true },
        act: () => addNote(work, { ticketId: params.ticketId, text: body.text, uploadIds: body.uploadIds }),
      }),
    writeCall: ({ work, params, body }) =>
      timed(work, {
        ticketId: params.ticketId,
        action: 'call',
        body: { ...body, inside: body.outcome !== 'spoke' },
        act: () => writeCall(work, house, { ticketId: params.ticketId, call: body }),
      }),
    undoTicketMove: ({ work, params, version }) => undoMove(work, params.ticketId, version),
    waiveReply: ({ work, params, body }) => waiveReply(work, params.ticketId, body.reason),
    unwaiveReply: ({ work, params }) => unwaiveReply(work, house, params.ticketId),
    setResolution: async ({ work, params, version, body }) => {
      const changed = await changeRow(work, { table: 'ticket', id: params.ticketId, version, set: { resolution: body.resolution } });
      if (!isRefusal(changed)) await work.tell('ticket.resolution-written', params.ticketId, {});
      return changed;
    },
    setTicketFields: ({ work, params, version, body }) =>
      setTicketFields(work, house, { ticketId: params.ticketId, version, given: body.values }),
    getOwed: ({ db }) => readOwed(db),
    addChecklistItem: ({ work, params, body }) => addChecklistItem(work, params.ticketId, body),
    answerChecklistItem: ({ work, params, body }) => answerChecklistItem(work, params.itemId, body.answer ?? null),
    getAttachment: async ({ db, params, actor }) => {
      const found = await db('attachment as a')
        .join('message as m', 'm.id', 'a.message_id')
        .where('a.id', params.attachmentId)
        .first('a.blob', 'a.name', 'm.ticket_id', 'm.direction');
      if (!found) return refuse('not-found', 'There is no such attachment.');
      if (found.direction === 'note' && !(await readSeesInside(db, actor, found.ticket_id))) return forTheTeam();
      return { bytes: await app.blobs.get(found.blob), name: found.name, mediaType: 'application/octet-stream' };
    },
    getMessageSource: async ({ db, params, actor }) => {
      const found = await db('message as m')
        .join('mail_source as s', 's.id', 'm.source_id')
        .where('m.id', params.messageId)
        .first('s.raw', 'm.ticket_id');
      if (!found) return refuse('not-found', 'This message has no source: it was not a mail.');
      if (!(await readSeesInside(db, actor, found.ticket_id))) return forTheTeam();
      return { bytes: found.raw, name: 'message.eml', mediaType: 'message/rfc822' };
    },
    getCounts: ({ db, actor }) => readCounts(db, actor.role!),
  });
}

function forTheTeam() {
  return refuse('not-allowed', "What is inside of this desk's tickets is open to its team and to who manages.");
}
