import type { TaskList } from 'graphile-worker';
import { applyCalendar } from '../calendars/apply-calendar';
import { applyPolicy } from '../clocks/take-policy';
import { mailEscalation } from '../escalation/mail-escalation';
import { ringAgain } from '../escalation/ring-again';
import { deliverInvoice } from '../invoices/deliver-invoice';
import { sendMessage } from '../messages/send-message';
import { pullPayments } from '../payments/pull-payments';
import { pushInvoice } from '../payments/push-invoice';
import { openRoutines } from '../routines/open-routines';
import { watchBookings } from '../dispatch/overruns';
import { learn } from '../estimates/learn';
import { readCalendars } from '../outside-calendars/read-calendars';
import { releaseOpenings } from '../openings/release-openings';
import { makePlan } from '../planning/make-plan';
import { sweepTickets } from '../tickets/sweep';
import type { App } from './app';
import { prune } from './prune';

/** Every task of the queue by name. A task throws where it failed; the queue keeps it and tries again. */
export function retryingTasks(app: App): TaskList {
  const count =
    <P>(task: string, run: (app: App, payload: P) => Promise<void>) =>
    async (payload: unknown) => {
      const end = app.metrics.jobSeconds.startTimer({ task });
      try {
        await run(app, payload as P);
        end({ result: 'done' });
      } catch (fault) {
        end({ result: 'failed' });
        app.log.warn({ task, fault: String(fault) }, 'job failed; it stays queued');
        throw fault;
      }
    };
  return {
    'send-message': count('send-message', sendMessage),
    'deliver-invoice': count('deliver-invoice', deliverInvoice),
    'push-invoice': count('push-invoice', pushInvoice),
    'pull-payments': count('pull-payments', pullPayments),
    'apply-calendar': count('apply-calendar', applyCalendar),
    'apply-policy': count('apply-policy', applyPolicy),
    'mail-escalation': count('mail-escalation', mailEscalation),
    'ring-again': count('ring-again', ringAgain),
    'open-routines': count('open-routines', openRoutines),
    'watch-bookings': count('watch-bookings', watchBookings),
    learn: count('learn', learn),
    'make-plan': count('make-plan', makePlan),
    'read-calendars': count('read-calendars', readCalendars),
    'release-openings': count('release-openings', releaseOpenings),
    prune: count('prune', prune),
    'sweep-tickets': count('sweep-tickets', sweepTickets),
  };
}
