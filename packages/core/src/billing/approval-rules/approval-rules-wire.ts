import { count, defineRoutes, done, id, list, nothing, oneOf, optionalId, optionalText, record, whole, type Wire } from '../../ground';
import { CHARGE_KINDS } from '../charges';

export const MOST_RULE_DAYS = 90;

export const approvalRuleSchema = record({
  id: id('approval_rule'),
  version: count(),
  clientId: optionalId('client'),
  client: optionalText(),
  kind: oneOf(CHARGE_KINDS),
  afterDays: whole(0, MOST_RULE_DAYS).nullable(),
});
export type ApprovalRuleWire = Wire<typeof approvalRuleSchema>;

/** One for a kind and client: setting it again changes it. */
export const setApprovalRuleSchema = record({
  clientId: optionalId('client'),
  kind: oneOf(CHARGE_KINDS),
  /** Whole days after the charge's day; null is never by itself. */
  afterDays: whole(0, MOST_RULE_DAYS).nullable(),
});
export type ApprovalRuleForm = Wire<typeof setApprovalRuleSchema>;

const limitFields = {
  /** Days after which what nobody decided on is old. */
  oldDays: whole(1, 999),
  /** By how many percent a rate may differ from what the client paid for the like. */
  ratePercent: whole(1, 999),
};
export const chargeReviewSchema = record(limitFields);
export type ChargeReviewForm = Wire<typeof chargeReviewSchema>;

export const approvalRuleRoutes = defineRoutes({
  listApprovalRules: {
    method: 'GET',
    path: '/approval-rules',
    summary: 'What is odd in charge review, and what is approved by itself',
    permission: 'charges.read',
    answer: record({ version: count(), ...limitFields, rules: list(approvalRuleSchema) }),
  },
  setChargeReview: {
    method: 'PUT',
    path: '/charge-review',
    summary: 'From where on something is odd in charge review',
    permission: 'charges.decide',
    versioned: true,
    body: chargeReviewSchema,
    answer: record({ version: count() }),
  },
  setApprovalRule: {
    method: 'POST',
    path: '/approval-rules',
    summary: 'Approve charges of a kind by themselves: of a client, or of every client',
    permission: 'charges.decide',
    body: setApprovalRuleSchema,
    answer: done(),
  },
  takeApprovalRuleAway: {
    method: 'DELETE',
    path: '/approval-rules/:approvalRuleId',
    summary: 'Take a rule away',
    permission: 'charges.decide',
    answer: nothing(),
  },
  giveApprovalRuleBack: {
    method: 'POST',
    path: '/approval-rules/:approvalRuleId/return',
    summary: 'Give a rule back that was taken away',
    permission: 'charges.decide',
    answer: nothing(),
  },
});
