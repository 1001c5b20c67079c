import { bankRoutes } from '@core/billing';
import { isRefusal } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { listBankLines, listBankStatements } from './bank-read-model';
import { matchLine, matchSure } from './match-line';
import { readBankFile } from './read-bank-file';
import { leaveLineOut, putLineBack, takeMatchesBack } from './take-match-back';

export function bindBank(app: App) {
  return bindRoutes(app, bankRoutes, {
    readBankFile: async ({ work, query, upload }) => {
      const ids = await readBankFile(app, work, { bytes: upload, form: query });
      if (isRefusal(ids)) return ids;
      const page = await listBankStatements(work.tx, { ids, sort: '-read', most: ids.length });
      return isRefusal(page) ? page : { statements: page.rows };
    },
    listBankStatements: ({ db, query }) => listBankStatements(db, query),
    listBankLines: ({ db, query }) => listBankLines(db, app.house, query),
    matchBankLine: ({ work, body }) => matchLine(work, body),
    matchSure: ({ work, body }) => matchSure(work, body),
    takeMatchesBack: ({ work, body }) => takeMatchesBack(work, body.ids),
    leaveLineOut: ({ work, params, body }) => leaveLineOut(work, { ...params, ...body }),
    putLineBack: ({ work, params }) => putLineBack(work, params.bankLineId),
  });
}
