import { optionalActionTime } from '../action-time';
import { number, string } from 'yup';
import { clockSchema } from '../clocks';
import { IMPACTS, PRIORITIES, URGENCIES } from '../priority';
import {
  anyId,
  count,
  currency,
  defineRoutes,
  done,
  id,
  type Id,
  instant,
  list,
  oneOf,
  optionalDay,
  optionalId,
  optionalInstant,
  optionalOneOf,
  optionalRecord,
  optionalText,
  pageOf,
  pageQuery,
  record,
  storySchema,
  text,
  why,
  type Wire,
  yes,
} from '../../ground';
import { followerSchema } from '../followers';
import { fieldValuesSchema, type FieldValues, shownFieldSchema } from '../own-fields';
import { CHECKED_MOVES, OBSTACLE_CHECKS } from './closing-checks';
import { DESK_LINES, HOLD_REASONS, KINDS, OUTCOMES, STATUSES } from './ticket';

export const LOOKS = ['third party', 'not delivered'] as const;
export type Look = (typeof LOOKS)[number];
const rowFields = {
  id: id('ticket'),
  version: count(),
  number: count(),
  subject: text(),
  kind: oneOf(KINDS),
  /** The house's own name for its kind, where it has one. */
  ownKind: optionalText(),
  status: oneOf(STATUSES),
  /** The house's own name for where it stands, where it has one. */
  ownStatus: optionalText(),
  priority: optionalOneOf(PRIORITIES),
  client: optionalText(),
  clientId: optionalId('client'),
  contact: optionalText(),
  desk: optionalText(),
  assignee: optionalText(),
  assigneeId: optionalId('person'),
  receivedAt: instant(),
  changedAt: instant(),
  dueAt: optionalInstant(),
  replyOwedSince: optionalInstant(),
  /** Who waits for the reply, and how long in the provider's working time. */
  replyOwedBy: optionalText(),
  owedWorkingSeconds: count().nullable(),
  /** Since when a look inside is owed, why, and at whom: who wrote and is no client, or what address did not take our mail. */
  look: optionalRecord({ since: instant(), is: oneOf(LOOKS), at: text() }),
  unknownSender: yes(),
  /** An umbrella stands for several reports of one cause. */
  isUmbrella: yes(),
  /** The umbrella of which it is a member now. */
  umbrella: optionalRecord({ id: id('ticket'), number: count() }),
  clocks: list(clockSchema),
};
export const ticketRowSchema = record(rowFields);
export type TicketRowWire = Wire<typeof ticketRowSchema>;

export const attachmentSchema = record({ id: id('attachment'), name: text(), mediaType: text(), bytes: count() });
/** What became of an item of a checklist; open while it has none. */
export const CHECKLIST_ANSWERS = ['done', 'not needed', 'moved'] as const;
export type ChecklistAnswer = (typeof CHECKLIST_ANSWERS)[number];
export const CALL_OUTCOMES = ['spoke', 'left a message', 'nobody'] as const;
export type CallOutcome = (typeof CALL_OUTCOMES)[number];
export const MESSAGE_VISIBILITIES = ['public', 'inside'] as const;
export const deliverySchema = record({
  address: text(254),
  became: oneOf(['failed', 'delayed', 'delivered']),
  code: optionalText(20),
  why: text(200),
});
export const messageSchema = record({
  id: id('message'),
  at: instant(),
  direction: oneOf(['in', 'out', 'note']),
  visibility: oneOf(MESSAGE_VISIBILITIES),
  author: text(),
  fromClient: yes(),
  automatic: yes(),
  /** Of a call: what came of it. */
  callOutcome: optionalOneOf(CALL_OUTCOMES),
  /** The supplier or other who wrote and is no client. */
  thirdParty: optionalText(),
  /** Plainly thanks: recognised, and no reply is owed. */
  thanks: yes(),
  to: list(string().defined()),
  text: string().defined(),
  html: string().defined().nullable(),
  hasSource: yes(),
  attachments: list(attachmentSchema),
  /** Set while a reply waits to leave and can be taken back. */
  leavesAt: optionalInstant(),
  takenBack: yes(),
  /** Why it did not leave, where sending failed. */
  trouble: optionalText(1000),
  /** What became of it on its way to each address, as reports of mail servers say. */
  deliveries: list(deliverySchema),
  /** What an automatic mail says: that somebody is away, or what became of a mail of ours. */
  notice: record({
    is: oneOf(['away', 'delivery']),
    from: optionalDay().nullable(),
    back: optionalDay().nullable(),
    deliveries: list(deliverySchema).optional(),
  })
    .nullable()
    .defined(),
  /** What was too much to be shown; it stands in the source. */
  leftOut: list(oneOf(['html', 'text', 'files', 'form'])),
});
export type MessageWire = Wire<typeof messageSchema>;
export const checklistItemSchema = record({
  id: id('checklist_item'),
  text: text(),
  answer: optionalOneOf(CHECKLIST_ANSWERS),
  owner: optionalText(),
  ownerId: optionalId('person'),
  dueAt: optionalInstant(),
});
export const obstacleSchema = record({ move: oneOf(CHECKED_MOVES), check: oneOf(OBSTACLE_CHECKS), what: text(600), id: optionalText() });
export type ObstacleWire = Wire<typeof obstacleSchema>;
export const ticketBookingSchema = record({
  id: id('booking'),
  version: count(),
  person: optionalText(),
  personId: optionalId('person'),
  startsAt: instant(),
  endsAt: instant(),
  state: text(),
});

export const ticketSchema = record({
  ...rowFields,
  impact: optionalOneOf(IMPACTS),
  urgency: optionalOneOf(URGENCIES),
  priorityWhy: why().nullable(),
  holdReason: optionalOneOf(HOLD_REASONS),
  ownStatusId: optionalId('own_status'),
  ownKindId: optionalId('own_kind'),
  outcome: optionalOneOf(OUTCOMES),
  /** What was done, as the client may be told. */
  resolution: optionalText(2000),
  /** When it closes by itself, while it is resolved. */
  closesAt: optionalInstant(),
  /** What stands in the way of each move that it could make now. */
  obstacles: list(obstacleSchema),
  /** The latest waiver, while it stands: whose words, and why nothing is owed. */
  waived: optionalRecord({ at: instant(), who: text(), reason: text(500), thanks: yes() }),
  deskId: optionalId('desk'),
  line: optionalOneOf(DESK_LINES),
  categoryId: optionalId('category'),
  category: optionalText(),
  mergedInto: optionalRecord({ id: id('ticket'), number: count() }),
  contactId: optionalId('contact'),
  contactEmail: optionalText(),
  contactTitle: optionalText(),
  site: optionalText(),
  clientZone: optionalText(),
  /** Who else was on the client's latest message; a reply goes to them too, unless taken off. */
  copies: list(string().defined()),
  /** Why mail to the contact does not arrive, where a report said so and they have not written since. */
  contactTrouble: optionalText(),
  /** The client has a page of their own at a secret address. */
  hasOwnPage: yes(),
  /** Inside notes that are for the desk's own team, and not among the messages. */
  insideHidden: count(),
  asset: optionalText(),
  assetId: optionalId('asset'),
  linked: optionalRecord({ id: id('ticket'), number: count(), subject: text() }),
  threadingWhy: why().nullable(),
  minutes: count(),
  /** The house's own fields that are shown on it now. */
  fields: list(shownFieldSchema),
  followers: list(followerSchema),
  /** What it has to do with: tickets it continues, that continue it, or that somebody said so of. */
  related: list(
    record({ id: id('ticket'), number: count(), subject: text(), status: oneOf(STATUSES), how: oneOf(['related', 'before', 'after']) }),
  ),
  messages: list(messageSchema),
  /** How many came before those, which are the newest. */
  earlierMessages: count(),
  story: list(storySchema),
  checklist: list(checklistItemSchema),
  bookings: list(ticketBookingSchema),
  charges: list(
    record({
      id: id('charge'),
      description: text(),
      state: text(),
      minor: count(),
      currency: currency(),
      invoice: optionalText(),
      invoiceId: optionalId('invoice'),
    }),
  ),
  similar: list(record({ id: id('ticket'), number: count(), subject: text(), client: optionalText() })),
});
export type TicketWire = Wire<typeof ticketSchema>;

const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}Z$/;
export const TICKET_SORTS = ['due', 'received', 'changed', 'owed'] as const;
/** What lists can be narrowed by; the same words stand in the page's address. */
export const ticketFilterSchema = pageQuery(TICKET_SORTS, {
  state: string().oneOf(['open', 'ended', 'all', 'unsorted']).default('open'),
  deskId: anyId(),
  assigneeId: anyId(),
  clientId: anyId(),
  assetId: anyId(),
  priority: string().oneOf(PRIORITIES),
  status: string().oneOf(STATUSES),
  ownStatusId: anyId(),
  kind: string().oneOf(KINDS),
  ownKindId: anyId(),
  line: string().oneOf(DESK_LINES),
  categoryId: anyId(),
  teamId: anyId(),
  holdReason: string().oneOf(HOLD_REASONS),
  /** The skill that its category asks for, and the site it is at. */
  skillId: anyId(),
  siteId: anyId(),
  /** Whether a booking stands for it that is neither done nor cancelled. */
  booked: string().oneOf(['yes', 'no']),
  visit: string().oneOf(['yes', 'no']),
  /** Those that wait for nobody. */
  notHeld: string().oneOf(['yes']),
  /** Those that are missed already or will be within so many minutes of the wall clock. */
  missWithin: number().integer().min(0).max(100_000),
  dueFrom: string().max(20).matches(INSTANT),
  dueTo: string().max(20).matches(INSTANT),
  owed: string().oneOf(['yes']),
  /** Where a look inside is owed. */
  look: string().oneOf(['yes']),
  q: string().max(100),
});
export type TicketFilter = Wire<typeof ticketFilterSchema>;

export const triageSchema = record({
  impact: oneOf(IMPACTS),
  urgency: oneOf(URGENCIES),
  kind: oneOf(KINDS.filter((kind) => kind !== 'unsorted')),
  deskId: id('desk'),
  line: oneOf(DESK_LINES),
  categoryId: id('category'),
  clientId: optionalId('client'),
  contactId: optionalId('contact'),
  assetId: optionalId('asset'),
  fields: fieldValuesSchema().default([]),
  /** A kind under the house's own name, which must stand for the kind. */
  ownKindId: optionalId('own_kind').default(null),
  /** Who has it; nobody named leaves it to how the desk's line assigns. */
  assigneeId: optionalId('person'),
});
export type Triage = Omit<Wire<typeof triageSchema>, 'fields' | 'ownKindId'> & {
  readonly fields?: FieldValues;
  readonly ownKindId?: Id<'own_kind'> | null;
};

export const ticketEditSchema = record({
  subject: text(),
  clientId: optionalId('client'),
  contactId: optionalId('contact'),
  assetId: optionalId('asset'),
  categoryId: optionalId('category'),
  impact: optionalOneOf(IMPACTS),
  urgency: optionalOneOf(URGENCIES),
});
export type TicketEdit = Wire<typeof ticketEditSchema>;
export const newTicketSchema = record({
  clientId: id('client'),
  contactId: id('contact'),
  subject: text(),
  text: text(20_000),
  byCall: yes(),
  feeId: optionalId('flat_fee').default(null),
  feeQuantity: number().integer().min(1).max(999).default(1),
  /** Gives its checklist, and its routing where it says all of that. */
  templateId: optionalId('ticket_template').default(null),
  fields: fieldValuesSchema().default([]),
});
export type NewTicketForm = Omit<Wire<typeof newTicketSchema>, 'fields' | 'templateId'> & {
  readonly fields?: FieldValues;
  readonly templateId?: Id<'ticket_template'> | null;
};
export const statusSchema = record({
  status: oneOf(STATUSES),
  holdReason: optionalOneOf(HOLD_REASONS),
  /** A status under the house's own name, which must stand for the status asked for. */
  ownStatusId: optionalId('own_status').default(null),
  /** Why it is resolved though something stands in the way; needs the permission for that. */
  override: string().trim().nullable().max(500).default(null),
  time: optionalActionTime(),
});
export const checklistFormSchema = record({ text: text(300), ownerId: optionalId('person'), dueAt: optionalInstant() });
export const resolutionSchema = record({ resolution: optionalText(2000) });
export const waiveSchema = record({ reason: text(300) });
const owedGroup = record({ id: optionalId(), name: text(), count: count(), oldest: instant() });
const padCell = record({
  impact: oneOf(IMPACTS),
  urgency: oneOf(URGENCIES),
  priority: oneOf(PRIORITIES),
  responseDue: optionalInstant(),
  resolutionDue: optionalInstant(),
  why: why(),
});
export const padSchema = record({ cells: list(padCell) });
export type PadWire = Wire<typeof padSchema>;

/** The figures of the rail. */
const ticketCountsSchema = record({
  unsorted: count(),
  openTickets: count(),
  unbooked: count(),
  charges: count(),
  cleared: count(),
  aside: count(),
});
export type TicketCounts = Wire<typeof ticketCountsSchema>;

export const ticketRoutes = defineRoutes({
  listTickets: {
    method: 'GET',
    path: '/tickets',
    summary: 'Tickets by filter, sorted, in pages',
    permission: 'tickets.read',
    query: ticketFilterSchema,
    answer: pageOf(ticketRowSchema),
  },
  getTicket: {
    method: 'GET',
    path: '/tickets/:ticketId',
    summary: 'A ticket with conversation, clocks and story',
    permission: 'tickets.read',
    answer: ticketSchema,
  },
  getEarlier: {
    method: 'GET',
    path: '/tickets/:ticketId/earlier',
    summary: 'What was written and what happened before a message and an event of a ticket that are known',
    permission: 'tickets.read',
    query: record({ message: id(), event: anyId() }),
    answer: record({ messages: list(messageSchema), story: list(storySchema) }),
  },
  getTicketPad: {
    method: 'GET',
    path: '/tickets/:ticketId/pad',
    summary: 'What each impact and urgency would promise',
    permission: 'tickets.read',
    answer: padSchema,
  },
  triageTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/triage',
    summary: 'Decide kind, impact, urgency and desk',
    permission: 'tickets.triage',
    versioned: true,
    body: triageSchema,
    answer: record({ id: id('ticket'), version: count(), assignee: optionalText() }),
  },
  untriageTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/untriage',
    summary: 'Undo a triage just made',
    permission: 'tickets.triage',
    versioned: true,
    answer: done(),
  },
  markNotWork: {
    method: 'POST',
    path: '/tickets/:ticketId/not-work',
    summary: 'Close an unsorted ticket that is no work',
    permission: 'tickets.triage',
    versioned: true,
    answer: done(),
  },
  restoreTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/restore',
    summary: 'Bring back a ticket that was marked as not work',
    permission: 'tickets.triage',
    versioned: true,
    answer: done(),
  },
  editTicket: {
    method: 'PUT',
    path: '/tickets/:ticketId',
    summary: 'Change the facts of a ticket',
    permission: 'tickets.work',
    versioned: true,
    body: ticketEditSchema,
    answer: done(),
  },
  setTicketStatus: {
    method: 'POST',
    path: '/tickets/:ticketId/status',
    summary: 'Move a ticket to another status',
    permission: 'tickets.work',
    versioned: true,
    body: statusSchema,
    answer: done(),
  },
  undoTicketMove: {
    method: 'POST',
    path: '/tickets/:ticketId/undo-move',
    summary: "Undo the latest move of a ticket, which was one's own: status, clocks and all stand as they did",
    permission: 'tickets.work',
    versioned: true,
    answer: done(),
  },
  assignTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/assignee',
    summary: 'Assign a ticket, or nobody',
    permission: 'tickets.work',
    versioned: true,
    body: record({ personId: optionalId('person') }),
    answer: done(),
  },
  revokeOwnPage: {
    method: 'DELETE',
    path: '/tickets/:ticketId/own-page',
    summary: "Let the secret address of the client's own page answer no more; the next mail that carries one carries another",
    permission: 'tickets.work',
    answer: record({ revoked: count() }),
  },
  waiveReply: {
    method: 'POST',
    path: '/tickets/:ticketId/waive',
    summary: 'Waive the reply that is owed, with a reason',
    permission: 'tickets.work',
    body: waiveSchema,
    answer: done(),
  },
  unwaiveReply: {
    method: 'POST',
    path: '/tickets/:ticketId/unwaive',
    summary: 'Take a waiver back: the reply is owed as of the message; after thanks the ticket reopens',
    permission: 'tickets.work',
    answer: done(),
  },
  setResolution: {
    method: 'POST',
    path: '/tickets/:ticketId/resolution',
    summary: 'Say what was done',
    permission: 'tickets.work',
    versioned: true,
    body: resolutionSchema,
    answer: done(),
  },
  getOwed: {
    method: 'GET',
    path: '/owed',
    summary: 'How many replies are owed, by desk and by person',
    permission: 'tickets.read',
    answer: record({ desks: list(owedGroup), people: list(owedGroup) }),
  },
  addChecklistItem: {
    method: 'POST',
    path: '/tickets/:ticketId/checklist',
    summary: 'Add a checklist item',
    permission: 'tickets.work',
    body: checklistFormSchema,
    answer: record({ id: id('checklist_item') }),
  },
  answerChecklistItem: {
    method: 'POST',
    path: '/checklist/:checklistItemId/answer',
    summary: 'Answer a checklist item',
    permission: 'tickets.work',
    body: record({ answer: optionalOneOf(CHECKLIST_ANSWERS) }),
    answer: record({ id: id('checklist_item') }),
  },
  getCounts: {
    method: 'GET',
    path: '/counts',
    summary: 'Counts shown in the rail',
    permission: 'signed in',
    answer: ticketCountsSchema,
  },
  setTicketFields: {
    method: 'POST',
    path: '/tickets/:ticketId/own-fields',
    summary: 'Fill own fields of a ticket; those not named stay',
    permission: 'tickets.work',
    versioned: true,
    body: record({ values: fieldValuesSchema() }),
    answer: done(),
  },
});
