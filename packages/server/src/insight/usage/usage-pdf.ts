import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { formatMinutes, formatMoney } from '@core/ground';
import { sayUnits } from '@core/contracts';
import type { UsageReport, UsageTicket, UsageTreatment } from '@core/insight';
import { FONT, INK, pdfOf, RULED, SOFT } from '../../app/documents/pdf';

/** The report as the client gets it: A4, a row for each ticket with what was done and when. */
export async function usagePdf(report: UsageReport): Promise<Buffer> {
  const title = `Work for ${report.client}, ${report.from} to ${report.to}`;
  const document: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [56, 56, 56, 64],
    info: { title, author: report.provider },
    defaultStyle: { font: FONT, fontSize: 9.5, color: INK, lineHeight: 1.25 },
    footer: (page, pages) => ({ text: `${report.provider} · ${page} of ${pages}`, fontSize: 8, color: SOFT, margin: [56, 24, 56, 0] }),
    content: [
      { text: report.provider, fontSize: 13, bold: true, margin: [0, 0, 0, 24] },
      { text: title, fontSize: 16, bold: true },
      {
        text: `${formatMinutes(report.minutes)} on ${report.tickets.length} tickets, of which ${formatMinutes(report.coveredMinutes)} covered and ${formatMinutes(report.chargedMinutes)} charged: ${formatMoney(report.net)} before tax.`,
        color: SOFT,
        margin: [0, 4, 0, 16],
      },
      ...contracts(report),
      report.tickets.length ? tickets(report) : { text: 'No work in this span.' },
    ],
  };
  return pdfOf(document);
}

const TREATED: Readonly<Record<UsageTreatment, string>> = { charged: '', covered: ', covered', waived: ', not charged' };

/** What each contract granted, what was used and what is left, a line each. */
function contracts({ contracts: all, net: { currency } }: UsageReport): Content[] {
  return all.flatMap(({ number, name, allowances }) =>
    allowances.map(({ name: what, measure, granted, used, left }): Content => {
      const say = (units: number) => sayUnits(measure, units, currency);
      const text = measure === 'unlimited' ? 'without limit' : `${say(granted)} granted, ${say(used)} used, ${say(left)} left`;
      return { text: `${number} ${name}, ${what}: ${text}`, margin: [0, 0, 0, 6] };
    }),
  );
}

function tickets(report: UsageReport): Content {
  const right = (text: string): TableCell => ({ text, alignment: 'right', noWrap: true });
  const head = ['No.', 'What', 'Time', 'Net'].map((text, i): TableCell => ({
    text,
    bold: true,
    color: SOFT,
    alignment: i < 2 ? 'left' : 'right',
  }));
  const body = report.tickets.map((t): TableCell[] => [
    { text: `#${t.number}`, color: SOFT },
    { stack: wordsOf(t) },
    right(formatMinutes(t.minutes)),
    right(formatMoney(t.net)),
  ]);
  return { table: { headerRows: 1, widths: ['auto', '*', 'auto', 'auto'], body: [head, ...body] }, layout: RULED };
}

function wordsOf(t: UsageTicket): Content[] {
  const work = t.work.map((w) => `${w.on} ${w.person}, ${w.activity}, ${formatMinutes(w.minutes)}${TREATED[w.treatment]}`);
  return [
    { text: t.subject, bold: true },
    { text: [t.contact, t.status].filter(Boolean).join(' · '), color: SOFT, fontSize: 8.5 },
    ...(t.done ? [{ text: t.done }] : []),
    ...work.map((text): Content => ({ text, color: SOFT, fontSize: 8.5 })),
  ];
}
