import { count, defineRoutes, optionalText, record, text } from '../../ground';

export const feedRoutes = defineRoutes({
  getFeed: {
    method: 'GET',
    path: '/schedule-feed',
    summary: 'The secret address of your own schedule as an iCalendar feed, where there is one',
    permission: 'time.own',
    answer: record({ address: optionalText(500) }),
  },
  makeFeed: {
    method: 'POST',
    path: '/schedule-feed',
    summary: 'Make a secret address for your schedule; an earlier one answers no more',
    permission: 'time.own',
    secret: true,
    answer: record({ address: text(500) }),
  },
  endFeed: {
    method: 'DELETE',
    path: '/schedule-feed',
    summary: 'Let the address answer no more',
    permission: 'time.own',
    answer: record({ removed: count() }),
  },
});
