import knexFactory, { type Knex } from 'knex';
import pg from 'pg';
import { formatInstant, instantOfMillis, type Instant } from '@core/ground';
import * as chain from '../../migrations/20261123T0900-chain';
import * as lists from '../../migrations/20261123T1100-lists';
import * as desk from '../../migrations/20261123T1300-desk';
import * as canned from '../../migrations/20261123T1900-canned';
import * as flatFees from '../../migrations/20261123T1800-flat-fees';
import * as intake from '../../migrations/20261123T1600-intake';
import * as escalation from '../../migrations/20261123T1700-escalation';
import * as ownFields from '../../migrations/20261123T2000-own-fields';
import * as statuses from '../../migrations/20261123T2100-statuses';
import * as templates from '../../migrations/20261123T2200-templates';
import * as requestForms from '../../migrations/20261123T2300-request-forms';
import * as calendars from '../../migrations/20261123T2400-calendars';
import * as teamwork from '../../migrations/20261123T2500-teamwork';
import * as clientPrices from '../../migrations/20261123T2600-client-prices';
import * as kinds from '../../migrations/20261123T2700-kinds';
import * as feeds from '../../migrations/20261123T2800-feeds';
import * as viewReach from '../../migrations/20261123T2900-view-reach';
import * as dispatch from '../../migrations/20261123T3000-dispatch';
import * as outsideCalendars from '../../migrations/20261124T0200-outside-calendars';
import * as time from '../../migrations/20261124T0300-time';
import * as approval from '../../migrations/20261124T0400-approval';
import * as expenses from '../../migrations/20261124T0500-expenses';
import * as absences from '../../migrations/20261124T0600-absences';
import * as asWorkHappens from '../../migrations/20261124T0700-as-work-happens';
import * as distanceTerms from '../../migrations/20261126T0100-distance-terms';
import * as longTime from '../../migrations/20261126T0200-long-time';
import * as jobPools from '../../migrations/20261129T0100-job-pools';
import * as mailIn from '../../migrations/20261129T0200-mail-in';
import * as access from '../../migrations/20261129T0300-access';
import * as insideReach from '../../migrations/20261129T0400-inside-reach';
import * as work from '../../migrations/20261130T0100-work';
import * as divisions from '../../migrations/20261130T0200-divisions';
import * as liveByRecord from '../../migrations/20261130T0300-live-by-record';
import * as settings from '../../migrations/20261130T0400-settings';
import * as contracts from '../../migrations/20261130T0500-contracts';
import * as contractReach from '../../migrations/20261201T0100-contract-reach';
import * as contractDepth from '../../migrations/20261201T0300-contract-depth';
import * as billingRuns from '../../migrations/20261201T0400-billing-runs';
import * as bank from '../../migrations/20261201T0500-bank';
import * as reminders from '../../migrations/20261201T0600-reminders';
import * as priceRules from '../../migrations/20261202T0200-price-rules';
import * as openTab from '../../migrations/20261202T0300-open-tab';
import * as billingTerms from '../../migrations/20261203T0100-billing-terms';
import * as chargeReview from '../../migrations/20261202T0100-charge-review';
import * as costTrials from '../../migrations/20261201T0200-cost-trials';
import { preparingClient } from './prepared-statements';
import * as openings from '../../migrations/20261124T0100-openings';
import * as umbrella from '../../migrations/20261123T1500-umbrella';

const TIMESTAMPTZ = 1184;
const DATE = 1082;
const INT8 = 20;
const parseTimestamp = pg.types.getTypeParser(TIMESTAMPTZ) as (text: string) => Date;
pg.types.setTypeParser(TIMESTAMPTZ, (text: string) => instantOfMillis(parseTimestamp(text).getTime()));
pg.types.setTypeParser(DATE, (text: string) => text);
pg.types.setTypeParser(INT8, (text: string) => Number(text));

export type Db = Knex | Knex.Transaction;

/** Names without a file extension, so that a database migrated by the build also fits the sources. */
const MIGRATIONS: Readonly<Record<string, Knex.Migration>> = {
  '20261123T0900-chain': chain,
  '20261123T1100-lists': lists,
  '20261123T1300-desk': desk,
  '20261123T1500-umbrella': umbrella,
  '20261123T1600-intake': intake,
  '20261123T1700-escalation': escalation,
  '20261123T1800-flat-fees': flatFees,
  '20261123T1900-canned': canned,
  '20261123T2000-own-fields': ownFields,
  '20261123T2100-statuses': statuses,
  '20261123T2200-templates': templates,
  '20261123T2300-request-forms': requestForms,
  '20261123T2400-calendars': calendars,
  '20261123T2500-teamwork': teamwork,
  '20261123T2600-client-prices': clientPrices,
  '20261123T2700-kinds': kinds,
  '20261123T2800-feeds': feeds,
  '20261123T2900-view-reach': viewReach,
  '20261123T3000-dispatch': dispatch,
  '20261124T0100-openings': openings,
  '20261124T0200-outside-calendars': outsideCalendars,
  '20261124T0300-time': time,
  '20261124T0400-approval': approval,
  '20261124T0500-expenses': expenses,
  '20261124T0600-absences': absences,
  '20261124T0700-as-work-happens': asWorkHappens,
  '20261126T0100-distance-terms': distanceTerms,
  '20261126T0200-long-time': longTime,
  '20261129T0100-job-pools': jobPools,
  '20261129T0200-mail-in': mailIn,
  '20261129T0300-access': access,
  '20261129T0400-inside-reach': insideReach,
  '20261130T0100-work': work,
  '20261130T0200-divisions': divisions,
  '20261130T0300-live-by-record': liveByRecord,
  '20261130T0400-settings': settings,
  '20261130T0500-contracts': contracts,
  '20261201T0100-contract-reach': contractReach,
  '20261201T0200-cost-trials': costTrials,
  '20261201T0300-contract-depth': contractDepth,
  '20261201T0400-billing-runs': billingRuns,
  '20261201T0500-bank': bank,
  '20261201T0600-reminders': reminders,
  '20261202T0100-charge-review': chargeReview,
  '20261202T0200-price-rules': priceRules,
  '20261202T0300-open-tab': openTab,
  '20261203T0100-billing-terms': billingTerms,
};

/** @param report takes what the driver says of lost connections; nothing else is told there */
export function openDatabase(url: string, most = 10, report: (words: string) => void = () => undefined): Knex {
  return knexFactory({
    client: preparingClient(),
    log: { warn: report, error: report, deprecate: report, debug: () => undefined },
    connection: url,
    pool: { min: 0, max: most, acquireTimeoutMillis: 5000 },
    migrations: {
      migrationSource: {
        getMigrations: async () => Object.keys(MIGRATIONS),
        getMigrationName: (name: string) => name,
        getMigration: async (name: string) => MIGRATIONS[name]!,
      },
    },
  });
}

/** An instant as PostgreSQL takes it. */
export function at(instant: Instant): string {
  return formatInstant(instant);
}

/** An instant, or null, as the wire shows it. */
export function wireAt(instant: Instant): string;
export function wireAt(instant: Instant | null): string | null;
export function wireAt(instant: Instant | null): string | null {
  return instant === null ? null : formatInstant(instant);
}

/** The sum of a column over what a query of one table finds; 0 over nothing. */
export async function sumOf(query: Pick<Knex.QueryBuilder, 'sum'>, column: string): Promise<number> {
  const [{ n }] = await query.sum(`${column} as n`);
  return Number(n ?? 0);
}

/** How many rows a query of one table finds. */
export async function countOf(query: Pick<Knex.QueryBuilder, 'count'>): Promise<number> {
  const [{ n }] = await query.count('* as n');
  return Number(n);
}
