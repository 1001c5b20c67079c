import { inject } from '@angular/core';
import { forkJoin, map } from 'rxjs';
import { routineFormSchema, routineRoutes, type RoutineWire, templateRoutes } from '@core/desk';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { CONTACT_LINE } from '../../ui/contact-line';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import type { Option } from '../../ui/field';
import { isoDay, nearTime } from '../../ui/time-format';

type Row = RoutineWire & SetupRow & { readonly contactWords: string };
const RULES: readonly Option[] = [
  { value: 'FREQ=WEEKLY;BYDAY=MO', label: 'every Monday' },
  { value: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', label: 'every second Monday' },
  { value: 'FREQ=DAILY;BYDAY=MO,TU,WE,TH,FR', label: 'every day from Monday to Friday' },
  { value: 'FREQ=MONTHLY;BYMONTHDAY=1', label: 'on the first of the month' },
  { value: 'FREQ=MONTHLY;BYDAY=1TU', label: 'on the first Tuesday of the month' },
  { value: 'FREQ=MONTHLY;BYDAY=-1FR', label: 'on the last Friday of the month' },
  { value: 'FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=1', label: 'on the first of every third month' },
  { value: 'FREQ=YEARLY', label: 'once a year' },
];

/** Routine work in Setup; called where injection is possible. */
export function routinesSection(): SetupSection<Row, typeof routineFormSchema> {
  const [api, session] = [inject(Api), inject(Session)];
  let templates: Option[] = [];
  const says = (r: RoutineWire): string =>
    [
      `${r.template} for ${r.client}, ${r.contact}: ${r.says} at ${r.at}`,
      r.nextAt ? `next ${nearTime(Date.parse(r.nextAt), session.now(), session.zone)}` : 'ended',
      r.last?.trouble ? `the last could not be opened: ${r.last.trouble}` : r.last?.number ? `last #${r.last.number}` : '',
    ]
      .filter(Boolean)
      .join('; ');
  return {
    heading: 'Routine work',
    intro: 'Tickets that open by themselves, from a template, by a rule. Turns that pass while nothing runs open one ticket, not many.',
    addWords: 'Add routine work',
    none: 'No routine work yet. Write a template first, then say for whom and when it is opened.',
    rows: () =>
      forkJoin([api.call(routineRoutes.listRoutines, {}), api.call(templateRoutes.listTemplates, {})]).pipe(
        map(([{ routines }, all]) => {
          templates = all.templates.map((t) => ({ value: t.id, label: t.name }));
          return routines.map((r) => ({ ...r, contactWords: `${r.contact}, ${r.client}`, says: says(r) }));
        }),
      ),
    draft: 'routine',
    schema: routineFormSchema,
    fresh: () => ({
      name: '',
      templateId: '',
      clientId: '',
      contactId: '',
      contactWords: '',
      rule: RULES[0]!.value,
      startsOn: isoDay(session.now(), session.zone),
      at: '08:30',
    }),
    lines: () => [
      { name: 'name', label: 'Name' },
      { name: 'templateId', label: 'Opens', kind: 'choice', options: templates },
      CONTACT_LINE,
      {
        name: 'often',
        label: 'How often',
        kind: 'choice',
        none: 'by the rule below',
        options: RULES,
        read: (v) => v['rule'],
        write: (rule) => (rule ? { rule } : {}),
      },
      { name: 'rule', label: 'Rule (RFC 5545)', placeholder: 'FREQ=WEEKLY;BYDAY=MO' },
      { name: 'startsOn', label: 'From', kind: 'date' },
      { name: 'at', label: 'At', placeholder: '08:30' },
    ],
    add: (body) => api.call(routineRoutes.addRoutine, { body }),
    edit: (row, version, body) => api.call(routineRoutes.editRoutine, { params: { routineId: row.id }, version, body }),
    archive: (row) => api.call(routineRoutes.archiveRoutine, { params: { routineId: row.id }, version: row.version }),
  };
}
