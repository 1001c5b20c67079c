import {
  date,
  decimal,
  defineRoutes,
  done,
  listOf,
  oneOf,
  optionalDate,
  optionalId,
  record,
  TIME_BANDS,
  whole,
  type Wire,
} from '../../ground';

const MOST_RULES = 50;

export const ownRateFields = {
  /** What is left empty, it does not ask. */
  gradeId: optionalId('grade'),
  activityId: optionalId('activity'),
  band: oneOf(TIME_BANDS).nullable(),
  /** Currency an hour. */
  rate: decimal(),
  from: date(),
  lastDay: optionalDate(),
};
export const ownRateSchema = record(ownRateFields);
export type OwnRateForm = Wire<typeof ownRateSchema>;
export const ROUNDING_MODES = ['up', 'nearest', 'down'] as const;
export const ownRoundingFields = {
  /** Empty is all activities that have none of their own here. */
  activityId: optionalId('activity'),
  increment: whole(1, 480),
  mode: oneOf(ROUNDING_MODES),
  minimum: whole(0, 480),
};
export const ownRoundingSchema = record(ownRoundingFields);
export type OwnRoundingForm = Wire<typeof ownRoundingSchema>;

export const ownRatesRoutes = defineRoutes({
  setRates: {
    method: 'PUT',
    path: '/contracts/:contractId/rates',
    summary: "Set a contract's own rates; open work is rated anew",
    permission: 'contracts.edit',
    versioned: true,
    body: record({ rates: listOf(ownRateSchema, MOST_RULES) }),
    answer: done(),
  },
  setRoundings: {
    method: 'PUT',
    path: '/contracts/:contractId/roundings',
    summary: 'Set how a contract rounds time; open work is rated anew',
    permission: 'contracts.edit',
    versioned: true,
    body: record({ roundings: listOf(ownRoundingSchema, MOST_RULES) }),
    answer: done(),
  },
});
