import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { FONT, INK, pdfOf, RULED, SOFT } from '../../app/documents/pdf';
import { DOCUMENT_NAMES, type IssuedInvoice, type Party, sayQuantity, shownName } from '@core/billing';
import { formatMoney, formatUnitPrice } from '@core/ground';

/** An invoice or a credit note as the client gets it: A4, one table of lines, tax by rate, what to pay and how. */
export async function invoicePdf(invoice: IssuedInvoice): Promise<Buffer> {
  const document: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [56, 56, 56, 64],
    info: { title: titleOf(invoice), author: shownName(invoice.seller) },
    defaultStyle: { font: FONT, fontSize: 9.5, color: INK, lineHeight: 1.25 },
    footer: (page, pages) => ({
      text: `${shownName(invoice.seller)} · ${invoice.number} · ${page} of ${pages}`,
      fontSize: 8,
      color: SOFT,
      margin: [56, 24, 56, 0],
    }),
    content: [heading(invoice), lines(invoice), totals(invoice), { text: toDo(invoice), margin: [0, 24, 0, 0] }],
  };
  return pdfOf(document);
}

function heading(invoice: IssuedInvoice): Content {
  const lines = (p: Party) =>
    [p.name, p.street, `${p.postcode} ${p.city}`, p.country, p.taxNumber ? `Tax number ${p.taxNumber}` : ''].filter(Boolean).join('\n');
  return [
    {
      columns: [
        { text: shownName(invoice.seller), fontSize: 13, bold: true },
        { text: lines(invoice.seller).split('\n').slice(1).join('\n'), alignment: 'right', color: SOFT },
      ],
    },
    { text: lines(invoice.buyer), margin: [0, 28, 0, 28] },
    { text: titleOf(invoice), fontSize: 18, bold: true },
    { text: issued(invoice), color: SOFT, margin: [0, 2, 0, 16] },
  ];
}

const titleOf = ({ kind, number }: IssuedInvoice) => `${DOCUMENT_NAMES[kind]} ${number}`;

function issued({ kind, issuedOn, dueOn, corrects, billedFor, purchaseOrder }: IssuedInvoice): string {
  const forWhat = [...(billedFor === null ? [] : [`for ${billedFor}`]), ...(purchaseOrder === null ? [] : [`your order ${purchaseOrder}`])];
  if (kind === 'invoice') return [`Issued ${issuedOn}, due ${dueOn}`, ...forWhat].join(', ');
  return `Issued ${issuedOn}${corrects ? `, corrects invoice ${corrects.number} of ${corrects.issuedOn}: ${corrects.reason}` : ''}`;
}

function toDo({ kind, totals, dueOn, seller, number, corrects }: IssuedInvoice): string {
  const gross = formatMoney(totals.gross);
  if (kind === 'invoice') return `Please pay ${gross} by ${dueOn} to ${seller.account}, naming ${number}.`;
  return `${gross} is to your credit. It settles ${corrects ? `what is left of invoice ${corrects.number} first` : 'what you owe us next'}; you need not do anything.`;
}

function lines(invoice: IssuedInvoice): Content {
  const right = (text: string, more = {}): TableCell => ({ text, alignment: 'right', ...more });
  const head = ['', 'What', 'How much', 'Price', 'Tax', 'Net'].map((text, i): TableCell => ({
    text,
    bold: true,
    color: SOFT,
    alignment: i < 2 ? 'left' : 'right',
  }));
  const body = invoice.lines.map((l): TableCell[] => [
    { text: String(l.position), color: SOFT },
    l.details === null ? l.description : { stack: [l.description, { text: l.details, fontSize: 7.5, color: SOFT }] },
    right(sayQuantity(l.quantity, l.unit), { noWrap: true }),
    right(`${formatUnitPrice(l.unitPrice, invoice.currency)}${l.unit === 'MIN' ? ' / h' : ''}`, { noWrap: true }),
    right(`${l.tax.percent} %`, { noWrap: true }),
    right(formatMoney(l.net), { noWrap: true }),
  ]);
  return { table: { headerRows: 1, widths: [14, '*', 'auto', 'auto', 'auto', 'auto'], body: [head, ...body] }, layout: RULED };
}

function totals({ kind, totals: t }: IssuedInvoice): Content {
  const row = (what: string, amount: string, bold = false): TableCell[] => [
    { text: what, alignment: 'right', bold },
    { text: amount, alignment: 'right', bold },
  ];
  const body = [
    row('Net', formatMoney(t.net)),
    ...t.groups.map((g) =>
      row(
        g.tax.category === 'E' ? `Exempt from tax, on ${formatMoney(g.base)}` : `Tax ${g.tax.percent} % on ${formatMoney(g.base)}`,
        formatMoney(g.amount),
      ),
    ),
    row(kind === 'invoice' ? 'To pay' : 'To your credit', formatMoney(t.gross), true),
  ];
  return { table: { widths: ['*', 'auto'], body }, layout: 'noBorders', margin: [0, 12, 0, 0] };
}
