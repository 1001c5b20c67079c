/** The number as printed: the series' prefix and the sequence with at least five digits. */
export function invoiceNumber(prefix: string, sequence: number): string {
  return `${prefix}${String(sequence).padStart(5, '0')}`;
}
