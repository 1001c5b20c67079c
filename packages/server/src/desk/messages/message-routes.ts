import { messageRoutes } from '@core/desk';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { withTime } from '../action-time/with-time';
import { readSeesInside } from '../tickets/read-sees-inside';
import { writeCall } from './write-call';
import { addNote, replyToTicket, takeBackReply } from './write-messages';

export function bindMessages(app: App) {
  const { house } = app;
  return bindRoutes(app, messageRoutes, {
    replyToTicket: ({ work, params, body }) =>
      withTime(work, house, {
        timed: { workId: params.ticketId, action: 'reply', time: body.time, note: body.text },
        act: () => replyToTicket(app, work, { ticketId: params.ticketId, reply: body }),
      }),
    takeBackReply: ({ work, params }) => takeBackReply(work, params.messageId),
    addNote: ({ work, params, body }) =>
      withTime(work, house, {
        timed: { workId: params.ticketId, action: 'note', time: body.time, note: body.text, inside: true },
        act: () => addNote(work, { ticketId: params.ticketId, text: body.text, uploadIds: body.uploadIds }),
      }),
    writeCall: ({ work, params, body }) =>
      withTime(work, house, {
        timed: { workId: params.ticketId, action: 'call', time: body.time, note: body.text, inside: body.outcome !== 'spoke' },
        act: () => writeCall(work, house, { ticketId: params.ticketId, call: body }),
      }),
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
  });
}

function forTheTeam() {
  return refuse('not-allowed', "What is inside of this desk's tickets is open to its team and to who manages.");
}
