import { count, date, decimal, defineRoutes, id, list, listOf, oneOf, optionalText, record, text, type Wire } from '../../ground';

/** The most readings of one command, of one answer, and of a line in all. */
export const MOST_READINGS = { atOnce: 2000, shown: 10_000, ofLine: 100_000 } as const;
/** So many are shown with their line. */
export const SHOWN_READINGS = 12;

export const READ_BY = ['by hand', 'from a file', 'by a program'] as const;

export const readingFields = {
  on: date(),
  /** What was used since it was read before; below 0 takes an earlier reading back. */
  quantity: decimal().test('something', 'another number than 0', (v) => Number(v) !== 0),
  /** Names it where it comes from: sent twice, it counts once. */
  key: optionalText(80),
};
export const readingSchema = record({ id: id('contract_reading'), ...readingFields, source: oneOf(READ_BY) });
export type ReadingWire = Wire<typeof readingSchema>;
export const readingsFormSchema = record({
  readings: listOf(record(readingFields), MOST_READINGS.atOnce).min(1, 'at least one'),
  source: oneOf(READ_BY),
});
export type ReadingsForm = Wire<typeof readingsFormSchema>;

export const readingRoutes = defineRoutes({
  addReadings: {
    method: 'POST',
    path: '/contracts/:contractId/lines/:lineId/readings',
    summary: 'Record what was read of a meter; what a key names that is known already is not counted again',
    permission: 'contracts.edit',
    body: readingsFormSchema,
    answer: record({ added: count(), known: count() }),
  },
  listReadings: {
    method: 'GET',
    path: '/contracts/:contractId/lines/:lineId/readings',
    summary: 'What was read of a meter in a span of days, in their order',
    permission: 'contracts.read',
    query: record({ from: date(), to: date() }),
    answer: record({ line: text(), readings: list(readingSchema) }),
  },
});
