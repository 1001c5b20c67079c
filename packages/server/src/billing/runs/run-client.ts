import { billingDay, type InvoicePer } from '@core/billing';
import type { Id, LocalDate } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { readTerms } from '../billing-terms/read-terms';

export type RunOf = Row<'billing_run', 'id' | 'on_date'>;

/** A client as a run bills it. */
export interface RunClient {
  readonly runId: Id<'billing_run'>;
  readonly clientId: Id<'client'>;
  /** As of which day: the newest of its billing days up to the run's. */
  readonly through: LocalDate;
  readonly per: InvoicePer;
  /** Whether it is billed once as of that day: what comes late then waits for the next. */
  readonly isOnce: boolean;
}

/** As of which day, and on how many invoices, a client is billed by what is due by a day. */
export async function readRunClient(db: Db, run: RunOf, clientId: Id<'client'>): Promise<RunClient> {
  const { rhythm, per } = await readTerms(db, clientId);
  return { runId: run.id, clientId, through: billingDay(rhythm, run.on_date), per, isOnce: rhythm.every !== 'run' };
}

/**
 * The same, with its row locked: who brings the client's invoices to the facts meanwhile waits, and sees them all. Contracts
 * are locked before it, invoices of the run after it.
 */
export async function lockRunClient(work: Work, run: RunOf, clientId: Id<'client'>): Promise<RunClient> {
  await work.tx('billing_run_client').insert({ run_id: run.id, client_id: clientId }).onConflict(['run_id', 'client_id']).merge(['run_id']);
  return readRunClient(work.tx, run, clientId);
}
