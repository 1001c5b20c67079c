import { type JournalEntry, journalRoutes, writeAccountsCsv, writeBeancount, writeLedger } from '@core/billing';
import { isRefusal, parseLocalDate } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Db } from '../../app/database';
import { readJournal } from './read-journal';

interface Written {
  readonly write: (entries: readonly JournalEntry[]) => string;
  readonly ending: string;
  readonly mediaType: string;
}

export function bindJournal(app: App) {
  const file = async (db: Db, days: { readonly from: string; readonly to: string }, { write, ending, mediaType }: Written) => {
    const [from, to] = [parseLocalDate(days.from), parseLocalDate(days.to)];
    const entries = await readJournal(db, { from, to, zone: app.house.house.zone });
    return isRefusal(entries) ? entries : { bytes: Buffer.from(write(entries)), name: `journal-${from}-${to}.${ending}`, mediaType };
  };
  return bindRoutes(app, journalRoutes, {
    getLedgerJournal: ({ db, query }) => file(db, query, { write: writeLedger, ending: 'ledger', mediaType: 'text/plain; charset=utf-8' }),
    getBeancountJournal: ({ db, query }) =>
      file(db, query, { write: writeBeancount, ending: 'beancount', mediaType: 'text/plain; charset=utf-8' }),
    getAccountSums: ({ db, query }) => file(db, query, { write: writeAccountsCsv, ending: 'csv', mediaType: 'text/csv; charset=utf-8' }),
  });
}
