import { stringify } from 'csv-stringify/sync';
import { isRefusal } from '@core/ground';
import { usageRoutes, usageRows, type UsageReport } from '@core/insight';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readUsage } from './read-usage';

const nameOf = (report: UsageReport, ending: string): string => `work ${report.client} ${report.from} to ${report.to}.${ending}`;

export function bindUsage(app: App) {
  return bindRoutes(app, usageRoutes, {
    getUsage: async ({ db, params, query }) => {
      const report = await readUsage(db, app.house, { clientId: params.clientId, span: query });
      return isRefusal(report)
        ? report
        : {
            ...report,
            tickets: report.tickets.map((t) => ({ ...t, work: [...t.work] })),
            contracts: report.contracts.map((c) => ({ ...c, allowances: [...c.allowances] })),
          };
    },
    getUsagePdf: async ({ db, params, query }) => {
      const report = await readUsage(db, app.house, { clientId: params.clientId, span: query });
      if (isRefusal(report)) return report;
      return { bytes: await app.documents.makeUsage(report), name: nameOf(report, 'pdf'), mediaType: 'application/pdf' };
    },
    getUsageCsv: async ({ db, params, query }) => {
      const report = await readUsage(db, app.house, { clientId: params.clientId, span: query });
      if (isRefusal(report)) return report;
      // Text that a spreadsheet would take for a formula is kept as text.
      const bytes = Buffer.from(
        stringify(
          [...usageRows(report)].map((r) => [...r]),
          { escape_formulas: true, record_delimiter: 'windows' },
        ),
      );
      return { bytes, name: nameOf(report, 'csv'), mediaType: 'text/csv' };
    },
  });
}
