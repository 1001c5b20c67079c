import { majorOf } from '../../ground';
import type { UsageReport } from './usage-report';

/** The report as rows of a table, one for each piece of work; hours as minutes, amounts by ticket on its first row. */
export function usageRows(report: UsageReport): readonly (readonly string[])[] {
  const head = [
    'Ticket',
    'Subject',
    'Contact',
    'Status',
    'What was done',
    'Date',
    'By',
    'Activity',
    'Minutes',
    'Treatment',
    'Covered minutes',
    'Net',
    'Currency',
  ];
  return [
    head,
    ...report.tickets.flatMap((t) =>
      t.work.map((w, i) => [
        String(t.number),
        t.subject,
        t.contact ?? '',
        t.status,
        t.done ?? '',
        w.on,
        w.person,
        w.activity,
        String(w.minutes),
        w.treatment,
        String(w.coveredMinutes),
        i === 0 ? majorOf(t.net).toFixed(2) : '',
        t.net.currency,
      ]),
    ),
  ];
}
