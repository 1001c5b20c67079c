import { reminderRoutes } from '@core/billing';
import { dateOf, isRefusal } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import type { Row } from '../../app/rows';
import { readSteps } from './due-reminders';
import { endPause, pauseReminders } from './pause-reminders';
import { listDueReminders, readInvoiceReminders } from './reminders-read-model';
import { sendReminders } from './send-reminders';

export function bindReminders(app: App) {
  const today = (now: Parameters<typeof dateOf>[0]) => dateOf(now, app.house.house.zone);
  return bindRoutes(app, reminderRoutes, {
    listDueReminders: ({ db, now }) => listDueReminders(db, app.house, today(now)),
    sendReminders: ({ work, body }) => sendReminders(work, body),
    getInvoiceReminders: ({ db, params, now }) => readInvoiceReminders(db, { ...params, today: today(now) }),
    pauseReminders: ({ work, body }) => pauseReminders(work, body),
    endPause: ({ work, params }) => endPause(work, params.pauseId),
    getReminderSteps: async ({ db }) => {
      const settings: Row<'reminder_settings'> = (await db('reminder_settings').first())!;
      return { version: settings.version, byThemselves: settings.by_themselves, steps: (await readSteps(db)).map((s) => ({ ...s })) };
    },
    setReminderSteps: async ({ work, version, body }) => {
      const changed = await changeRow(work, { table: 'reminder_settings', id: '1', version, set: { by_themselves: body.byThemselves } });
      if (isRefusal(changed)) return changed;
      await work.tx('reminder_step').delete();
      const steps = body.steps.map((s, n) => ({ position: n + 1, after_days: s.afterDays, subject: s.subject, text: s.text }));
      if (steps.length) await work.tx('reminder_step').insert(steps);
      return { version: changed.version };
    },
  });
}
