import { instant, optionalText, record, text, type Wire } from '../routes';

/** One line of a record's story: who did what, when, and through which way in. Append-only. */
export const storySchema = record({ at: instant(), who: text(), what: text(), detail: optionalText(2000), via: text() });
export type StoryWire = Wire<typeof storySchema>;
