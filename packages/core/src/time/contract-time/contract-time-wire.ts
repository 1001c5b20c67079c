import {
  amount,
  count,
  date,
  defineRoutes,
  id,
  instant,
  list,
  oneOf,
  optionalDate,
  optionalDay,
  optionalText,
  record,
  text,
  type Wire,
  workFields,
  yes,
} from '../../ground';
import { MEASURES } from '../../contracts';

export const lotSchema = record({
  from: date(),
  /** The first day on which it can be drawn on no more. */
  expiry: optionalDate(),
  granted: count(),
  /** Of it taken before its time. */
  borrowed: count(),
  left: count(),
});
export const allowanceUseSchema = record({
  allowanceId: id('contract_allowance'),
  name: text(),
  measure: oneOf(MEASURES),
  /** What can be drawn on today. */
  lots: list(lotSchema),
  /** What could be drawn on when the period began: its own grant and what was carried over. */
  granted: count(),
  carried: count(),
  left: count(),
  used: count(),
  usedPercent: count(),
  runsOut: optionalDate(),
  /** What is left after each day of the period. */
  points: list(record({ on: date(), left: count() })),
});
export type AllowanceUseWire = Wire<typeof allowanceUseSchema>;
export const drawSchema = record({
  entryId: id('time_entry'),
  ...workFields,
  person: text(),
  startsAt: instant(),
  minutes: count(),
  is: oneOf(['not covered', 'covered', 'overage', 'part overage']),
  says: text(400),
  pays: amount(),
  note: optionalText(2000),
  frozen: yes(),
});
export type DrawWire = Wire<typeof drawSchema>;
export const contractTimeSchema = record({
  /** The period shown, [from, to). */
  from: date(),
  to: date(),
  allowances: list(allowanceUseSchema),
  draws: list(drawSchema),
});
export type ContractTimeWire = Wire<typeof contractTimeSchema>;

export const contractTimeRoutes = defineRoutes({
  getContractTime: {
    method: 'GET',
    path: '/contracts/:contractId/time',
    summary: 'What was drawn of a contract in a period, entry by entry, and what is left',
    permission: 'contracts.read',
    query: record({
      /** A day of the period; today where nothing is said. */
      on: optionalDay(),
    }),
    answer: contractTimeSchema,
  },
});
