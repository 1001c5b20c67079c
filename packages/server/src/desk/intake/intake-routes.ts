import { intakeRoutes } from '@core/desk';
import { isRefusal, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import { HOUSE_STORY } from '../../house';
import { addCategory, archiveCategory, editCategory, readCategories } from './categories';
import { changeKind } from '../tickets/change-kind';
import { handOver } from './hand-over';
import { mergeTicket, unmergeTicket } from '../tickets/merge-ticket';
import { effectsOfMove, moveToClient } from './move-to-client';
import { openByHand } from './open-by-hand';
import { readProposals } from './read-proposals';
import { splitMessage } from './split-message';

export function bindIntake(app: App) {
  const { house } = app;
  return bindRoutes(app, intakeRoutes, {
    createTicket: ({ work, body }) => openByHand(app, work, body),
    getProposals: ({ db, params }) => readProposals(db, params.ticketId),
    setSubject: async ({ work, params, version, body }) => {
      const was = (await work.tx('ticket').where({ id: params.ticketId }).first('subject'))!;
      const changed = await changeRow(work, { table: 'ticket', id: params.ticketId, version, set: { subject: body.subject } });
      if (!isRefusal(changed)) await work.tell('ticket.subject-set', params.ticketId, { subject: [was.subject, body.subject] });
      return changed;
    },
    mergeTicket: ({ work, params, body }) => mergeTicket(work, house, { ticketId: params.ticketId, intoId: body.intoId }),
    unmergeTicket: ({ work, params }) => unmergeTicket(work, house, params.ticketId),
    splitMessage: ({ work, params }) => splitMessage(work, house, params.messageId),
    checkMove: async ({ db, params, body }) => {
      const effects = await effectsOfMove(db, params.ticketId, body.clientId);
      return isRefusal(effects) ? effects : { effects };
    },
    moveToClient: ({ work, params, version, body }) => moveToClient(work, house, { ticketId: params.ticketId, version, body }),
    handOver: ({ work, params, version, body }) => handOver(work, house, { ticketId: params.ticketId, version, body }),
    changeKind: ({ work, params, version, body }) =>
      changeKind(work, house, { ticketId: params.ticketId, version, kind: body.kind, ownKindId: body.ownKindId }),
    listCategories: async ({ db }) => ({
      categories: await readCategories(db),
      skills: await db('skill').orderBy('name').select('id', 'name'),
    }),
    addCategory: ({ work, body }) => addCategory(work, body),
    editCategory: ({ work, params, version, body }) => editCategory(work, { id: params.categoryId, version, form: body }),
    archiveCategory: ({ work, params, version }) => archiveCategory(work, params.categoryId, version),
    listDeskLines: async ({ db }) => {
      const lines = await db('desk_line as l').join('desk as d', 'd.id', 'l.desk_id').orderBy(['d.position', 'l.line']).select('l.*');
      return {
        lines: lines.map((l) => ({ deskId: l.desk_id, line: l.line, teamId: l.team_id, assigns: l.assigns })),
        teams: await db('team').orderBy('position').select('id', 'name'),
      };
    },
    setInsideReach: async ({ work, params, body }) => {
      const [desk] = await work.tx('desk').where({ id: params.deskId }).update({ inside_reach: body.reach }).returning('name');
      if (!desk) return refuse('not-found', 'There is no such desk.');
      await work.tell('desk.inside-reach-set', params.deskId, { name: desk.name, reach: body.reach });
      return {};
    },
    setDeskLines: async ({ work, body }) => {
      const twice = new Set(body.lines.map((l) => `${l.deskId} ${l.line}`)).size < body.lines.length;
      if (twice) return refuse('invalid', 'A line of a desk stands there twice.', { lines: 'each line of a desk once' });
      await work.tx('desk_line').delete();
      if (body.lines.length)
        await work
          .tx('desk_line')
          .insert(body.lines.map((l) => ({ desk_id: l.deskId, line: l.line, team_id: l.teamId, assigns: l.assigns })));
      await work.tell('desk.lines-changed', HOUSE_STORY, {});
      return {};
    },
  });
}
