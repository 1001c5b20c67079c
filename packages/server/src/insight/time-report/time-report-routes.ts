import { timeReportRoutes, type WorkedEntryWire } from '@core/insight';
import { formatInstant, parseLocalDate } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { namedWork } from '../../ground';
import { readTimeReport, readPartsOfRow, type Dates } from './read-time-report';

const MOST_ENTRIES = 500;
const datesOf = (from: string, to: string): Dates => ({ from: parseLocalDate(from), to: parseLocalDate(to) });

export function bindTimeReport(app: App) {
  const { house } = app;
  return bindRoutes(app, timeReportRoutes, {
    getTimeReport: ({ db, query, now }) => {
      const than = query.thanFrom && query.thanTo ? datesOf(query.thanFrom, query.thanTo) : undefined;
      return readTimeReport(db, house, { dates: datesOf(query.from, query.to), than, by: query.by, now });
    },
    listWorkedEntries: async ({ db, query }) => {
      const parts = await readPartsOfRow(db, house, { dates: datesOf(query.from, query.to), by: query.by, key: query.key });
      return {
        count: parts.length,
        entries: parts.slice(0, MOST_ENTRIES).map(({ row, minutes, entry }): WorkedEntryWire => ({
          id: entry.id,
          startsAt: formatInstant(entry.from),
          minutes,
          person: entry.name.technician,
          ...namedWork(row),
          client: row['client'],
          activity: entry.name.activity,
          note: row['note'],
          billable: entry.billable,
        })),
      };
    },
  });
}
