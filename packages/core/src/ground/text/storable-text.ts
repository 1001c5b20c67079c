const NUL = /\0/g;
/** Half of a pair that stands alone: no UTF-8 can carry it. */
const HALF = /[\uD800-\uDFFF]/gu;

/** Text as PostgreSQL and UTF-8 can hold it: without NUL, and with U+FFFD for each surrogate that stands alone. */
export function storableText(text: string): string {
  return text.replace(NUL, '').replace(HALF, '\uFFFD');
}

/** Whether text can be stored just as it is. */
export function isStorableText(text: string): boolean {
  return storableText(text) === text;
}

/** At most so many letters of a text, never half of one, and a sign where something was left out. */
export function clipText(text: string, most: number): string {
  const clean = storableText(text);
  if (clean.length <= most) return clean;
  const cut = clean.slice(0, Math.max(0, most - 1));
  return `${/[\uD800-\uDBFF]$/.test(cut) ? cut.slice(0, -1) : cut}…`.slice(0, most);
}
