import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { constants } from 'node:zlib';
import compression from 'compression';
import connectPgSimple from 'connect-pg-simple';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import session from 'express-session';
import helmet from 'helmet';
import pg from 'pg';
import { pinoHttp } from 'pino-http';
import { bindAccess } from '../house/access/access-routes';
import { bindDivisions } from '../house/divisions/divisions-routes';
import { identify } from '../house/access/identify';
import { bindActionTime } from '../desk/action-time/action-time-routes';
import { bindInternalWork } from '../time/internal-work/internal-work-routes';
import { bindApproval } from '../time/approval/approval-routes';
import { bindAbsences } from '../time/absences/absences-routes';
import { bindTimeReport } from '../insight/time-report/time-report-routes';
import { bindAssets } from '../clients/assets/assets-routes';
import { bindCalendars } from '../ground/calendars/calendars-routes';
import { bindCanned } from '../desk/canned/canned-routes';
import { bindRecurringCharges } from '../billing/recurring-charges/recurring-charges-routes';
import { bindContractChoice } from '../contracts/choice/choice-routes';
import { bindContracts } from '../contracts/contracts/contracts-routes';
import { bindOwnRates } from '../contracts/own-rates/own-rates-routes';
import { bindSeats } from '../contracts/seats/seats-routes';
import { bindCatalogue } from '../goods/catalogue/catalogue-routes';
import { bindCharges } from '../billing/charges/charges-routes';
import { bindClients } from '../clients/clients/clients-routes';
import { bindPromises } from '../desk/clocks/promises-routes';
import { bindDispatch } from '../scheduling/dispatch/dispatch-routes';
import { bindFitting } from '../scheduling/fitting/fitting-routes';
import { bindPlanning } from '../scheduling/planning/planning-routes';
import { bindOpenings } from '../scheduling/openings/openings-routes';
import { bindMailRules } from '../desk/mail-rules/mail-rules-routes';
import { bindOutsideCalendars } from '../scheduling/outside-calendars/outside-calendars-routes';
import { bindPlanAndFact } from '../insight/plan-and-fact/plan-and-fact-routes';
import { bindContractTime, bindTimeContract } from '../time/contract-time/contract-time-routes';
import { bindProposedEntries } from '../time/proposed-entries/proposed-entries-routes';
import { bindWeekSheet } from '../time/week-sheet/week-sheet-routes';
import { bindTeamWeek } from '../time/team-week/team-week-routes';
import { bindExpenses } from '../time/expenses/expenses-routes';
import { openingsPages } from '../scheduling/openings/openings-page';
import { bindTravel } from '../scheduling/travel/travel-routes';
import { bindEscalation } from '../desk/escalation/escalation-routes';
import { bindFollowers } from '../desk/followers/followers-routes';
import { bindFeeds, feedPages } from '../scheduling/feeds/feeds-routes';
import { bindFlatFees } from '../desk/flat-fees/flat-fees-routes';
import { bindHouse } from '../house/house/house-routes';
import { bindMessages } from '../desk/messages/message-routes';
import { bindIntake } from '../desk/intake/intake-routes';
import { bindInvoices } from '../billing/invoices/invoices-routes';
import { bindPayments } from '../billing/payments/payments-routes';
import { bindJobs } from '../house/jobs/jobs-routes';
import { bindDeskSettings } from '../desk/settings/settings-routes';
import { bindKinds } from '../desk/kinds/kinds-routes';
import { bindNotices } from '../house/notices/notices-routes';
import { bindOwnConditions } from '../desk/own-conditions/own-conditions-routes';
import { bindOwnFields } from '../desk/own-fields/own-fields-routes';
import { bindPeople } from '../house/people/people-routes';
import { bindPresence } from '../desk/presence/presence-routes';
import { bindRelations } from '../desk/relations/relations-routes';
import { requestPages } from '../desk/request-forms/request-page';
import { bindRequestForms } from '../desk/request-forms/request-forms-routes';
import { bindRoutines } from '../desk/routines/routines-routes';
import { bindSearch } from '../house/search/search-routes';
import { bindStatuses } from '../desk/statuses/statuses-routes';
import { bindTemplates } from '../desk/templates/templates-routes';
import { bindTickets } from '../desk/tickets/ticket-routes';
import { bindTimeEntries } from '../time/time-entries/time-entries-routes';
import { bindEvents } from '../ground/events/events-routes';
import { bindUploads } from '../ground/uploads/uploads-routes';
import { bindUsage } from '../clients/usage/usage-routes';
import { followPages } from '../desk/umbrellas/follow-page';
import { bindUmbrellas } from '../desk/umbrellas/umbrellas-routes';
import { bindViews } from '../house/views/views-routes';
import { answerFault } from './answer-fault';
import type { App } from './app';
import { openApi } from './open-api';
import { problem, sendProblem } from './problems';

const SESSION_DAYS = 14;
const BIND = [
  bindAccess,
  bindDivisions,
  bindHouse,
  bindTickets,
  bindMessages,
  bindDispatch,
  bindTimeEntries,
  bindApproval,
  bindActionTime,
  bindInternalWork,
  bindExpenses,
  bindAbsences,
  bindTimeReport,
  bindCharges,
  bindInvoices,
  bindPayments,
  bindClients,
  bindAssets,
  bindContractChoice,
  bindContracts,
  bindOwnRates,
  bindSeats,
  bindRecurringCharges,
  bindCatalogue,
  bindSearch,
  bindJobs,
  bindViews,
  bindNotices,
  bindPromises,
  bindUmbrellas,
  bindIntake,
  bindEscalation,
  bindFlatFees,
  bindCanned,
  bindOwnFields,
  bindOwnConditions,
  bindStatuses,
  bindTemplates,
  bindMailRules,
  bindRoutines,
  bindRequestForms,
  bindCalendars,
  bindFollowers,
  bindRelations,
  bindEvents,
  bindUploads,
  bindPresence,
  bindUsage,
  bindKinds,
  bindDeskSettings,
  bindFeeds,
  bindPeople,
  bindFitting,
  bindPlanning,
  bindTravel,
  bindOpenings,
  bindTeamWeek,
  bindContractTime,
  bindTimeContract,
  bindWeekSheet,
  bindProposedEntries,
  bindPlanAndFact,
  bindOutsideCalendars,
];

export interface Http {
  readonly express: Express;
  readonly close: () => Promise<void>;
}

export function makeHttp(app: App): Http {
  const server = express();
  const pool = new pg.Pool({ connectionString: app.config.DATABASE_URL, max: 4 });
  pool.on('error', () => undefined);
  server.disable('x-powered-by');
  server.set('trust proxy', trusted(app.config.TRUST_PROXY));
  server.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          // Pictures put in while writing are shown before they are sent.
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          frameSrc: ["'self'"],
          scriptSrcAttr: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: app.config.SECURE_COOKIES,
    }),
  );
  server.use(measure(app));
  server.get('/healthz', (_req, res) => void res.json({ up: true }));
  server.get('/readyz', async (_req, res) => {
    const ready = await app.knex.raw('select 1').then(
      () => true,
      () => false,
    );
    res.status(ready ? 200 : 503).json({ ready, database: ready ? 'there' : 'away' });
  });
  server.get('/metrics', async (req, res) => {
    const key = app.config.METRICS_KEY;
    if (!key || req.get('authorization') !== `Bearer ${key}`)
      return sendProblem(
        res,
        problem({
          status: 404,
          type: 'no-route',
          title: 'No such route',
          detail: 'Figures are given to who shows the key named in the settings.',
        }),
      );
    res.type(app.metrics.registry.contentType).send(await app.metrics.registry.metrics());
  });
  server.use('/api', api(app, pool));
  server.use('/follow', followPages(app));
  server.use('/request', requestPages(app));
  server.use('/openings', openingsPages(app));
  server.use('/schedule', feedPages(app));
  serveWeb(server, app);
  server.use(answerFault(app));
  return { express: server, close: () => pool.end() };
}

function api(app: App, pool: pg.Pool) {
  const router = express.Router();
  const Store = connectPgSimple(session);
  router.use(
    pinoHttp({
      logger: app.log,
      autoLogging: app.config.LOG_LEVEL === 'debug',
      genReqId: (_req, res) => {
        const id = randomUUID();
        res.setHeader('x-request-id', id);
        return id;
      },
    }),
  );
  // What is behind a sign-in stands in no cache.
  router.use((_req, res, next) => {
    res.setHeader('cache-control', 'no-store');
    next();
  });
  router.get('/openapi.json', (_req, res) => void res.json(openApi(app.config.PUBLIC_URL)));
  router.use(compression({ ...QUICKLY, filter: (req, res) => req.path !== '/live' && compression.filter(req, res) }));
  router.use(express.json({ limit: '2mb' }));
  const sessions = session({
    name: 'drumline',
    secret: app.config.SESSION_SECRET,
    resave: false,
    saveUninitialized: false,
    store: new Store({ pool, tableName: 'session', pruneSessionInterval: false }),
    cookie: { httpOnly: true, sameSite: 'lax', secure: app.config.SECURE_COOKIES || 'auto', maxAge: SESSION_DAYS * 86_400_000 },
  });
  router.use((req, res, next) => (req.get('authorization') ? next() : sessions(req, res, next)));
  router.use(identify(app));
  router.get('/live', (req, res) =>
    req.actor
      ? app.live.serve(req, res)
      : sendProblem(res, problem({ status: 401, type: 'not-signed-in', title: 'Not signed in', detail: 'Sign in first.' })),
  );
  for (const bind of BIND) router.use(bind(app));
  router.use((req, res) =>
    sendProblem(
      res,
      problem({
        status: 404,
        type: 'no-route',
        title: 'No such route',
        detail: `There is no ${req.method} ${req.originalUrl}. The routes are listed at /api/openapi.json.`,
      }),
    ),
  );
  return router;
}

/** An answer is packed for one reader once: quickly is better than small. */
const QUICKLY = { level: 1, brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } } };

/** How many proxies stand before it, or their addresses; none where nothing is said. */
function trusted(setting: string): number | string[] | false {
  if (!setting) return false;
  return /^\d{1,2}$/.test(setting) ? Number(setting) : setting.split(',').map((each) => each.trim());
}

function serveWeb(server: Express, app: App): void {
  const folder = resolve(app.config.WEB_DIR);
  if (!existsSync(folder)) return;
  server.use(
    compression(),
    express.static(folder, {
      index: false,
      maxAge: '1y',
      immutable: true,
      setHeaders: (res, path) => path.endsWith('.html') && res.setHeader('cache-control', 'no-store'),
    }),
  );
  server.get('/{*path}', (_req, res) => {
    res.setHeader('cache-control', 'no-store');
    res.sendFile(join(folder, 'index.html'));
  });
}

function measure(app: App) {
  return (req: Request, res: Response, next: NextFunction) => {
    const end = app.metrics.requestSeconds.startTimer({ method: req.method });
    res.on('finish', () => end({ status: res.statusCode }));
    next();
  };
}
