/** What other domains use of this one. */
export { ScheduleFeed } from './feeds/schedule-feed';
export { OutsideCalendars } from './outside-calendars/outside-calendars';
