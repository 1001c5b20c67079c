/** What a text for clients may leave open, to be filled for each: the word in braces, and what it stands for. */
export const PLACEHOLDERS = {
  contact: 'the name of who it is for',
  'first name': 'their first name',
  number: "the ticket's number",
  subject: "the ticket's subject",
  client: "the client's name",
  due: 'when it is to be resolved',
  me: 'your own name',
} as const;
export type Placeholder = keyof typeof PLACEHOLDERS;
export const PLACEHOLDER_NAMES = Object.keys(PLACEHOLDERS) as Placeholder[];

export interface Filled {
  readonly text: string;
  /** Placeholders for which there is nothing to put in; they are left standing. */
  readonly empty: readonly Placeholder[];
  /** Words in braces that are no placeholder. */
  readonly unknown: readonly string[];
}

const IN_BRACES = /\{([^{}\n]{1,40})\}/g;

/**
 * Fills the placeholders of a text, such as "Hello {first name}".
 * @param values what each stands for; empty or missing where it is not known
 * @returns the text with what could be filled, and what could not
 */
export function fillPlaceholders(text: string, values: Readonly<Partial<Record<Placeholder, string | null>>>): Filled {
  const empty = new Set<Placeholder>();
  const unknown = new Set<string>();
  const filled = text.replace(IN_BRACES, (whole, word: string) => {
    const name = word.trim().toLowerCase();
    if (!isPlaceholder(name)) {
      unknown.add(whole);
      return whole;
    }
    const value = values[name]?.trim();
    if (!value) empty.add(name);
    return value || whole;
  });
  return { text: filled, empty: [...empty], unknown: [...unknown] };
}

function isPlaceholder(name: string): name is Placeholder {
  return name in PLACEHOLDERS;
}
