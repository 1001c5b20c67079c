import { MOST_READINGS, readingRoutes } from '@core/contracts';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Row } from '../../app/rows';
import { addReadings, readingWire } from './readings';

export function bindReadings(app: App) {
  return bindRoutes(app, readingRoutes, {
    addReadings: ({ work, params, body }) => addReadings(work, params, body),
    listReadings: async ({ db, params: { contractId, lineId }, query: { from, to } }) => {
      const line = await db('contract_line').where({ id: lineId, contract_id: contractId }).first('name');
      if (!line) return refuse('not-found', 'There is no such line on this contract.');
      const rows: Row<'contract_reading'>[] = await db('contract_reading')
        .where({ line_id: lineId })
        .whereBetween('on_date', [from, to])
        .orderBy(['on_date', 'at', 'id'])
        .limit(MOST_READINGS.shown + 1);
      if (rows.length > MOST_READINGS.shown)
        return refuse('invalid', `There are more than ${MOST_READINGS.shown} readings in this span.`, { to: 'a shorter span' });
      return { line: line.name, readings: rows.map(readingWire) };
    },
  });
}
