import { randomUUID } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { createTransport, type SendMailOptions } from 'nodemailer';
import { apiRoutes, type ApiRoutes } from '@core/api';
import { type AnswerOf, type Instant, parseInstant, plusSeconds, type Route } from '@core/ground';
import { createToken } from '../src/house/access/tokens';
import type { Clock } from '../src/app/clock';
import type { Config } from '../src/app/config';
import { openDatabase } from '../src/app/database';
import { startServer, type Running } from '../src/app/start-server';
import { startLedgerStandIn } from '../../standins/src/ledger/ledger-standin';
import { startMailStandIn } from '../../standins/src/mail/mail-standin';

/** The instant at which every test begins: the story's. */
export const STORY = parseInstant('2026-11-24T10:40:00Z');
export const LEDGER_KEY = 'test-ledger-key';

/** A clock that a test moves by hand. */
export class TestClock implements Clock {
  constructor(private at: Instant = STORY) {}
  now(): Instant {
    return this.at;
  }
  forward(seconds: number): void {
    this.at = plusSeconds(this.at, seconds);
  }
}

const LET_GO_MS = 5000;

/** A database of its own, copied from the demo that the test run made. */
export async function makeTestDatabase(): Promise<{ url: string; knex: Knex; drop(): Promise<void> }> {
  const base = process.env['DRUMLINE_TEST_URL'];
  if (!base) throw new Error('Run tests by npm test, which makes the database they need.');
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  const admin = openDatabase(`${base}/postgres`, 1);
  await admin.raw(`create database ${name} template drumline_template`);
  const url = `${base}/${name}`;
  const knex = openDatabase(url, 4);
  return {
    url,
    knex,
    drop: async () => {
      await knex.destroy();
      // A connection that is just being closed would break the test if it were ended from the other side meanwhile.
      const gone = async () => !(await admin('pg_stat_activity').where({ datname: name }).first('pid'));
      const free = await until('all have let go of the database', gone, LET_GO_MS).catch(() => false);
      // Held for longer, as by a job that still runs, it goes with its cluster: who holds it would break by being ended.
      if (free) await admin.raw(`drop database if exists ${name}`).catch(() => undefined);
      await admin.destroy();
    },
  };
}

export function testConfig(url: string, folder: string, more: Partial<Config> = {}): Config {
  return {
    DATABASE_URL: url,
    PORT: 0,
    SMTP_PORT: 0,
    MAIL_OUT: 'smtp://127.0.0.1:1',
    LEDGER_URL: 'http://127.0.0.1:1',
    LEDGER_KEY,
    PUBLIC_URL: 'http://127.0.0.1',
    SESSION_SECRET: 'a secret that only tests know',
    FILES_DIR: folder,
    WEB_DIR: 'dist/web/browser',
    DOCUMENT_WORKER: 'dist/server/server/src/app/documents/document-worker.js',
    CALENDAR_WORKER: 'dist/server/server/src/scheduling/outside-calendars/calendar-worker.js',
    BANK_WORKER: 'dist/server/server/src/billing/bank/bank-file-worker.js',
    MAIL_WORKER: 'dist/server/server/src/desk/messages/mail-worker.js',
    MAIL_READY: false,
    OUTSIDE_ALLOWED: '127.0.0.1',
    DATABASE_CONNECTIONS: 16,
    PLAN_WORKER: 'dist/server/server/src/scheduling/planning/plan-worker.js',
    TRIAL_WORKER: 'dist/server/server/src/billing/would-cost/would-cost-worker.js',
    DRUMLINE_NOW: undefined,
    LOG_LEVEL: process.env['FAULTS'] ? 'error' : 'silent',
    REPLY_WAIT_SECONDS: 0,
    SECURE_COOKIES: false,
    TRUST_PROXY: '',
    METRICS_KEY: 'a key that only tests know',
    ...more,
  };
}

type Named = keyof ApiRoutes;
export interface Asked {
  readonly params?: Record<string, string>;
  readonly query?: Record<string, string>;
  readonly body?: unknown;
  readonly version?: number;
  readonly key?: string;
  readonly headers?: Record<string, string>;
}

/** Asks the API by a token, as a script would. */
export class Script {
  constructor(
    readonly base: string,
    private readonly token: string | undefined,
  ) {}

  async ask(
    name: Named,
    { params = {}, query, body, version, key, headers = {} }: Asked = {},
  ): Promise<{ status: number; body: never; headers: Headers; bytes: Buffer }> {
    const route: Route = apiRoutes[name];
    const path = route.path.replace(/:(\w+)/g, (_, p: string) => params[p] ?? '00000000-0000-4000-8000-000000000000');
    const response = await fetch(`${this.base}/api${path}${query ? `?${new URLSearchParams(query)}` : ''}`, {
      method: route.method,
      headers: {
        'content-type': Buffer.isBuffer(body) ? 'application/octet-stream' : 'application/json',
        ...(key === '' ? {} : { 'idempotency-key': key ?? randomUUID() }),
        ...(this.token ? { authorization: `Bearer ${this.token}` } : {}),
        ...(version !== undefined ? { 'if-match': `"${version}"` } : {}),
        ...headers,
      },
      ...(body === undefined || route.method === 'GET'
        ? {}
        : { body: Buffer.isBuffer(body) ? new Uint8Array(body) : JSON.stringify(body) }),
    });
    const bytes = Buffer.from(await response.arrayBuffer());
    const json: unknown = /json/.test(response.headers.get('content-type') ?? '') ? JSON.parse(bytes.toString()) : undefined;
    if (response.status === 200 && !route.file) this.holds(route, json);
    return { status: response.status, body: json as never, headers: response.headers, bytes };
  }

  /** Every answer is what the route's schema says, no field more and none less. */
  private holds(route: Route, answer: unknown): void {
    try {
      route.answer.validateSync(answer, { strict: true, abortEarly: false });
    } catch (fault) {
      throw new Error(
        `${route.name} does not answer as its schema says: ${(fault as { errors?: string[] }).errors?.slice(0, 5).join('; ')}`,
      );
    }
  }

  /** As ask, but anything but success is a failure of the test. */
  async do<N extends Named>(name: N, asked: Asked = {}): Promise<AnswerOf<ApiRoutes[N]>> {
    const { status, body } = await this.ask(name, asked);
    if (status >= 300) throw new Error(`${name} answered ${status}: ${JSON.stringify(body)}`);
    return body;
  }
}

/** A mail as the stand-in shows it. */
export interface ShownMail {
  readonly id: string;
  readonly way: 'sent' | 'received';
  readonly from: string;
  readonly to: readonly string[];
  readonly subject: string;
  readonly text: string;
  readonly messageId: string;
  readonly inReplyTo?: string;
  readonly references?: string | readonly string[];
  readonly attachments: readonly string[];
}

/** Hands a mail to an SMTP server; resolves once it is acknowledged. */
export async function postMail(port: number, mail: SendMailOptions): Promise<void> {
  await createTransport({ host: '127.0.0.1', port, secure: false, ignoreTLS: true }).sendMail(mail);
}

/** What a refusal said. */
export function detailOf(answer: { readonly body: never }): string {
  return (answer.body as { detail: string }).detail;
}

export interface World {
  readonly clock: TestClock;
  readonly knex: Knex;
  readonly url: string;
  readonly folder: string;
  readonly running: Running;
  readonly mail: Awaited<ReturnType<typeof startMailStandIn>>;
  readonly ledger: Awaited<ReturnType<typeof startLedgerStandIn>>;
  readonly base: string;
  /** Everything the mail stand-in holds, the oldest first. */
  mailbox(): Promise<ShownMail[]>;
  /** A script with the rights of a person, named by the start of their name. */
  as(name: string): Promise<Script>;
  /** Another server process's worth on the same database. */
  second(more?: Partial<Config>): Promise<Running>;
  stop(): Promise<void>;
}

/** A server with its stand-ins on a database of its own, and a clock that the test moves. */
export async function startWorld(more: Partial<Config> = {}): Promise<World> {
  const folder = await mkdtemp(join(tmpdir(), 'drumline-test-'));
  const database = await makeTestDatabase();
  const clock = new TestClock();
  const deliverTo = { port: 0 };
  const mail = await startMailStandIn({
    httpPort: 0,
    smtpPort: 0,
    deliverTo,
    providerAddress: 'desk@pellworth.example',
    folder: join(folder, 'mailbox'),
  });
  const ledger = await startLedgerStandIn({ port: 0, key: LEDGER_KEY, file: join(folder, 'ledger.json') });
  const config = testConfig(database.url, join(folder, 'files'), {
    MAIL_OUT: `smtp://127.0.0.1:${mail.smtpPort}`,
    LEDGER_URL: `http://127.0.0.1:${ledger.port}`,
    ...more,
  });
  const running = await startServer(config, clock);
  deliverTo.port = running.smtpPort;
  const others: Running[] = [];
  const base = `http://127.0.0.1:${running.port}`;
  return {
    clock,
    knex: database.knex,
    url: database.url,
    folder,
    running,
    mail,
    ledger,
    base,
    mailbox: async () => (await (await fetch(`http://127.0.0.1:${mail.httpPort}/mails.json`)).json()) as ShownMail[],
    as: async (name) => {
      const person = await database.knex('person').where('name', 'like', `${name}%`).first('id');
      if (!person) throw new Error(`the demo has no ${name}`);
      return new Script(base, (await createToken(database.knex, { personId: person.id, label: 'test', now: STORY })).secret);
    },
    second: async (more = {}) => {
      const other = await startServer({ ...config, ...more }, clock);
      others.push(other);
      return other;
    },
    stop: async () => {
      await Promise.all(others.map((o) => o.stop()));
      await running.stop();
      await Promise.all([mail.stop(), ledger.stop()]);
      await database.drop();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** Waits until `found` answers with something; fails with `what` after the time given. */
export async function until<T>(what: string, found: () => Promise<T>, ms = 40_000): Promise<Exclude<T, undefined | null | false>> {
  const end = Date.now() + ms;
  for (;;) {
    const value = await found();
    if (value) return value as Exclude<T, undefined | null | false>;
    if (Date.now() > end) throw new Error(`waited ${ms} ms in vain: ${what}`);
    await new Promise((done) => setTimeout(done, 50));
  }
}
