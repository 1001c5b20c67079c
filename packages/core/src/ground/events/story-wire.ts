import { instant, optionalId, optionalText, record, text, type Wire } from '../routes';

/** One line of a record's story: who did what, when, and through which way in. Append-only. */
export const storySchema = record({
  /** Null of a line that says how many came before. */
  id: optionalId(),
  at: instant(),
  who: text(),
  what: text(),
  detail: optionalText(2000),
  via: text(),
});
export type StoryWire = Wire<typeof storySchema>;
