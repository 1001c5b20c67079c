import { ID } from '../routes';
import type { Was } from './event-words';

/** Columns of a record that changed, each as it was and as it is. */
export type Changes = Readonly<Record<string, Was<unknown>>>;

/** What differs between a record as it stood and what is written into it; only columns that are written count. */
export function changesOf(was: Readonly<Record<string, unknown>>, written: Readonly<Record<string, unknown>>): Changes {
  // What was left empty is nothing, however it is written.
  const text = (value: unknown) => JSON.stringify(value === '' ? null : (value ?? null));
  return Object.fromEntries(
    Object.keys(written)
      .filter((column) => text(was[column]) !== text(written[column]))
      .map((column) => [column, [was[column] ?? null, written[column] ?? null] as const]),
  );
}

/** Longer than this, a text is not shown beside what it was. */
const SHOWN_LETTERS = 60;

/**
 * "name from Quay to Old Quay, notes"; empty where nothing changed. An id says nothing to a reader, nor does a long text.
 * @param labels what forms call a column, where that is another word than its own
 */
export function sayChanges(changes: Changes, labels: Readonly<Record<string, string>> = {}): string {
  return Object.entries(changes)
    .map(([column, [was, is]]) => {
      const label = labels[column] ?? column.replace(/_id$/, '').replaceAll('_', ' ');
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
