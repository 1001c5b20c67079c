export interface Mentionable {
  readonly id: string;
  readonly name: string;
}

/**
 * Who is named in a note after an @: by full name, or by first name where only one has it. The longest name
 * that fits is meant; an address such as desk@pellworth.example names nobody.
 * @returns ids, each once, in the order of the text
 */
export function findMentions(text: string, people: readonly Mentionable[]): readonly string[] {
  const firsts = people.map((p) => firstOf(p.name));
  const called = people.flatMap((p) => [
    { id: p.id, words: p.name.toLowerCase() },
    ...(firsts.filter((f) => f === firstOf(p.name)).length === 1 ? [{ id: p.id, words: firstOf(p.name) }] : []),
  ]);
  const found: string[] = [];
  const lower = text.toLowerCase();
  for (const { index } of lower.matchAll(/(?<![\p{L}\p{N}._-])@(?=\p{L})/gu)) {
    const after = lower.slice(index + 1);
    const [best] = called
      .filter((c) => after.startsWith(c.words) && !/^[\p{L}\p{N}]/u.test(after.slice(c.words.length)))
      .sort((a, b) => b.words.length - a.words.length);
    if (best && !found.includes(best.id)) found.push(best.id);
  }
  return found;
}

const firstOf = (name: string): string => name.split(' ')[0]!.toLowerCase();
