import { array } from 'yup';
import { IMPACTS, URGENCIES } from '../priority';
import { count, defineRoutes, done, id, list, optionalId, optionalOneOf, record, text, type Wire } from '../../ground';
import { DESK_LINES, SORTED_KINDS } from '../tickets';

const MOST_ITEMS = 50;
const items = () => array(text(300)).defined().max(MOST_ITEMS, `at most ${MOST_ITEMS}`);
const written = {
  name: text(60),
  subject: text(),
  text: text(20_000),
  kind: optionalOneOf(SORTED_KINDS),
  impact: optionalOneOf(IMPACTS),
  urgency: optionalOneOf(URGENCIES),
  categoryId: optionalId('category'),
  deskId: optionalId('desk'),
  line: optionalOneOf(DESK_LINES),
  checklist: items(),
};
export const templateFormSchema = record(written);
export type TemplateForm = Wire<typeof templateFormSchema>;
export const templateSchema = record({ id: id('ticket_template'), version: count(), ...written });
export type TemplateWire = Wire<typeof templateSchema>;

export const checklistTemplateFormSchema = record({ name: text(60), items: items().min(1, 'at least one') });
export const checklistTemplateSchema = record({ id: id('checklist_template'), version: count(), name: text(60), items: items() });
export type ChecklistTemplateWire = Wire<typeof checklistTemplateSchema>;

/** What a template must say for its tickets to be opened routed, past intake. */
type Sorting = Pick<TemplateForm, 'kind' | 'impact' | 'urgency' | 'categoryId' | 'deskId' | 'line'>;
export function isSorted<T extends Sorting>(t: T): t is T & { readonly [Field in keyof Sorting]: NonNullable<Sorting[Field]> } {
  return Boolean(t.kind && t.impact && t.urgency && t.categoryId && t.deskId && t.line);
}

export const templateRoutes = defineRoutes({
  listTemplates: {
    method: 'GET',
    path: '/templates',
    summary: 'Templates of tickets that are opened by hand',
    permission: 'signed in',
    answer: record({ templates: list(templateSchema) }),
  },
  addTemplate: {
    method: 'POST',
    path: '/templates',
    summary: 'Add a template',
    permission: 'setup.edit',
    body: templateFormSchema,
    answer: done(),
  },
  editTemplate: {
    method: 'PUT',
    path: '/templates/:templateId',
    summary: 'Change a template; tickets opened from it stay as they are',
    permission: 'setup.edit',
    versioned: true,
    body: templateFormSchema,
    answer: done(),
  },
  archiveTemplate: {
    method: 'POST',
    path: '/templates/:templateId/archive',
    summary: 'Put a template away',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
  listChecklistTemplates: {
    method: 'GET',
    path: '/checklist-templates',
    summary: 'Checklists that can be put on tickets',
    permission: 'signed in',
    answer: record({ checklists: list(checklistTemplateSchema) }),
  },
  addChecklistTemplate: {
    method: 'POST',
    path: '/checklist-templates',
    summary: 'Add a checklist',
    permission: 'setup.edit',
    body: checklistTemplateFormSchema,
    answer: done(),
  },
  editChecklistTemplate: {
    method: 'PUT',
    path: '/checklist-templates/:checklistId',
    summary: 'Change a checklist; tickets that have it stay as they are',
    permission: 'setup.edit',
    versioned: true,
    body: checklistTemplateFormSchema,
    answer: done(),
  },
  archiveChecklistTemplate: {
    method: 'POST',
    path: '/checklist-templates/:checklistId/archive',
    summary: 'Put a checklist away',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
  putChecklist: {
    method: 'POST',
    path: '/tickets/:ticketId/checklist/from/:checklistId',
    summary: 'Put a checklist on a ticket: its items that the ticket does not have yet',
    permission: 'tickets.work',
    answer: record({ added: count() }),
  },
});
