import type { WordsOf } from './event-words';

export interface CalendarEvents {
  'calendar.added': { readonly name: string };
  'calendar.changed': { readonly name: string };
}

export const calendarWords: WordsOf<CalendarEvents> = {
  'calendar.added': ({ name }) => `added the calendar ${name}`,
  'calendar.changed': ({ name }) => `changed the calendar ${name}; it holds from now on`,
};
