import { array } from 'yup';
import {
  count,
  date,
  defineRoutes,
  id,
  instant,
  list,
  oneOf,
  optionalId,
  optionalText,
  record,
  text,
  why,
  yes,
  type Wire,
} from '../../ground';
import { entryFormSchema } from '../time-entries';
import { EVIDENCE } from './evidence';

const MOST_AT_ONCE = 60;
export const proposedEntrySchema = record({
  key: text(80),
  /** null where what shows it says nothing of that, as an appointment from outside. */
  workId: optionalId('work'),
  number: count().nullable(),
  subject: optionalText(),
  client: optionalText(),
  startsAt: instant(),
  endsAt: instant(),
  minutes: count(),
  activityId: id('activity'),
  note: text(300),
  evidence: list(record({ is: oneOf(EVIDENCE), says: text(300), at: instant() })),
  sure: yes(),
  why: why(),
});
export type ProposedEntryWire = Wire<typeof proposedEntrySchema>;
/** An entry as it is to be recorded, by the same rules as one that is typed. */
export const acceptedEntrySchema = entryFormSchema.pick(['workId', 'startsAt', 'duration', 'activityId', 'note']).shape({ key: text(80) });

export const proposedEntryRoutes = defineRoutes({
  listProposedEntries: {
    method: 'GET',
    path: '/proposed-entries',
    summary: 'Your day written from timers, bookings, calls, messages, changes and appointments, less what is recorded',
    permission: 'time.own',
    query: record({ day: date() }),
    answer: record({ proposed: list(proposedEntrySchema) }),
  },
  acceptProposedEntries: {
    method: 'POST',
    path: '/proposed-entries/accept',
    summary: 'Record proposed entries as they are or as they were changed; all of them or none',
    permission: 'time.own',
    body: record({
      entries: array(acceptedEntrySchema).defined().required().min(1, 'choose at least one').max(MOST_AT_ONCE, `at most ${MOST_AT_ONCE}`),
    }),
    answer: record({ recorded: count() }),
  },
  dismissProposedEntry: {
    method: 'POST',
    path: '/proposed-entries/dismiss',
    summary: 'That was no work, or is recorded elsewhere: it is proposed no more',
    permission: 'time.own',
    body: record({ key: text(80) }),
    answer: record({ key: text(80) }),
  },
});
