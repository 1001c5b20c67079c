/**
 * Saves rows as a CSV file (RFC 4180). Text that a spreadsheet would take for a formula gets an apostrophe;
 * numbers stay numbers.
 */
export function downloadCsv(name: string, head: readonly string[], rows: readonly (readonly string[])[]): void {
  const url = URL.createObjectURL(new Blob([csvText([head, ...rows])], { type: 'text/csv;charset=utf-8' }));
  const link = Object.assign(document.createElement('a'), { href: url, download: name });
  link.click();
  URL.revokeObjectURL(url);
}

export function csvText(rows: readonly (readonly string[])[]): string {
  return rows.map((row) => row.map(cell).join(',')).join('\r\n') + '\r\n';
}

function cell(text: string): string {
  const safe = /^[=+\-@\t\r]/.test(text) && !/^-?\d+(\.\d+)?$/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
