import { refuse } from '@core/ground';
import { templateRoutes, type TemplateForm } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { addHouseRecord, archiveHouseRecord, editHouseRecord } from '../../house';
import { putItems } from './put-items';

const TEMPLATE = { table: 'ticket_template', word: 'template' };
const CHECKLIST = { table: 'checklist_template', word: 'checklist' };
const columnsOf = ({ categoryId, deskId, ...form }: TemplateForm) => ({ ...form, category_id: categoryId, desk_id: deskId });

export function bindTemplates(app: App) {
  return bindRoutes(app, templateRoutes, {
    listTemplates: async ({ db }) => {
      const rows = await db('ticket_template').whereNull('archived_at').orderByRaw('lower(name)');
      return {
        templates: rows.map((t) => ({
          id: t.id,
          version: t.version,
          name: t.name,
          subject: t.subject,
          text: t.text,
          kind: t.kind,
          impact: t.impact,
          urgency: t.urgency,
          categoryId: t.category_id,
          deskId: t.desk_id,
          line: t.line,
          checklist: [...t.checklist],
        })),
      };
    },
    addTemplate: ({ work, body }) => addHouseRecord(work, TEMPLATE, columnsOf(body)),
    editTemplate: ({ work, params, version, body }) =>
      editHouseRecord(work, { record: TEMPLATE, id: params.templateId, version, row: columnsOf(body) }),
    archiveTemplate: async ({ work, params, version }) => {
      const routine = await work.tx('routine').where({ template_id: params.templateId }).whereNull('archived_at').first('name');
      if (routine) return refuse('not-possible-now', `The routine ${routine.name} opens it. End that, or give it another template, first.`);
      return archiveHouseRecord(work, { record: TEMPLATE, id: params.templateId, version });
    },
    listChecklistTemplates: async ({ db }) => ({
      checklists: await db('checklist_template')
        .whereNull('archived_at')
        .orderByRaw('lower(name)')
        .select('id', 'version', 'name', 'items'),
    }),
    addChecklistTemplate: ({ work, body }) => addHouseRecord(work, CHECKLIST, body),
    editChecklistTemplate: ({ work, params, version, body }) =>
      editHouseRecord(work, { record: CHECKLIST, id: params.checklistId, version, row: body }),
    archiveChecklistTemplate: ({ work, params, version }) =>
      archiveHouseRecord(work, { record: CHECKLIST, id: params.checklistId, version }),
    putChecklist: async ({ work, params }) => {
      const ticket = await work.tx('ticket').where({ id: params.ticketId }).first('id');
      if (!ticket) return refuse('not-found', 'There is no such ticket.');
      const list = await work.tx('checklist_template').where({ id: params.checklistId }).whereNull('archived_at').first('name', 'items');
      if (!list) return refuse('not-found', 'There is no such checklist.');
      const added = await putItems(work, params.ticketId, list.items);
      await work.tell('ticket.checklist-put', params.ticketId, { checklist: list.name, items: added });
      return { added };
    },
  });
}
