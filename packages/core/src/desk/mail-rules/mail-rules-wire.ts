import { string, type TestContext } from 'yup';
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
  pageOf,
  pageQuery,
  record,
  text,
  whole,
  yes,
  type Wire,
} from '../../ground';
import { DESK_LINES, SORTED_KINDS } from '../tickets';

const pattern = () => string().trim().defined().max(200, 'at most 200 characters');
const looked = {
  sender: pattern(),
  subject: pattern(),
  header: string()
    .trim()
    .lowercase()
    .defined()
    .max(100, 'at most 100 characters')
    .matches(/^([a-z0-9-]+)?$/, 'the name of a header, such as x-host'),
  headerHolds: pattern(),
};
type Looked = Readonly<Record<keyof typeof looked, string>>;
const written = {
  name: text(60),
  ...looked,
  does: oneOf(['aside', 'route']),
  /** Why it is put aside, for who looks through what was. */
  reason: optionalText(200),
  kind: optionalOneOf(SORTED_KINDS),
  impact: optionalOneOf(IMPACTS),
  urgency: optionalOneOf(URGENCIES),
  line: optionalOneOf(DESK_LINES),
  categoryId: optionalId('category'),
  deskId: optionalId('desk'),
  clientId: optionalId('client'),
  assetId: optionalId('asset'),
};
/** A rule looks for something, and for a header by its name and what it holds. */
const looks = {
  asks: ({ sender, subject, headerHolds }: Looked, { createError }: TestContext) =>
    sender || subject || headerHolds
      ? true
      : createError({ path: 'sender', message: 'say what it looks for: a sender, a subject or a header' }),
  header: ({ header, headerHolds }: Looked, { createError }: TestContext) =>
    Boolean(header) === Boolean(headerHolds) ? true : createError({ path: 'header', message: 'name the header, and what it holds' }),
};
export const mailRuleFormSchema = record(written)
  .test('asks', looks.asks)
  .test('header', looks.header)
  .test('reason', ({ does, reason }, { createError }) =>
    does !== 'aside' || reason ? true : createError({ path: 'reason', message: 'say why it is put aside' }),
  );
export type MailRuleForm = Wire<typeof mailRuleFormSchema>;
export const mailRuleSchema = record({
  id: id('mail_rule'),
  version: count(),
  position: count(),
  ...written,
  client: optionalText(),
  asset: optionalText(),
});
export type MailRuleWire = Wire<typeof mailRuleSchema>;

export const asideSchema = record({
  id: id('mail_source'),
  at: instant(),
  sender: text(254),
  subject: optionalText(400),
  reason: text(300),
  rule: optionalText(60),
  ticket: record({ id: id('ticket'), number: count() })
    .nullable()
    .defined(),
  endedAt: optionalInstant(),
  endedBy: optionalText(),
});
export type AsideWire = Wire<typeof asideSchema>;
const ASIDE_STATES = ['waiting', 'all'] as const;

export const mailRuleRoutes = defineRoutes({
  listMailRules: {
    method: 'GET',
    path: '/mail-rules',
    summary: 'Where mail goes that opens no known ticket, in the order in which rules are asked',
    permission: 'setup.read',
    answer: record({ rules: list(mailRuleSchema) }),
  },
  addMailRule: {
    method: 'POST',
    path: '/mail-rules',
    summary: 'Add a rule for mail; it is asked after the others',
    permission: 'setup.edit',
    body: mailRuleFormSchema,
    answer: done(),
  },
  editMailRule: {
    method: 'PUT',
    path: '/mail-rules/:mailRuleId',
    summary: 'Change a rule for mail; what it did stays as it is',
    permission: 'setup.edit',
    versioned: true,
    body: mailRuleFormSchema,
    answer: done(),
  },
  moveMailRule: {
    method: 'POST',
    path: '/mail-rules/:mailRuleId/move',
    summary: 'Ask a rule earlier or later',
    permission: 'setup.edit',
    body: record({ position: whole(1, 1000) }),
    answer: record({ position: count() }),
  },
  archiveMailRule: {
    method: 'DELETE',
    path: '/mail-rules/:mailRuleId',
    summary: 'Ask a rule no more',
    permission: 'setup.edit',
    answer: record({ removed: yes() }),
  },
  tryMailRule: {
    method: 'POST',
    path: '/mail-rules/try',
    summary: 'Which of the latest mails a rule would have taken',
    permission: 'setup.read',
    reads: true,
    body: record(looked).test('asks', looks.asks).test('header', looks.header),
    /** How many it would have taken of so many, and the latest of them. */
    answer: record({
      read: count(),
      takes: count(),
      taken: list(record({ at: instant(), sender: text(254), subject: optionalText(400) })),
    }),
  },
  listAside: {
    method: 'GET',
    path: '/mail-aside',
    summary: 'Mail that opened no ticket, with the reason',
    permission: 'setup.read',
    query: pageQuery(['-at'], { state: string().oneOf(ASIDE_STATES).default('waiting') }),
    answer: pageOf(asideSchema),
  },
  countAside: {
    method: 'GET',
    path: '/mail-aside/count',
    summary: 'How many mails put aside nobody has looked at yet',
    permission: 'setup.read',
    answer: record({ waiting: count() }),
  },
  getAsideSource: {
    method: 'GET',
    path: '/mail-aside/:asideId/source',
    summary: 'The raw text of a mail put aside',
    permission: 'setup.read',
    file: 'message/rfc822',
    answer: record({}),
  },
  openAside: {
    method: 'POST',
    path: '/mail-aside/:asideId/open',
    summary: 'Make a ticket of a mail put aside',
    permission: 'setup.edit',
    answer: record({ ticketId: id('ticket'), number: count() }),
  },
  endAside: {
    method: 'POST',
    path: '/mail-aside/:asideId/end',
    summary: 'A mail put aside was looked at and needs nothing',
    permission: 'setup.edit',
    answer: record({ ended: yes() }),
  },
});
