import { boolean, number, object, string, ValidationError, type InferType } from 'yup';

/** Settings, all from the environment. A wrong one stops the start and names itself. */
const schema = object({
  DATABASE_URL: string().required('postgres://user@127.0.0.1:port/name'),
  PORT: number().integer().min(0).max(65535).default(4600),
  SMTP_PORT: number().integer().min(0).max(65535).default(4625),
  MAIL_OUT: string()
    .default('smtp://127.0.0.1:4626')
    .matches(/^smtp:\/\/[^:/]+:\d+$/, 'smtp://host:port'),
  LEDGER_URL: string().url('http://host:port').default('http://127.0.0.1:4630'),
  LEDGER_KEY: string().required('the key of the ledger'),
  PUBLIC_URL: string().default('http://127.0.0.1:4600'),
  SESSION_SECRET: string().min(16, 'at least 16 characters').required('a secret of at least 16 characters'),
  FILES_DIR: string().required('a folder for attachments'),
  WEB_DIR: string().default('dist/web/browser'),
  DOCUMENT_WORKER: string().default('dist/server/server/src/app/documents/document-worker.js'),
  CALENDAR_WORKER: string().default('dist/server/server/src/scheduling/outside-calendars/calendar-worker.js'),
  BANK_WORKER: string().default('dist/server/server/src/billing/bank/bank-file-worker.js'),
  MAIL_WORKER: string().default('dist/server/server/src/desk/messages/mail-worker.js'),
  /** Whether the threads that read mail are kept ready: they take a second and some memory. */
  MAIL_READY: boolean().default(true),
  /** Hosts of our own network that may be asked for an address somebody typed, with commas between: 127.0.0.1:4650. */
  OUTSIDE_ALLOWED: string().default(''),
  DATABASE_CONNECTIONS: number().integer().min(1).max(100).default(16),
  PLAN_WORKER: string().default('dist/server/server/src/scheduling/planning/plan-worker.js'),
  TRIAL_WORKER: string().default('dist/server/server/src/billing/would-cost/would-cost-worker.js'),
  DRUMLINE_NOW: string().matches(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}Z$/, 'an instant such as 2026-11-24T10:40:00Z'),
  LOG_LEVEL: string().oneOf(['silent', 'error', 'warn', 'info', 'debug']).default('info'),
  REPLY_WAIT_SECONDS: number().integer().min(0).max(600).default(10),
  SECURE_COOKIES: boolean().default(false),
  /** Proxies before it: how many, or their addresses with commas between. Empty where there is none. */
  TRUST_PROXY: string().default(''),
  /** Shown as a bearer, it opens /metrics; without it nothing does. */
  METRICS_KEY: string()
    .default('')
    .test('long', 'at least 16 characters', (v) => !v || v.length >= 16),
});
export type Config = InferType<typeof schema>;

/** @throws Error naming every setting that is wrong, what was given and what is allowed */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  try {
    return schema.validateSync(env, { abortEarly: false, stripUnknown: true });
  } catch (fault) {
    if (!(fault instanceof ValidationError)) throw fault;
    const lines = fault.inner.map((e) => `  ${e.path}: given ${JSON.stringify(env[e.path ?? ''] ?? '')}, needs ${e.errors.join(', ')}`);
    throw new Error(`The settings are not right:\n${lines.join('\n')}`);
  }
}
