import { count, defineRoutes, list, record, text, type Wire } from '../../ground';

/** Something in the books that does not agree with something else. */
const findingSchema = record({
  rule: text(),
  /** The record that is wrong, by its number or id. */
  at: text(300),
  is: text(300),
  shouldBe: text(300),
});
export const booksSchema = record({
  documents: count(),
  charges: count(),
  /** The first of each rule. */
  findings: list(findingSchema),
});
export type BooksWire = Wire<typeof booksSchema>;

export const bookRoutes = defineRoutes({
  checkBooks: {
    method: 'GET',
    path: '/billing/books/check',
    summary: 'Proves that the books agree: numbers, sums, what is billed of charges, and what is settled',
    permission: 'invoices.read',
    answer: booksSchema,
  },
});
