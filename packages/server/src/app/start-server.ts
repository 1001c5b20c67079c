import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Knex } from 'knex';
import { pino } from 'pino';
import { LedgerClient } from '../adapters/ledger/ledger-client';
import { MailSender } from '../adapters/mail/mail-sender';
import { HouseBook } from '../house/house/house-book';
import { TrialWorkers } from '../billing/would-cost/trial-workers';
import { PlanWorkers } from '../scheduling/planning/plan-workers';
import { BankWorkers } from '../billing/bank/bank-workers';
import { CalendarWorkers } from '../scheduling/outside-calendars/calendar-workers';
import { MailWorkers } from '../desk/messages/mail-workers';
import { DocumentWorkers } from './documents/document-workers';
import { makeSmtpReceiver } from '../desk/messages/smtp-receiver';
import type { App } from './app';
import { BlobStore } from './blob-store';
import { makeClock, type Clock } from './clock';
import type { Config } from './config';
import { openDatabase } from './database';
import { makeHttp } from './http';
import { startJobs } from './jobs';
import { Live } from './live';
import { sendCounts } from './live-counts';
import { Metrics } from './metrics';
import { readCounts } from '../desk/tickets/read-counts';
import { readScoped } from './scope';

export interface Running {
  readonly app: App;
  readonly port: number;
  readonly smtpPort: number;
  /** Takes nothing new, finishes what was taken, then closes. */
  stop(): Promise<void>;
}

const IDLE_MS = 50;
const FORCE_MS = 8000;

/** Starts one server process; many can run on one database. */
export async function startServer(config: Config, clock?: Clock): Promise<Running> {
  const log = pino({ level: config.LOG_LEVEL, serializers: { fault: pino.stdSerializers.err } });
  const knex: Knex = openDatabase(config.DATABASE_URL, config.DATABASE_CONNECTIONS, (words) =>
    log.warn({ words: String(words) }, 'database'),
  );
  const house = new HouseBook();
  await house.load(knex);
  const app: App = {
    config,
    knex,
    log,
    house,
    clock: clock ?? makeClock(config.DRUMLINE_NOW, house.house.demo?.clockOffsetSeconds ?? 0),
    live: new Live({ knex, url: config.DATABASE_URL, log, divisionIds: () => house.divisionIds }),
    blobs: new BlobStore(config.FILES_DIR),
    mail: new MailSender(config.MAIL_OUT, config.SESSION_SECRET),
    ledger: new LedgerClient(config.LEDGER_URL, config.LEDGER_KEY),
    documents: new DocumentWorkers(config.DOCUMENT_WORKER),
    plans: new PlanWorkers(config.PLAN_WORKER),
    trials: new TrialWorkers(config.TRIAL_WORKER),
    calendars: new CalendarWorkers(config.CALENDAR_WORKER),
    banks: new BankWorkers(config.BANK_WORKER),
    mails: new MailWorkers(config.MAIL_WORKER, config.MAIL_READY),
    outsideAllowed: config.OUTSIDE_ALLOWED.split(',').filter(Boolean),
    metrics: new Metrics(),
  };
  await app.blobs.begin();
  const http = makeHttp(app);
  const server = createServer(http.express);
  const smtp = makeSmtpReceiver(app);
  smtp.on('error', (fault) => log.warn({ fault }, 'smtp'));
  app.live.on('house', () => house.load(knex));
  sendCounts(app.live, log, ({ role, divisions }) => readScoped(knex, divisions, (db) => readCounts(db, role!)));
  await app.live.start();
  const jobs = await startJobs(app);
  const port = await listen(server, config.PORT);
  const smtpPort = await new Promise<number>((resolve) =>
    smtp.listen(config.SMTP_PORT, '127.0.0.1', () => resolve((smtp.server.address() as AddressInfo).port)),
  );
  log.info({ port, smtpPort }, 'Drumline is up');
  let stopping: Promise<void> | undefined;
  return {
    app,
    port,
    smtpPort,
    stop: () =>
      (stopping ??= (async () => {
        await Promise.all([new Promise<void>((resolve) => smtp.close(() => resolve())), app.live.stop()]);
        await drain(server);
        await jobs.stop();
        await app.documents.stop();
        await Promise.all([app.plans.stop(), app.trials.stop(), app.calendars.stop(), app.banks.stop(), app.mails.stop()]);
        // A connection that is dead already is no reason not to stop.
        for (const close of [http.close, () => knex.destroy()])
          await close().catch((fault: unknown) => log.warn({ fault }, 'closing a connection'));
      })()),
  };
}

/** Answers what was asked, takes nothing new, and closes connections as they fall idle; the last after a while by force. */
async function drain(server: Server): Promise<void> {
  const idle = setInterval(() => server.closeIdleConnections(), IDLE_MS);
  const force = setTimeout(() => server.closeAllConnections(), FORCE_MS);
  await new Promise<void>((resolve) => server.close(() => resolve()));
  clearInterval(idle);
  clearTimeout(force);
}

/** Longer than proxies keep a connection that rests, so that none is closed under a request that is on its way. */
const KEPT_MS = 65_000;

function listen(server: Server, port: number): Promise<number> {
  server.keepAliveTimeout = KEPT_MS;
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
  });
}
