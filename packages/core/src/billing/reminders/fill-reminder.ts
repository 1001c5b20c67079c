/** What the text of a reminder can name, in braces. */
export const REMINDER_BLANKS = ['client', 'invoices', 'total', 'us'] as const;
export type ReminderBlank = (typeof REMINDER_BLANKS)[number];

/** Names in braces that stand for nothing a reminder knows. */
export function unknownBlanks(text: string): readonly string[] {
  return [...text.matchAll(/\{([^{}]*)\}/g)].map((m) => m[1]!).filter((name) => !(REMINDER_BLANKS as readonly string[]).includes(name));
}

/** Fills the blanks of a text; what is filled in is not looked at again. */
export function fillReminder(text: string, values: Readonly<Record<ReminderBlank, string>>): string {
  return text.replace(/\{(client|invoices|total|us)\}/g, (_, name: ReminderBlank) => values[name]);
}
