import { string } from 'yup';
import { count, defineRoutes, id, instant, list, nothing, optionalId, optionalInstant, record, text, whole, type Wire } from '../../ground';

export const onCallSchema = record({ id: id('on_call'), personId: id('person'), person: text(), startsAt: instant(), endsAt: instant() });
export type OnCallWire = Wire<typeof onCallSchema>;
export const onCallFormSchema = record({
  personId: id('person'),
  startsAt: instant(),
  endsAt: instant().test('after', 'after it begins', function (end) {
    const { startsAt } = this.parent as { startsAt?: string };
    return !end || !startsAt || end > startsAt;
  }),
});
export const escalationSettingsSchema = record({
  /** At how many unanswered messages of a client the on-call person is rung. */
  afterMessages: whole(2, 20),
  /** Minutes after which others are rung where nobody took it. */
  againMinutes: whole(1, 240),
});
export type EscalationSettings = Wire<typeof escalationSettingsSchema>;
/** Suppliers and others who are no clients: a whole domain or one address. */
export const thirdPartyFormSchema = record({
  name: text(80),
  address: string()
    .trim()
    .lowercase()
    .defined()
    .required('write a domain or an address')
    .max(200)
    .matches(/^([^\s@]+@)?([a-z0-9-]+\.)+[a-z]{2,}$/, 'a domain such as northquay.example, or one address'),
});
export const thirdPartySchema = record({ id: id('third_party'), name: text(80), address: text(200) });
export type ThirdPartyWire = Wire<typeof thirdPartySchema>;
export const escalationSchema = record({
  id: id('escalation'),
  at: instant(),
  why: text(300),
  person: text(),
  mailedAt: optionalInstant(),
  /** When the person said that they have it. */
  takenAt: optionalInstant(),
});
export type EscalationWire = Wire<typeof escalationSchema>;

export const escalationRoutes = defineRoutes({
  getEscalationSetup: {
    method: 'GET',
    path: '/escalation',
    summary: 'Who is on call, when the on-call person is rung, and who is no client',
    permission: 'setup.read',
    answer: record({ settings: escalationSettingsSchema, onCall: list(onCallSchema), thirdParties: list(thirdPartySchema) }),
  },
  setEscalation: {
    method: 'PUT',
    path: '/escalation',
    summary: 'Set when the on-call person is rung',
    permission: 'setup.edit',
    body: escalationSettingsSchema,
    answer: nothing(),
  },
  addOnCall: {
    method: 'POST',
    path: '/on-call',
    summary: 'Put a person on call for a span',
    permission: 'setup.edit',
    body: onCallFormSchema,
    answer: record({ id: id('on_call') }),
  },
  removeOnCall: {
    method: 'DELETE',
    path: '/on-call/:onCallId',
    summary: 'Take a person off call',
    permission: 'setup.edit',
    answer: nothing(),
  },
  addThirdParty: {
    method: 'POST',
    path: '/third-parties',
    summary: 'Name a supplier or another who is no client, by domain or address',
    permission: 'setup.edit',
    body: thirdPartyFormSchema,
    answer: record({ id: id('third_party') }),
  },
  removeThirdParty: {
    method: 'DELETE',
    path: '/third-parties/:thirdPartyId',
    summary: 'Take a third party off the list; their messages stay marked',
    permission: 'setup.edit',
    answer: nothing(),
  },
  listEscalations: {
    method: 'GET',
    path: '/tickets/:ticketId/escalations',
    summary: 'Who was rung about a ticket, when, how and why',
    permission: 'tickets.read',
    answer: record({ escalations: list(escalationSchema) }),
  },
  takeEscalation: {
    method: 'POST',
    path: '/tickets/:ticketId/take-escalation',
    summary: 'Say that you have it: nobody else is rung',
    permission: 'tickets.work',
    answer: record({ taken: count() }),
  },
  lookedAt: {
    method: 'POST',
    path: '/tickets/:ticketId/looked-at',
    summary: 'Say that what a third party wrote was looked at',
    permission: 'tickets.work',
    answer: record({ id: optionalId() }),
  },
});
