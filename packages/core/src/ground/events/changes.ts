import { ID } from '../routes';
import type { Was } from './event-words';

/** Columns of a record that changed, each as it was and as it is. */
export type Changes = Readonly<Record<string, Was<unknown>>>;

/** What differs between a record as it stood and what is written into it; only columns that are written count. */
export function changesOf(was: Readonly<Record<string, unknown>>, written: Readonly<Record<string, unknown>>): Changes {
  const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
  return Object.fromEntries(
    Object.keys(written)
      .filter((column) => !same(was[column], written[column]))
      .map((column) => [column, [was[column] ?? null, written[column] ?? null] as const]),
  );
}

/** Longer than this, a text is not shown beside what it was. */
const SHOWN_LETTERS = 60;

/** "name from Quay to Old Quay, notes"; empty where nothing changed. An id says nothing to a reader, nor does a long text. */
export function sayChanges(changes: Changes): string {
  return Object.entries(changes)
    .map(([column, [was, is]]) => {
      const label = column.replace(/_id$/, '').replaceAll('_', ' ');
      return isShown(was) && isShown(is) ? `${label} from ${sayValue(was)} to ${sayValue(is)}` : label;
    })
    .join(', ');
}

function isShown(value: unknown): boolean {
  const text = sayValue(value);
  return text.length <= SHOWN_LETTERS && !ID.test(text);
}

function sayValue(value: unknown): string {
  if (value === null || value === '') return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return Array.isArray(value) ? value.join(', ') || 'nothing' : String(value);
}
