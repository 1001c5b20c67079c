import { newPauseSchema, reminderRoutes } from '@core/billing';
import type { Id } from '@core/ground';
import type { Api } from '../../shell/api';
import type { Line, RecordForm } from '../../ui/record-form';

export const PAUSE_LINES: readonly Line[] = [
  { name: 'until', label: 'Until', kind: 'date', placeholder: 'until somebody ends it' },
  { name: 'reason', label: 'Why?', placeholder: 'such as what was agreed on the phone', wide: true },
];

/** The form that pauses reminders of a client, or of one invoice. */
export function pauseForm(api: Api, of: { readonly clientId: Id<'client'>; readonly invoiceId: Id<'invoice'> | null }): RecordForm {
  const form: RecordForm<typeof newPauseSchema> = {
    schema: newPauseSchema,
    initial: { ...of, until: null, reason: '' },
    draft: `pause.${of.invoiceId ?? of.clientId}`,
    does: 'Pause reminders',
    save: (body) => api.call(reminderRoutes.pauseReminders, { body }),
  };
  return form as unknown as RecordForm;
}
