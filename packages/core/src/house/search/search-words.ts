/** Words as the search takes them: a row of dashes is one, as each would ask for the opposite of the next. */
export function searchWords(typed: string): string {
  return typed
    .replace(/-[\s-]*-/g, '-')
    .replace(/\s-(?=\s|$)/g, ' ')
    .trim();
}
