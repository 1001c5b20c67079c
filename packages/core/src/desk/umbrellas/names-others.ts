/**
 * Which of these names a text mentions, whole words only, in any case. No client may read another's name.
 * @param names of the clients and contacts who may not be named; those under three letters are not looked for
 */
export function namesOthers(text: string, names: readonly string[]): string[] {
  return [...new Set(names)].filter((name) => name.trim().length >= 3 && mentions(text, name.trim()));
}

function mentions(text: string, name: string): boolean {
  const plain = name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/\s+/g, '\\s+');
  return new RegExp(`(?<![\\p{L}\\p{N}])${plain}(?![\\p{L}\\p{N}])`, 'iu').test(text);
}
