/** A list as a person types it, one a line; the empty last line stays while it is typed. */
export const linesOf = (typed: unknown): string[] => (String(typed ?? '') === '' ? [] : String(typed).split('\n'));
export const textOf = (list: unknown): string => (Array.isArray(list) ? list.join('\n') : '');
