import type { Delivery } from '@core/desk';
import { takeInvoiceReport } from '../billing/invoices/take-invoice-report';
import { takeReminderReport } from '../billing/reminders/take-reminder-report';
import type { Work } from './work';

/** A delivery report about a mail that is no message of a ticket. */
export interface MailReport {
  /** The address that mail of the house is sent from. */
  readonly mailFrom: string;
  /** What the report calls the mail. */
  readonly ids: readonly string[];
  readonly deliveries: readonly Delivery[];
}
/** @returns the address that the mail was sent to, or undefined where it is none of the domain's. */
type Taker = (work: Work, report: MailReport) => Promise<{ readonly sentTo: string } | undefined>;

/** Who else sends mail, each asked in turn whether a report is about it: the first that knows the mail takes it. */
const TAKERS: readonly Taker[] = [takeInvoiceReport, takeReminderReport];

export async function handleReport(work: Work, report: MailReport): Promise<{ readonly sentTo: string } | undefined> {
  for (const take of TAKERS) {
    const taken = await take(work, report);
    if (taken) return taken;
  }
  return undefined;
}
