import { inject } from '@angular/core';
import { forkJoin, map } from 'rxjs';
import { intakeRoutes, requestFormFormSchema, requestFormRoutes, type RequestFormWire, SORTED_KINDS, ownFieldRoutes } from '@core/desk';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { Api } from '../../shell/api';
import type { Option } from '../../ui/field';

type Row = RequestFormWire & SetupRow;

/** Request forms in Setup; called where injection is possible. */
export function requestFormsSection(): SetupSection<Row, typeof requestFormFormSchema> {
  const api = inject(Api);
  let fields: Option[] = [];
  let categories: Option[] = [];
  return {
    heading: 'Request forms',
    intro:
      'Pages outside Drumline, each at an address of its own, that ask clients for what a kind of work needs. What they send lands in intake.',
    addWords: 'Add a request form',
    none: 'No request form yet. Add one for work that is always asked for with too little, such as somebody new.',
    rows: () =>
      forkJoin([
        api.call(requestFormRoutes.listRequestForms, {}),
        api.call(ownFieldRoutes.listOwnFields, { query: { on: 'ticket' } }),
        api.call(intakeRoutes.listCategories, {}),
      ]).pipe(
        map(([{ forms }, own, all]) => {
          fields = own.fields.filter((f) => f.kind !== 'person' && f.kind !== 'asset').map((f) => ({ value: f.id, label: f.name }));
          categories = all.categories.filter((c) => c.parentId).map((c) => ({ value: c.id, label: `${c.parent}, ${c.name}` }));
          return forms.map((f) => ({ ...f, says: f.address }));
        }),
      ),
    draft: 'request-form',
    schema: requestFormFormSchema,
    fresh: () => ({ name: '', path: '', intro: '', kind: null, categoryId: null, fields: [] }),
    lines: () => [
      { name: 'name', label: 'Heading' },
      { name: 'path', label: 'Address: …/request/', placeholder: 'somebody-new' },
      { name: 'intro', label: 'What it says first', kind: 'lines', wide: true },
      { name: 'kind', label: 'Kind', kind: 'choice', none: 'left to intake', options: SORTED_KINDS.map((k) => ({ value: k, label: k })) },
      { name: 'categoryId', label: 'Category', kind: 'choice', none: 'left to intake', options: categories },
      { name: 'fields', label: 'Own fields that it asks for', kind: 'many', wide: true, options: fields },
    ],
    add: (body) => api.call(requestFormRoutes.addRequestForm, { body }),
    edit: (row, version, body) => api.call(requestFormRoutes.editRequestForm, { params: { formId: row.id }, version, body }),
    archive: (row) => api.call(requestFormRoutes.archiveRequestForm, { params: { formId: row.id }, version: row.version }),
  };
}
