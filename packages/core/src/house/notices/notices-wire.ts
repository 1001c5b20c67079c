import { count, defineRoutes, id, instant, list, optionalId, record, text, yes, type Wire } from '../../ground';

/** Something that a person should know of, until they have seen it. */
export const noticeSchema = record({
  id: id('notice'),
  at: instant(),
  text: text(500),
  ticketId: optionalId('ticket'),
  seen: yes(),
  urgent: yes(),
});
export type NoticeWire = Wire<typeof noticeSchema>;

export const noticeRoutes = defineRoutes({
  listNotices: {
    method: 'GET',
    path: '/notices',
    summary: 'What is new for the person: the newest fifty',
    permission: 'signed in',
    answer: record({ notices: list(noticeSchema), unseen: count() }),
  },
  seeNotices: {
    method: 'POST',
    path: '/notices/seen',
    summary: 'All that was new has been seen',
    permission: 'signed in',
    answer: record({ seen: count() }),
  },
});
