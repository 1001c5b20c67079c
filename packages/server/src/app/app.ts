import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { LedgerClient } from '../adapters/ledger/ledger-client';
import type { MailSender } from '../adapters/mail/mail-sender';
import type { HouseBook } from '../house/house/house-book';
import type { PlanWorkers } from '../scheduling/planning/plan-workers';
import type { BankWorkers } from '../billing/bank/bank-workers';
import type { CalendarWorkers } from '../scheduling/outside-calendars/calendar-workers';
import type { MailWorkers } from '../desk/messages/mail-workers';
import type { TrialWorkers } from '../billing/would-cost/trial-workers';
import type { DocumentWorkers } from './documents/document-workers';
import type { BlobStore } from './blob-store';
import type { Clock } from './clock';
import type { Config } from './config';
import type { Live } from './live';
import type { Metrics } from './metrics';

/** What a process has: made once in start-server, passed to what needs it. */
export interface App {
  readonly config: Config;
  readonly knex: Knex;
  readonly clock: Clock;
  readonly log: Logger;
  readonly house: HouseBook;
  readonly live: Live;
  readonly blobs: BlobStore;
  readonly mail: MailSender;
  readonly ledger: LedgerClient;
  readonly documents: DocumentWorkers;
  readonly plans: PlanWorkers;
  readonly trials: TrialWorkers;
  readonly calendars: CalendarWorkers;
  readonly banks: BankWorkers;
  readonly mails: MailWorkers;
  /** Hosts of our own network that may be asked for what somebody typed: stand-ins. */
  readonly outsideAllowed: readonly string[];
  readonly metrics: Metrics;
}
