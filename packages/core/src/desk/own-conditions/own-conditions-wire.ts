import { array } from 'yup';
import { count, defineRoutes, done, id, list, listOf, oneOf, record, text, type Wire } from '../../ground';
import { ruleSchema } from '../own-fields';
import { CHECKED_MOVES, SORTED_KINDS } from '../tickets';

export const ownConditionFormSchema = record({
  name: text(200),
  /** All kinds where none is named. */
  kinds: array(oneOf(SORTED_KINDS)).defined().max(50),
  moves: array(oneOf(CHECKED_MOVES)).defined().max(50).min(1, 'choose at least one move'),
  rule: ruleSchema(),
});
export type OwnConditionForm = Wire<typeof ownConditionFormSchema>;
export const ownConditionSchema = record({
  id: id('own_condition'),
  version: count(),
  name: text(200),
  kinds: listOf(oneOf(SORTED_KINDS), 50),
  moves: listOf(oneOf(CHECKED_MOVES), 50),
  rule: ruleSchema(),
});
export type OwnConditionWire = Wire<typeof ownConditionSchema>;

export const ownConditionRoutes = defineRoutes({
  listOwnConditions: {
    method: 'GET',
    path: '/house/conditions',
    summary: 'Conditions of the house that stand in the way of moves',
    permission: 'signed in',
    answer: record({ conditions: list(ownConditionSchema) }),
  },
  addOwnCondition: {
    method: 'POST',
    path: '/house/conditions',
    summary: 'Add a condition that stands in the way of moves while it holds',
    permission: 'setup.edit',
    body: ownConditionFormSchema,
    answer: done(),
  },
  editOwnCondition: {
    method: 'PUT',
    path: '/house/conditions/:conditionId',
    summary: 'Change such a condition',
    permission: 'setup.edit',
    versioned: true,
    body: ownConditionFormSchema,
    answer: done(),
  },
  archiveOwnCondition: {
    method: 'POST',
    path: '/house/conditions/:conditionId/archive',
    summary: 'Put such a condition away',
    permission: 'setup.edit',
    versioned: true,
    answer: done(),
  },
});
