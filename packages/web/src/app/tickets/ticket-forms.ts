import { inject } from '@angular/core';
import { map } from 'rxjs';
import type { PersonWire } from '@core/access';
import {
  CALL_OUTCOMES,
  callSchema,
  checklistFormSchema,
  resolutionSchema,
  ticketRoutes,
  waiveSchema,
  type TicketWire,
} from '@core/tickets';
import { Api } from '../shell/api';
import type { Line, RecordForm } from '../ui/record-form';

export interface TicketForm {
  readonly form: RecordForm;
  readonly lines: readonly Line[];
}

const CALL_LINES: readonly Line[] = [
  {
    name: 'way',
    label: 'Who rang',
    kind: 'choice',
    options: [
      { value: 'out', label: 'we rang them' },
      { value: 'in', label: 'they rang us' },
    ],
  },
  { name: 'outcome', label: 'What came of it', kind: 'choice', options: CALL_OUTCOMES.map((o) => ({ value: o, label: o })) },
  { name: 'text', label: 'In one line', wide: true },
  { name: 'at', label: 'When, if not now', kind: 'moment' },
  { name: 'callBackAt', label: 'Call back at', kind: 'moment' },
];

/** The small forms of a ticket: a call, a waiver, what was done, something to do; called where injection is possible. */
export function ticketForms() {
  const api = inject(Api);
  return {
    call: (t: TicketWire): TicketForm => ({
      lines: CALL_LINES,
      form: {
        schema: callSchema,
        initial: { way: 'out', outcome: 'spoke', text: '', at: null, callBackAt: null },
        draft: `call.${t.id}`,
        does: 'Write it down',
        save: (body) => api.call(ticketRoutes.writeCall, { params: { ticketId: t.id }, body }),
      },
    }),
    waive: (t: TicketWire): TicketForm => ({
      lines: [{ name: 'reason', label: 'Why nobody needs to answer', wide: true }],
      form: {
        schema: waiveSchema,
        initial: { reason: '' },
        draft: `waive.${t.id}`,
        does: 'Waive the reply',
        save: (body) => api.call(ticketRoutes.waiveReply, { params: { ticketId: t.id }, body }),
      },
    }),
    resolution: (t: TicketWire): TicketForm => ({
      lines: [{ name: 'resolution', label: 'What was done', kind: 'lines', wide: true }],
      form: {
        schema: resolutionSchema,
        initial: { resolution: t.resolution },
        draft: `resolution.${t.id}`,
        does: 'Save',
        version: t.version,
        save: (body, version) => api.call(ticketRoutes.setResolution, { params: { ticketId: t.id }, version: version!, body }),
        stored: () => api.call(ticketRoutes.getTicket, { params: { ticketId: t.id } }).pipe(map((now) => now)),
      },
    }),
    toDo: (t: TicketWire, people: readonly PersonWire[]): TicketForm => ({
      lines: [
        { name: 'text', label: 'To do', wide: true },
        {
          name: 'ownerId',
          label: 'Who',
          kind: 'choice',
          none: 'anybody',
          options: people.map((p) => ({ value: p.id, label: p.name })),
        },
        { name: 'dueAt', label: 'By when', kind: 'moment' },
      ],
      form: {
        schema: checklistFormSchema,
        initial: { text: '', ownerId: null, dueAt: null },
        draft: `to-do.${t.id}`,
        does: 'Add it',
        save: (body) => api.call(ticketRoutes.addChecklistItem, { params: { ticketId: t.id }, body }),
      },
    }),
  };
}
