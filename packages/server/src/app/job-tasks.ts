import type { TaskList } from 'graphile-worker';
import { clipText } from '@core/ground';
import { applyCalendar } from '../desk/clocks/apply-calendar';
import { applyPromise } from '../desk/clocks/take-promise';
import { mailReset } from '../house/access/password-routes';
import { mailEscalation } from '../desk/escalation/mail-escalation';
import { ringAgain } from '../desk/escalation/ring-again';
import { deliverInvoice } from '../billing/invoices/deliver-invoice';
import { sendMessage } from '../desk/messages/send-message';
import { pullPayments } from '../billing/payments/pull-payments';
import { reviewCharges } from '../billing/approval-rules/approve-by-rule';
import { watchTab } from '../billing/open-tab/watch-tabs';
import { pushInvoice } from '../billing/payments/push-invoice';
import { openRoutines } from '../desk/routines/open-routines';
import { watchBookings } from '../scheduling/fitting/overruns';
import { learn } from '../scheduling/estimates/learn';
import { readCalendars } from '../scheduling/outside-calendars/read-calendars';
import { releaseOpenings } from '../scheduling/openings/release-openings';
import { renewContracts } from '../contracts/contracts/renew-contracts';
import { issueAsked } from '../billing/runs/issue-asked';
import { prepareInvoices } from '../billing/runs/prepare-run';
import { mailReminder, remindByThemselves } from '../billing/reminders/send-reminders';
import { tryCost } from '../billing/would-cost/try-cost';
import { makePlan } from '../scheduling/planning/make-plan';
import { sweepTickets } from '../desk/tickets/sweep';
import type { App } from './app';
import { prune } from './prune';

/** What the queue keeps of a fault; longer words say no more, and PostgreSQL takes no NUL. */
const MOST_TROUBLE = 2000;

type Job = (app: App, payload: never) => Promise<void>;

/** What people and clocks wait for. It is never behind work that can wait. */
const PROMPT: Readonly<Record<string, Job>> = {
  'send-message': sendMessage,
  'mail-escalation': mailEscalation,
  'mail-reset': mailReset,
  'ring-again': ringAgain,
  'sweep-tickets': sweepTickets,
  'apply-calendar': applyCalendar,
  'apply-promise': applyPromise,
  'release-openings': releaseOpenings,
  'watch-bookings': watchBookings,
  'watch-tab': watchTab,
  'open-routines': openRoutines,
};

/** Documents, pushes, readings and what is learned: a minute later is as good. */
const PATIENT: Readonly<Record<string, Job>> = {
  'deliver-invoice': deliverInvoice,
  'mail-reminder': mailReminder,
  remind: remindByThemselves,
  'review-charges': reviewCharges,
  'push-invoice': pushInvoice,
  'pull-payments': pullPayments,
  learn,
  'make-plan': makePlan,
  'try-cost': tryCost,
  'prepare-run': prepareInvoices,
  'issue-run': issueAsked,
  'renew-contracts': renewContracts,
  'read-calendars': readCalendars,
  prune,
};

/** The lanes of the queue: each is worked by itself, so that neither can fill the other. */
export const LANES = [
  { name: 'prompt', tasks: PROMPT, concurrency: 3 },
  { name: 'patient', tasks: PATIENT, concurrency: 2 },
] as const;

/** The tasks of a lane. A task throws where it failed; the queue keeps it and tries again. */
export function retryingTasks(app: App, tasks: Readonly<Record<string, Job>>): TaskList {
  return Object.fromEntries(
    Object.entries(tasks).map(([task, run]) => [
      task,
      async (payload: unknown) => {
        const end = app.metrics.jobSeconds.startTimer({ task });
        try {
          await run(app, payload as never);
          end({ result: 'done' });
        } catch (fault) {
          end({ result: 'failed' });
          app.log.warn({ task, fault }, 'job failed; it stays queued');
          // What an outside service answered may be in the words: the queue must be able to keep them.
          throw new Error(clipText(fault instanceof Error ? fault.message : String(fault), MOST_TROUBLE));
        }
      },
    ]),
  );
}
