import {
  count,
  defineRoutes,
  done,
  id,
  list,
  listOf,
  nothing,
  oneOf,
  optionalId,
  optionalRecord,
  optionalText,
  record,
  text,
  why,
  yes,
  type Wire,
} from '../../ground';
import { DESK_LINES, INSIDE_REACHES, newTicketSchema, SORTED_KINDS } from '../tickets';
import { ASSIGNS } from './choose-technician';

/** Something Drumline thinks, with why; one that is sure is taken unless a person chooses otherwise. */
const proposal = () => optionalRecord({ value: id(), label: text(), sure: yes(), why: why() });
const reportSchema = record({ id: id('ticket'), number: count(), subject: text(), client: optionalText() });
export const proposalsSchema = record({
  client: proposal(),
  contact: proposal(),
  asset: proposal(),
  category: proposal(),
  desk: proposal(),
  kind: optionalRecord({ value: oneOf(SORTED_KINDS), sure: yes(), why: why() }),
  subject: optionalRecord({ value: text(), why: why() }),
  sameCause: optionalRecord({
    reports: list(reportSchema),
    /** An umbrella that some of them are under already. */
    umbrella: optionalRecord({ id: id('ticket'), number: count(), subject: text() }),
    why: why(),
  }),
});
export type Proposals = Wire<typeof proposalsSchema>;

export const categoryFormSchema = record({ name: text(60), parentId: optionalId('category'), skillId: optionalId('skill') });
export type CategoryForm = Wire<typeof categoryFormSchema>;
export const categorySchema = record({
  id: id('category'),
  version: count(),
  name: text(60),
  parentId: optionalId('category'),
  parent: optionalText(60),
  skillId: optionalId('skill'),
  skill: optionalText(60),
  openTickets: count(),
});
export type CategoryWire = Wire<typeof categorySchema>;
export const deskLineSchema = record({ deskId: id('desk'), line: oneOf(DESK_LINES), teamId: id('team'), assigns: oneOf(ASSIGNS) });
export type DeskLine = Wire<typeof deskLineSchema>;
export const deskLinesSchema = record({ lines: listOf(deskLineSchema, 200) });
export const handOverSchema = record({ deskId: id('desk'), line: oneOf(DESK_LINES), tried: text(2000) });
export type HandOver = Wire<typeof handOverSchema>;
export const mergeSchema = record({ intoId: id('ticket') });
export const moveClientSchema = record({
  clientId: id('client'),
  contactId: optionalId('contact'),
  /** Having seen what the move would show to whom. */
  seen: yes(),
});
export type MoveClient = Wire<typeof moveClientSchema>;

export const intakeRoutes = defineRoutes({
  createTicket: {
    method: 'POST',
    path: '/tickets',
    summary: 'Open a ticket by hand',
    permission: 'tickets.work',
    body: newTicketSchema,
    answer: record({ id: id('ticket'), version: count(), number: count(), routed: yes() }),
  },
  getProposals: {
    method: 'GET',
    path: '/tickets/:ticketId/proposals',
    summary: 'What Drumline thinks of an unsorted ticket, each with why',
    permission: 'tickets.read',
    answer: proposalsSchema,
  },
  setSubject: {
    method: 'POST',
    path: '/tickets/:ticketId/subject',
    summary: 'Give a ticket another subject',
    permission: 'tickets.work',
    versioned: true,
    body: record({ subject: text() }),
    answer: done(),
  },
  mergeTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/merge',
    summary: 'Merge a double into another ticket of the same client: its messages move there, and it is closed',
    permission: 'tickets.work',
    body: mergeSchema,
    answer: record({ id: id('ticket'), number: count(), messages: count() }),
  },
  unmergeTicket: {
    method: 'POST',
    path: '/tickets/:ticketId/unmerge',
    summary: 'Take a merge back',
    permission: 'tickets.work',
    answer: done(),
  },
  splitMessage: {
    method: 'POST',
    path: '/messages/:messageId/split',
    summary: 'Make a message of a client a ticket of its own, linked to this',
    permission: 'tickets.work',
    answer: record({ id: id('ticket'), number: count() }),
  },
  moveToClient: {
    method: 'POST',
    path: '/tickets/:ticketId/client',
    summary: 'Move a ticket to another client; refused until it was seen what that would show to whom',
    permission: 'tickets.work',
    versioned: true,
    body: moveClientSchema,
    answer: done(),
  },
  checkMove: {
    method: 'POST',
    path: '/tickets/:ticketId/client/check',
    summary: 'What moving a ticket to another client would show to whom, and what else it changes; nothing is stored',
    permission: 'tickets.work',
    body: record({ clientId: id('client') }),
    reads: true,
    answer: record({ effects: list(text(400)) }),
  },
  handOver: {
    method: 'POST',
    path: '/tickets/:ticketId/hand-over',
    summary: 'Hand a ticket to another line or desk, saying what was tried',
    permission: 'tickets.work',
    versioned: true,
    body: handOverSchema,
    answer: record({ id: id('ticket'), version: count(), assignee: optionalText() }),
  },
  changeKind: {
    method: 'POST',
    path: '/tickets/:ticketId/kind',
    summary: "Change the kind of a sorted ticket; the new kind's closing checks and billing hold then",
    permission: 'tickets.work',
    versioned: true,
    body: record({ kind: oneOf(SORTED_KINDS), ownKindId: optionalId('own_kind').default(null) }),
    answer: done(),
  },
  listCategories: {
    method: 'GET',
    path: '/categories',
    summary: 'Categories of tickets, in two levels',
    permission: 'signed in',
    answer: record({ categories: list(categorySchema), skills: list(record({ id: id('skill'), name: text(60) })) }),
  },
  addCategory: {
    method: 'POST',
    path: '/categories',
    summary: 'Add a category',
    permission: 'setup.edit',
    body: categoryFormSchema,
    answer: done(),
  },
  editCategory: {
    method: 'PUT',
    path: '/categories/:categoryId',
    summary: 'Change a category',
    permission: 'setup.edit',
    versioned: true,
    body: categoryFormSchema,
    answer: done(),
  },
  archiveCategory: {
    method: 'POST',
    path: '/categories/:categoryId/archive',
    summary: 'Put a category away; tickets keep it',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
  listDeskLines: {
    method: 'GET',
    path: '/desk-lines',
    summary: 'The lines of each desk: who staffs them and how routing assigns',
    permission: 'signed in',
    answer: record({ lines: list(deskLineSchema), teams: list(record({ id: id('team'), name: text(60) })) }),
  },
  setInsideReach: {
    method: 'PUT',
    path: '/desks/:deskId/inside-reach',
    summary: "Set whom inside notes and raw mail of a desk's tickets are open to",
    permission: 'setup.edit',
    body: record({ reach: oneOf(INSIDE_REACHES) }),
    answer: nothing(),
  },
  setDeskLines: {
    method: 'PUT',
    path: '/desk-lines',
    summary: 'Set the lines of the desks',
    permission: 'setup.edit',
    body: deskLinesSchema,
    answer: nothing(),
  },
});
