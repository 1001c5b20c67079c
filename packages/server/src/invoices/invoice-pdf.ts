import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import type { IssuedInvoice, Party } from '@core/invoices';
import { formatMoney, formatUnitPrice } from '@core/money';
import { formatMinutes } from '@core/time';

const require = createRequire(import.meta.url);

interface PdfMaker {
  setUrlAccessPolicy(may: (url: string) => boolean): void;
  setLocalAccessPolicy(may: (path: string) => boolean): void;
  setFonts(fonts: Record<string, Record<string, string>>): void;
  createPdf(document: TDocumentDefinitions): { getBuffer(): Promise<Buffer> };
}

const FONT = 'AtkinsonNext';
let maker: PdfMaker | undefined;

function pdfMaker(): PdfMaker {
  if (maker) return maker;
  maker = require('pdfmake') as PdfMaker;
  const folder = join(dirname(require.resolve('@fontsource/atkinson-hyperlegible-next/package.json')), 'files');
  const file = (weight: number, style: string) => join(folder, `atkinson-hyperlegible-next-latin-${weight}-${style}.woff`);
  maker.setUrlAccessPolicy(() => false);
  maker.setLocalAccessPolicy((path) => path.startsWith(folder));
  maker.setFonts({
    [FONT]: { normal: file(400, 'normal'), bold: file(700, 'normal'), italics: file(400, 'italic'), bolditalics: file(700, 'italic') },
  });
  return maker;
}

const INK = '#1c2331';
const SOFT = '#5a6272';
const RULE = '#ded8ca';

/** The invoice as the client gets it: A4, one table of lines, tax by rate, what to pay and how. */
export async function invoicePdf(invoice: IssuedInvoice): Promise<Buffer> {
  const document: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [56, 56, 56, 64],
    info: { title: `Invoice ${invoice.number}`, author: invoice.seller.name },
    defaultStyle: { font: FONT, fontSize: 9.5, color: INK, lineHeight: 1.25 },
    footer: (page, pages) => ({
      text: `${invoice.seller.name} · ${invoice.number} · ${page} of ${pages}`,
      fontSize: 8,
      color: SOFT,
      margin: [56, 24, 56, 0],
    }),
    content: [
      heading(invoice),
      lines(invoice),
      totals(invoice),
      {
        text: `Please pay ${formatMoney(invoice.totals.gross)} by ${invoice.dueOn} to ${invoice.seller.account}, naming ${invoice.number}.`,
        margin: [0, 24, 0, 0],
      },
    ],
  };
  return pdfMaker().createPdf(document).getBuffer();
}

function heading(invoice: IssuedInvoice): Content {
  const lines = (p: Party) =>
    [p.name, p.street, `${p.postcode} ${p.city}`, p.country, p.taxNumber ? `Tax number ${p.taxNumber}` : ''].filter(Boolean).join('\n');
  return [
    {
      columns: [
        { text: invoice.seller.name, fontSize: 13, bold: true },
        { text: lines(invoice.seller).split('\n').slice(1).join('\n'), alignment: 'right', color: SOFT },
      ],
    },
    { text: lines(invoice.buyer), margin: [0, 28, 0, 28] },
    { text: `Invoice ${invoice.number}`, fontSize: 18, bold: true },
    { text: `Issued ${invoice.issuedOn}, due ${invoice.dueOn}`, color: SOFT, margin: [0, 2, 0, 16] },
  ];
}

const RULED = {
  hLineColor: () => RULE,
  hLineWidth: (i: number) => (i === 0 ? 0 : 0.7),
  vLineWidth: () => 0,
  paddingTop: () => 4,
  paddingBottom: () => 4,
  paddingLeft: (i: number) => (i === 0 ? 0 : 6),
  paddingRight: () => 6,
};

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
    l.description,
    right(l.unit === 'MIN' ? formatMinutes(Number(l.quantity)) : l.quantity, { noWrap: true }),
    right(`${formatUnitPrice(l.unitPrice, invoice.currency)}${l.unit === 'MIN' ? ' / h' : ''}`, { noWrap: true }),
    right(`${l.tax.percent} %`, { noWrap: true }),
    right(formatMoney(l.net), { noWrap: true }),
  ]);
  return { table: { headerRows: 1, widths: [14, '*', 'auto', 'auto', 'auto', 'auto'], body: [head, ...body] }, layout: RULED };
}

function totals({ totals: t }: IssuedInvoice): Content {
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
    row('To pay', formatMoney(t.gross), true),
  ];
  return { table: { widths: ['*', 'auto'], body }, layout: 'noBorders', margin: [0, 12, 0, 0] };
}
