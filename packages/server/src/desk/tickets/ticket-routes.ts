import { readEarlier } from './read-messages';
import { setTicketFields } from './ticket-fields';
import { undoMove } from './undo-move';
import { ticketRoutes } from '@core/desk';
import { isRefusal } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { withTime } from '../action-time/with-time';
import { changeRow } from '../../app/change-row';
import { revokeStatusLink } from './status-links';
import { addChecklistItem, answerChecklistItem } from './checklist';
import { readOwed, unwaiveReply, waiveReply } from './reply-owed';
import { listTickets } from './ticket-list-read-model';
import { readSeesInside } from './read-sees-inside';
import { assignTicket, editTicket, setStatus } from './move-ticket';
import { readCounts } from './read-counts';
import { readPad } from './ticket-pad';
import { readTicket } from './ticket-read-model';
import { setNotWork, triageTicket, untriageTicket } from './triage-ticket';

export function bindTickets(app: App) {
  const { house } = app;
  return bindRoutes(app, ticketRoutes, {
    listTickets: ({ db, query, now }) => listTickets(db, house, { filter: query, now }),
    getTicket: async ({ db, params, now, actor }) =>
      readTicket(db, house, { ticketId: params.ticketId, now, inside: await readSeesInside(db, actor, params.ticketId) }),
    getEarlier: async ({ db, params, query, actor }) =>
      readEarlier(db, params.ticketId, { ...query, inside: await readSeesInside(db, actor, params.ticketId) }),
    getTicketPad: ({ db, params, now }) => readPad(db, house, { ticketId: params.ticketId, now }),
    triageTicket: ({ work, params, version, body }) => triageTicket(work, house, { ticketId: params.ticketId, version, triage: body }),
    untriageTicket: ({ work, params, version }) => untriageTicket(work, house, { ticketId: params.ticketId, version }),
    markNotWork: ({ work, params, version }) => setNotWork(work, house, { ticketId: params.ticketId, version, notWork: true }),
    restoreTicket: ({ work, params, version }) => setNotWork(work, house, { ticketId: params.ticketId, version, notWork: false }),
    editTicket: ({ work, params, version, body }) => editTicket(work, house, { ticketId: params.ticketId, version, edit: body }),
    setTicketStatus: ({ work, params: { ticketId }, version, body }) => {
      const { status: to, holdReason, ownStatusId, override, time } = body;
      const act = () => setStatus(work, house, { ticketId, version, to, holdReason: holdReason ?? null, ownStatusId, override });
      // A status that is no end of work carries no time.
      return to === 'resolved'
        ? withTime(work, house, { timed: { workId: ticketId, action: 'resolve', time, note: 'resolve' }, act })
        : act();
    },
    assignTicket: ({ work, params, version, body }) => assignTicket(work, { ticketId: params.ticketId, version, personId: body.personId }),
    revokeOwnPage: async ({ work, params }) => ({ revoked: await revokeStatusLink(work, params.ticketId) }),
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
    answerChecklistItem: ({ work, params, body }) => answerChecklistItem(work, params.checklistItemId, body.answer ?? null),
    getCounts: ({ db, actor }) => readCounts(db, actor.role!),
  });
}
