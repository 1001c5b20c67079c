import { array, string } from 'yup';
import { IMPACTS, URGENCIES } from '../priority';
import {
  count,
  defineRoutes,
  done,
  id,
  instant,
  list,
  oneOf,
  optionalId,
  optionalInstant,
  optionalOneOf,
  optionalText,
  record,
  text,
  yes,
  type Wire,
} from '../../ground';
import { SORTED_KINDS } from '../tickets';

export const MEMBERSHIP_ENDS = ['detached', 'resolved'] as const;
/** The most members that join or are written to at once. */
export const MOST_MEMBERS = 500;
const memberIds = () => array(id()).defined().min(1, 'choose at least one').max(MOST_MEMBERS, `at most ${MOST_MEMBERS} at once`);

/** How tickets join: whether their contacts are told and get a status link, and whether bookings and assignee move. */
const joining = { memberIds: memberIds(), tell: yes(), moveWork: yes() };
export const joinSchema = record(joining);
export type JoinForm = Wire<typeof joinSchema>;
export const umbrellaFormSchema = record({
  subject: text(),
  kind: oneOf(SORTED_KINDS),
  impact: oneOf(IMPACTS),
  urgency: oneOf(URGENCIES),
  deskId: id('desk'),
  ...joining,
});
export type UmbrellaForm = Wire<typeof umbrellaFormSchema>;

export const updateSchema = record({
  /** May hold placeholders, which are filled for each. */
  text: text(20_000),
  memberIds: memberIds(),
  /** Also ask each whether it is back for them, answered by a press in the mail. */
  asks: yes(),
});
export type UpdateForm = Wire<typeof updateSchema>;
export const updatePreviewSchema = record({
  mails: list(
    record({
      ticketId: id('ticket'),
      number: count(),
      client: optionalText(),
      contact: text(),
      to: text(),
      subject: text(400),
      text: string().defined(),
      /** Why it should not leave as it stands: something is empty, or another client is named. */
      trouble: list(text(400)),
    }),
  ),
  /** Members without an address to write to. */
  unreachable: list(record({ ticketId: id('ticket'), number: count() })),
});
export type UpdatePreview = Wire<typeof updatePreviewSchema>;
export const umbrellaRowSchema = record({
  id: id('ticket'),
  number: count(),
  subject: text(),
  members: count(),
  earliest: instant(),
});
export type UmbrellaRowWire = Wire<typeof umbrellaRowSchema>;

export const INTEGRITY_CHECKS = {
  'running clock': "a member's clock runs",
  'hidden reply': 'a reply is owed on a member and not on its umbrella',
  'wrong owed': 'an umbrella owes a reply that no member is owed',
  'wrong receipt': 'an umbrella does not count from the earliest receipt of its members',
  'wrong member': 'a ticket and its membership do not agree',
  'stale clock': 'a stored clock is not what its facts say',
} as const;
export type IntegrityCheck = keyof typeof INTEGRITY_CHECKS;
export const integritySchema = record({
  umbrellas: count(),
  members: count(),
  findings: list(
    record({ check: oneOf(Object.keys(INTEGRITY_CHECKS) as IntegrityCheck[]), ticketId: id('ticket'), number: count(), what: text(600) }),
  ),
});
export type IntegrityWire = Wire<typeof integritySchema>;

/** What an umbrella's page shows of each member. */
export const memberSchema = record({
  id: id('ticket'),
  number: count(),
  subject: text(),
  client: optionalText(),
  clientId: optionalId('client'),
  contact: optionalText(),
  receivedAt: instant(),
  joinedAt: instant(),
  /** How the membership ended; null while it stands. */
  ended: optionalOneOf(MEMBERSHIP_ENDS),
  owedSince: optionalInstant(),
  owedBy: optionalText(),
  asked: yes(),
  /** What the contact answered to "is it back for you?", the latest. */
  back: optionalOneOf(['yes', 'no']),
});
export type MemberWire = Wire<typeof memberSchema>;

export const umbrellaRoutes = defineRoutes({
  listUmbrellas: {
    method: 'GET',
    path: '/umbrellas',
    summary: 'Umbrellas that are open, the newest first',
    permission: 'tickets.read',
    answer: record({ umbrellas: list(umbrellaRowSchema) }),
  },
  openUmbrella: {
    method: 'POST',
    path: '/umbrellas',
    summary: 'Open an umbrella over tickets that have one cause',
    permission: 'tickets.work',
    body: umbrellaFormSchema,
    answer: record({ id: id('ticket'), number: count(), told: count() }),
  },
  listMembers: {
    method: 'GET',
    path: '/tickets/:ticketId/members',
    summary: 'The members of an umbrella, also those who were, and what each answered',
    permission: 'tickets.read',
    answer: record({ members: list(memberSchema) }),
  },
  joinUmbrella: {
    method: 'POST',
    path: '/tickets/:ticketId/members',
    summary: 'Put more tickets under an umbrella',
    permission: 'tickets.work',
    body: joinSchema,
    answer: record({ id: id('ticket'), joined: count(), told: count() }),
  },
  detachMember: {
    method: 'POST',
    path: '/tickets/:ticketId/detach',
    summary: 'Take a member from its umbrella; it has its own status again and its clocks go on',
    permission: 'tickets.work',
    answer: done(),
  },
  previewUpdate: {
    method: 'POST',
    path: '/tickets/:ticketId/updates/preview',
    summary: 'What an update to the members would say to each; nothing is stored',
    permission: 'tickets.work',
    body: updateSchema,
    reads: true,
    answer: updatePreviewSchema,
  },
  updateMembers: {
    method: 'POST',
    path: '/tickets/:ticketId/updates',
    summary: 'Write to the contacts of the members, each in their own thread; it leaves after ten seconds',
    permission: 'tickets.work',
    body: updateSchema,
    answer: record({ id: id('member_update'), leavesAt: instant(), mails: count() }),
  },
  takeBackUpdate: {
    method: 'POST',
    path: '/updates/:updateId/take-back',
    summary: 'Take an update to the members back before it leaves',
    permission: 'tickets.work',
    answer: record({ text: string().defined(), takenBack: count(), left: count() }),
  },
  checkUmbrellas: {
    method: 'GET',
    path: '/umbrellas/check',
    summary: 'Proves that no member runs and no reply is hidden',
    permission: 'setup.read',
    answer: integritySchema,
  },
});
