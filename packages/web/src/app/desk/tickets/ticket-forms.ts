import { inject } from '@angular/core';
import { forkJoin, map, throwError, type Observable } from 'rxjs';
import { houseRoutes, type PersonWire } from '@core/house';
import {
  type ActionTime,
  CALL_OUTCOMES,
  callSchema,
  checklistFormSchema,
  DESK_LINES,
  handOverSchema,
  intakeRoutes,
  mergeSchema,
  resolutionSchema,
  ticketEditSchema,
  messageRoutes,
  ticketRoutes,
  type TicketRowWire,
  type TicketWire,
  waiveSchema,
} from '@core/desk';
import { assetRoutes, clientRoutes } from '@core/clients';
import { Api } from '../../shell/api';
import { ProblemError, type Problem } from '../../shell/problem';
import { everyPage } from '../../ui/every-page';
import type { Option } from '../../ui/field';
import type { Line, RecordForm } from '../../ui/record-form';

export interface TicketForm {
  readonly form: RecordForm;
  readonly lines: readonly Line[];
}

const TIME_IS_WRONG: Problem = {
  type: 'urn:drumline:problem:web',
  title: 'The time of the call',
  status: -1,
  detail: 'The call is not written down yet: its time is not right, and says why. Put it right, or leave it empty.',
};

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
  let known: readonly Option[] = [];
  const desks = (): readonly Option[] => known;
  api.call(houseRoutes.getHouse, {}).subscribe({
    next: (h) => (known = h.desks.map((d) => ({ value: d.id, label: d.name }))),
    // The forms that name a desk say so themselves where none could be had.
    error: () => undefined,
  });
  return {
    /** A call carries its time, which stands beside the form. */
    call: (t: TicketWire, time: () => ActionTime | null | undefined): TicketForm => ({
      lines: CALL_LINES,
      form: {
        schema: callSchema,
        initial: { way: 'out', outcome: 'spoke', text: '', at: null, callBackAt: null },
        draft: `call.${t.id}`,
        does: 'Write it down',
        save: (body) => {
          const took = time();
          return took === undefined
            ? throwError(() => new ProblemError(TIME_IS_WRONG))
            : api.call(messageRoutes.writeCall, { params: { ticketId: t.id }, body: { ...body, time: took } });
        },
      },
    }),
    handOver: (t: TicketWire): TicketForm => ({
      lines: [
        { name: 'deskId', label: 'To desk', kind: 'choice', options: desks() },
        { name: 'line', label: 'Line', kind: 'choice', options: DESK_LINES.map((l) => ({ value: l, label: `${l} line` })) },
        { name: 'tried', label: 'What was tried', kind: 'lines', wide: true },
      ],
      form: {
        schema: handOverSchema,
        initial: { deskId: t.deskId ?? '', line: t.line === 'second' ? 'first' : 'second', tried: '' },
        draft: `hand-over.${t.id}`,
        does: 'Hand it over',
        version: t.version,
        save: (body, version) => api.call(intakeRoutes.handOver, { params: { ticketId: t.id }, version: version!, body }),
        stored: () => api.call(ticketRoutes.getTicket, { params: { ticketId: t.id } }).pipe(map((now) => now)),
      },
    }),
    /** Contact and asset, of those the client has. */
    who: (t: TicketWire): Observable<TicketForm> =>
      forkJoin([
        api.call(clientRoutes.getClient, { params: { clientId: t.clientId! } }),
        everyPage((page) => api.call(assetRoutes.listAssets, { query: { clientId: t.clientId!, ...page } })),
      ]).pipe(
        map(([{ contacts }, assets]) => ({
          lines: [
            {
              name: 'contactId',
              label: 'Contact',
              kind: 'choice',
              none: 'nobody named',
              options: contacts.map((k) => ({ value: k.id, label: k.title ? `${k.name}, ${k.title}` : k.name })),
            },
            {
              name: 'assetId',
              label: 'Asset',
              kind: 'choice',
              none: 'none',
              options: assets.rows.map((a) => ({ value: a.id, label: `${a.number} ${a.name}` })),
            },
          ],
          form: {
            schema: ticketEditSchema.pick(['contactId', 'assetId']),
            initial: { contactId: t.contactId, assetId: t.assetId },
            draft: `who.${t.id}`,
            does: 'Save',
            version: t.version,
            save: ({ contactId, assetId }, version) =>
              api.call(ticketRoutes.editTicket, {
                params: { ticketId: t.id },
                version: version!,
                body: { ...ticketEditSchema.cast(t, { stripUnknown: true, assert: false }), contactId, assetId },
              }),
            stored: () => api.call(ticketRoutes.getTicket, { params: { ticketId: t.id } }),
          },
        })),
      ),
    merge: (t: TicketWire, others: readonly TicketRowWire[]): TicketForm => ({
      lines: [
        {
          name: 'intoId',
          label: 'It is a double of',
          kind: 'choice',
          wide: true,
          options: others
            .filter((o) => o.id !== t.id && !o.isUmbrella && o.kind !== 'unsorted')
            .map((o) => ({ value: o.id, label: `#${o.number} ${o.subject}, ${o.contact ?? ''}` })),
        },
      ],
      form: {
        schema: mergeSchema,
        initial: { intoId: '' },
        draft: `merge.${t.id}`,
        does: 'Merge into that',
        save: (body) => api.call(intakeRoutes.mergeTicket, { params: { ticketId: t.id }, body }),
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
