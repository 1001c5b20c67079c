import { runRoutes } from '@core/billing';
import { parseLocalDate } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { holdInvoices, holdLine } from './hold-in-run';
import { askToIssue, putRunAway } from './issue-run';
import { prepareRun } from './prepare-run';
import { listRunInvoices, listRuns, readRun, readRunInvoice } from './runs-read-model';

export function bindRuns(app: App) {
  return bindRoutes(app, runRoutes, {
    listRuns: ({ db, query }) => listRuns(db, app.house, query),
    prepareRun: ({ work, body }) => prepareRun(work, parseLocalDate(body.on)),
    getRun: ({ db, params }) => readRun(db, app.house, params.runId),
    listRunInvoices: ({ db, params, query, now }) => listRunInvoices(db, app.house, { ...params, query, now }),
    getRunInvoice: ({ db, params, now }) => readRunInvoice(db, app.house, { ...params, now }),
    holdRunLine: ({ work, params }) => holdLine(work, params, true),
    releaseRunLine: ({ work, params }) => holdLine(work, params, false),
    holdRunInvoices: ({ work, params, body }) => holdInvoices(work, { ...params, ...body }, true),
    releaseRunInvoices: ({ work, params, body }) => holdInvoices(work, { ...params, ...body }, false),
    issueRun: ({ work, params, body }) => askToIssue(work, { ...params, form: body }),
    putRunAway: ({ work, params }) => putRunAway(work, params.runId),
  });
}
