import { anyId, instant, list, optionalId, optionalText, record, text, type Wire } from '../routes';

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

/** What a route takes and answers that shows what happened to a record before an event that is known. */
export const earlierStory = {
  query: record({ before: anyId().required('the event before which to read on') }),
  answer: record({ story: list(storySchema) }),
};
