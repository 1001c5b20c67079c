import {
  amount,
  count,
  currency,
  defineRoutes,
  id,
  list,
  nothing,
  optionalDecimal,
  optionalText,
  record,
  text,
  type Wire,
  yes,
} from '../../ground';

/** What the next invoice of a client is so far: all that is charged and on no invoice, before tax. */
export const openTabSchema = record({
  clientId: id('client'),
  client: text(),
  charges: count(),
  /** What nobody decided on yet. */
  toReview: amount(),
  /** What waits for an invoice. */
  cleared: amount(),
  sum: amount(),
  /** Of the sum, what recurs. */
  recurring: amount(),
  /** Kept for later, and not in the sum. */
  held: amount(),
  /** From where on somebody is told, and who. */
  level: amount().nullable(),
  tells: optionalText(),
  isReached: yes(),
});
export type OpenTabWire = Wire<typeof openTabSchema>;

const positive = optionalDecimal().test('level', 'more than zero', (v) => !v || !(Number(v) <= 0));
export const tabLevelSchema = record({ level: positive });

export const openTabRoutes = defineRoutes({
  listOpenTabs: {
    method: 'GET',
    path: '/open-tabs',
    summary: 'What the next invoice of each client is so far',
    permission: 'charges.read',
    query: nothing(),
    answer: record({ currency: currency(), sum: amount(), tabs: list(openTabSchema) }),
  },
  setTabLevel: {
    method: 'PUT',
    path: '/clients/:clientId/tab-level',
    summary: 'From which sum of a client on whoever sets it is told; nothing is never',
    permission: 'charges.decide',
    body: tabLevelSchema,
    answer: nothing(),
  },
});
