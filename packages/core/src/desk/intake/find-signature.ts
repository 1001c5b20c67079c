export interface Signer {
  readonly id: string;
  readonly name: string;
  readonly phone: string | null;
}

export interface Signed {
  readonly id: string;
  /** What in the text named them. */
  readonly by: 'name' | 'phone' | 'first name';
}

const LAST_LINES = 8;
const digits = (text: string) => text.replace(/\D/g, '');

/**
 * Who of these signed a message: by full name or phone number among its last lines, or by first name alone
 * where just one of them has it.
 * @param text the sender's own words
 */
export function findSignature(text: string, people: readonly Signer[]): Signed | undefined {
  const lines = text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
    .slice(-LAST_LINES);
  const end = lines.join('\n').toLowerCase();
  const byName = people.filter((p) => end.includes(p.name.toLowerCase()));
  if (byName.length === 1) return { id: byName[0]!.id, by: 'name' };
  const numbers = lines.map(digits).filter((d) => d.length >= 7);
  const byPhone = people.filter((p) => p.phone && numbers.some((n) => n.endsWith(digits(p.phone!).slice(-7))));
  if (byPhone.length === 1) return { id: byPhone[0]!.id, by: 'phone' };
  const last = lines
    .at(-1)
    ?.toLowerCase()
    .replace(/[^\p{L}' -]/gu, '')
    .trim();
  const byFirst = people.filter((p) => last && p.name.toLowerCase().split(' ')[0] === last);
  return byFirst.length === 1 ? { id: byFirst[0]!.id, by: 'first name' } : undefined;
}
