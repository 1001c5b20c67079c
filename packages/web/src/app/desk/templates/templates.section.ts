import { inject } from '@angular/core';
import { forkJoin, map, shareReplay, type Observable } from 'rxjs';
import { houseRoutes } from '@core/house';
import {
  checklistTemplateFormSchema,
  type ChecklistTemplateWire,
  DESK_LINES,
  IMPACTS,
  intakeRoutes,
  isSorted,
  SORTED_KINDS,
  templateFormSchema,
  templateRoutes,
  type TemplateWire,
  URGENCIES,
} from '@core/desk';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';
import type { Option } from '../../ui/field';
import { linesOf, textOf } from '../../ui/one-a-line';

type Row = TemplateWire & SetupRow;
const plain = (values: readonly string[]): Option[] => values.map((v) => ({ value: v, label: v }));

/** Templates of tickets in Setup; called where injection is possible. */
export function templatesSection(): SetupSection<Row, typeof templateFormSchema> {
  const api = inject(Api);
  let desks: Option[] = [];
  let categories: Option[] = [];
  const choices$: Observable<unknown> = forkJoin([api.call(houseRoutes.getHouse, {}), api.call(intakeRoutes.listCategories, {})]).pipe(
    map(([house, all]) => {
      desks = house.desks.map((d) => ({ value: d.id, label: d.name }));
      categories = all.categories.filter((c) => c.parentId).map((c) => ({ value: c.id, label: `${c.parent}, ${c.name}` }));
    }),
    shareReplay(1),
  );
  return {
    heading: 'Templates',
    intro:
      'Tickets that are opened by hand, or by a routine, again and again. One that says kind, priority, category, desk and line opens routed, past intake.',
    addWords: 'Add a template',
    none: 'No template yet. Add one for what is opened often, such as the monthly look at the servers.',
    rows: () =>
      forkJoin([api.call(templateRoutes.listTemplates, {}), choices$]).pipe(
        map(([{ templates }]) =>
          templates.map((t) => ({
            ...t,
            says: `${t.subject}; ${isSorted(t) ? `opens routed, ${t.kind}` : 'lands in intake'}${t.checklist.length ? `; checklist of ${t.checklist.length}` : ''}`,
          })),
        ),
      ),
    draft: 'template',
    schema: templateFormSchema,
    fresh: () => ({
      name: '',
      subject: '',
      text: '',
      kind: null,
      categoryId: null,
      impact: null,
      urgency: null,
      deskId: null,
      line: null,
      checklist: [],
    }),
    lines: () => [
      { name: 'name', label: 'Name' },
      { name: 'subject', label: 'Subject' },
      { name: 'text', label: 'What it says', kind: 'lines', wide: true },
      { name: 'kind', label: 'Kind', kind: 'choice', none: 'sorted in intake', options: plain(SORTED_KINDS) },
      { name: 'categoryId', label: 'Category', kind: 'choice', none: 'sorted in intake', options: categories },
      { name: 'impact', label: 'Impact', kind: 'choice', none: 'sorted in intake', options: plain(IMPACTS) },
      { name: 'urgency', label: 'Urgency', kind: 'choice', none: 'sorted in intake', options: plain(URGENCIES) },
      { name: 'deskId', label: 'Desk', kind: 'choice', none: 'sorted in intake', options: desks },
      { name: 'line', label: 'Line', kind: 'choice', none: 'sorted in intake', options: plain(DESK_LINES) },
      {
        name: 'checklist',
        label: 'Checklist: one a line',
        kind: 'lines',
        wide: true,
        read: (v) => textOf(v['checklist']),
        write: (t) => ({ checklist: linesOf(t) }),
      },
    ],
    add: (body) => api.call(templateRoutes.addTemplate, { body }),
    edit: (row, version, body) => api.call(templateRoutes.editTemplate, { params: { templateId: row.id }, version, body }),
    archive: (row) => api.call(templateRoutes.archiveTemplate, { params: { templateId: row.id }, version: row.version }),
  };
}

/** Checklists that can be put on tickets, in Setup; called where injection is possible. */
export function checklistsSection(): SetupSection<ChecklistTemplateWire & SetupRow, typeof checklistTemplateFormSchema> {
  const api = inject(Api);
  return {
    heading: 'Checklists',
    intro: 'What is done the same way each time; put on a ticket with one press.',
    addWords: 'Add a checklist',
    none: 'No checklist yet.',
    rows: () =>
      api
        .call(templateRoutes.listChecklistTemplates, {})
        .pipe(map(({ checklists }) => checklists.map((c) => ({ ...c, says: c.items.join('; ') })))),
    draft: 'checklist-template',
    schema: checklistTemplateFormSchema,
    fresh: () => ({ name: '', items: [] }),
    lines: () => [
      { name: 'name', label: 'Name' },
      {
        name: 'items',
        label: 'One a line',
        kind: 'lines',
        wide: true,
        read: (v) => textOf(v['items']),
        write: (t) => ({ items: linesOf(t) }),
      },
    ],
    add: (body) => api.call(templateRoutes.addChecklistTemplate, { body }),
    edit: (row, version, body) => api.call(templateRoutes.editChecklistTemplate, { params: { checklistId: row.id }, version, body }),
    archive: (row) => api.call(templateRoutes.archiveChecklistTemplate, { params: { checklistId: row.id }, version: row.version }),
  };
}
