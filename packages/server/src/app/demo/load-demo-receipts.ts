import type { Knex } from 'knex';
import { formatMoney, money } from '@core/ground';
import type { BlobStore } from '../blob-store';
import { pdfOf, RULED } from '../documents/pdf';

interface Paid {
  readonly id: string;
  readonly day: string;
  readonly paid_minor: number;
  readonly currency: 'EUR';
  readonly note: string;
  readonly category: string;
}

const MILLIMETRE = 72 / 25.4;
/** Every so many expenses have theirs; the rest are still in somebody's pocket. */
const EVERY = 2;

/** Photographed or sent receipts of some expenses, as files of the store. */
export async function loadDemoReceipts(tx: Knex.Transaction, blobs: BlobStore): Promise<void> {
  await blobs.begin();
  const expenses: Paid[] = await tx('expense as x')
    .join('expense_category as c', 'c.id', 'x.category_id')
    .orderBy(['x.day', 'x.id'])
    .select('x.id', 'x.day', 'x.paid_minor', 'x.currency', 'x.note', 'c.name as category');
  for (const [n, expense] of expenses.entries()) {
    if (n % EVERY) continue;
    const bytes = await receiptOf(expense);
    const blob = await blobs.put(bytes);
    await tx('expense')
      .where({ id: expense.id })
      .update({
        receipt_name: `receipt-${expense.day}.pdf`,
        receipt_type: 'application/pdf',
        receipt_bytes: bytes.length,
        receipt_blob: blob,
      });
  }
}

function receiptOf({ day, paid_minor, currency, note, category }: Paid): Promise<Buffer> {
  const amount = formatMoney(money(paid_minor, currency));
  return pdfOf({
    pageSize: { width: 80 * MILLIMETRE, height: 110 * MILLIMETRE },
    pageMargins: [18, 20, 18, 16],
    defaultStyle: { font: 'AtkinsonNext', fontSize: 10 },
    content: [
      { text: category, bold: true, fontSize: 13 },
      { text: day, margin: [0, 2, 0, 12] },
      {
        layout: RULED,
        table: {
          widths: ['*', 'auto'],
          body: [
            [note, { text: amount, alignment: 'right' }],
            [
              { text: 'Paid', bold: true },
              { text: amount, bold: true, alignment: 'right' },
            ],
          ],
        },
      },
      { text: 'Thank you, and a good journey', margin: [0, 16, 0, 0], italics: true },
    ],
  });
}
