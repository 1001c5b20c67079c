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
import { identify } from '../house/access/identify';
import { openingsPages } from '../scheduling/openings/openings-page';
import { feedPages } from '../scheduling/feeds/feeds-routes';
import { requestPages } from '../desk/request-forms/request-page';
import { followPages } from '../desk/umbrellas/follow-page';
import { answerFault } from './answer-fault';
import type { App } from './app';
import { BOUND } from './bound-routes';
import { openApi } from './open-api';
import { problem, sendProblem } from './problems';

const SESSION_DAYS = 14;

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
  for (const bind of BOUND) router.use(bind(app));
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
