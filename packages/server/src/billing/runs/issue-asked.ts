import { LEFT_TO_ISSUE } from '@core/billing';
import { clipText, type Id, isRefusal, type Outcome } from '@core/ground';
import { byPerson, type Actor } from '../../app/actor';
import type { App } from '../../app/app';
import type { Db } from '../../app/database';
import { databaseIsAway } from '../../app/database-away';
import type { Row } from '../../app/rows';
import { makeWork, transact, type Work } from '../../app/work';
import { closeDecided } from '../../time';
import { approveCharges } from '../charges/approve-all';
import { issueInvoice } from '../invoices/issue-invoice';
import { dueOfPart, keepChange } from './fit-run-invoices';
import { proposeDueOfClient } from './prepare-run';
import { lockRunClient, readRunClient, type RunClient } from './run-client';

const MOST_TROUBLE = 2000;

/** Job: issues what was asked for, one invoice a transaction; begun again it goes on with what is left. */
export async function issueAsked(app: App, { runId }: { readonly runId: Id<'billing_run'> }): Promise<void> {
  const run = await app.knex('billing_run').where({ id: runId }).first();
  if (run?.state !== 'issuing') return;
  const person = run.asked_by && (await app.knex('person').where({ id: run.asked_by }).first('id', 'name'));
  const actor = byPerson({ id: person!.id, name: person!.name, role: null }, 'job');
  for (let next = await nextAsked(app, runId); next; next = await nextAsked(app, runId))
    try {
      await issueOne(app, actor, { run, id: next });
    } catch (fault) {
      if (databaseIsAway(fault)) throw fault;
      app.log.error({ fault, runId, id: next }, 'an invoice of a run could not be issued');
      await keepTrouble(app, actor, { run, id: next, trouble: 'Something went wrong here; it is in the log. Nothing of it was stored.' });
    }
  if (!(await isLeft(app.knex, runId))) await closeOthers(app, actor, run);
  await transact(app, { now: app.clock.now(), actor }, (work) => settle(work, runId));
}

/** What is covered is billed nothing, and is closed all the same. One that cannot be closed is said in the log; the next run closes it. */
async function closeOthers(app: App, actor: Actor, run: Row<'billing_run'>): Promise<void> {
  const contracts: Row<'contract', 'id' | 'client_id'>[] = await app
    .knex('contract')
    .whereNotNull('agreed_at')
    .orderBy('id')
    .select('id', 'client_id');
  for (const { id: contractId, client_id: clientId } of contracts) {
    const close = async (work: Work) => {
      const { through } = await readRunClient(work.tx, run, clientId);
      return closeDecided(work, { contractId, by: through });
    };
    const closed = await transact(app, { now: app.clock.now(), actor }, close).catch((fault: unknown) => {
      if (databaseIsAway(fault)) throw fault;
      return fault;
    });
    if (closed instanceof Error || isRefusal(closed as Outcome<unknown>))
      app.log.error({ closed, contractId, runId: run.id }, 'a contract could not be closed by a run');
  }
}

async function nextAsked(app: App, runId: Id<'billing_run'>): Promise<Id<'billing_run_invoice'> | undefined> {
  return (await app.knex('billing_run_invoice').where({ run_id: runId, state: 'asked' }).orderBy('id').first('id'))?.id;
}

/** Whether something of a run is still to be issued. */
async function isLeft(db: Db, runId: Id<'billing_run'>): Promise<boolean> {
  const left = await db('billing_run_invoice')
    .where({ run_id: runId })
    .whereIn('state', ['asked', ...LEFT_TO_ISSUE])
    .where('charges', '>', 0)
    .first('id');
  return left !== undefined;
}

interface OneOfRun {
  readonly run: Row<'billing_run'>;
  readonly id: Id<'billing_run_invoice'>;
}

async function issueOne(app: App, actor: Actor, { run, id }: OneOfRun): Promise<void> {
  const outcome = await transact(app, { now: app.clock.now(), actor }, async (work) => {
    const asked = work.tx('billing_run_invoice').where({ id, state: 'asked' });
    const clientId = (await asked.clone().first('client_id'))?.client_id;
    if (!clientId) return {};
    await proposeDueOfClient(work, await readRunClient(work.tx, run, clientId));
    const of = await lockRunClient(work, run, clientId);
    const seen = await asked.forUpdate().first();
    if (!seen) return {};
    if (!(await keepChange(work, of, seen))) {
      const issued = await issueSeen(work, of, seen);
      if (isRefusal(issued)) return issued;
    }
    await work.emit('run', run.id);
    return {};
  });
  if (isRefusal(outcome)) await keepTrouble(app, actor, { run, id, trouble: outcome.detail });
}

/** An invoice that cannot be issued stops no other. */
async function keepTrouble(app: App, actor: Actor, { run, id, trouble }: OneOfRun & { readonly trouble: string }): Promise<void> {
  await app.knex.transaction(async (tx) => {
    await tx('billing_run_invoice')
      .where({ id, state: 'asked' })
      .update({ state: 'failed', trouble: clipText(trouble, MOST_TROUBLE) });
    await makeWork({ tx, now: app.clock.now(), actor, book: app.house }).emit('run', run.id);
  });
}

/** Closes what is over and decided of the client's contracts, approves what recurs, and issues all of it. */
async function issueSeen(work: Work, of: RunClient, seen: Row<'billing_run_invoice'>): Promise<Outcome<unknown>> {
  const contracts: Id<'contract'>[] = await work
    .tx('contract')
    .where({ client_id: seen.client_id })
    .whereNotNull('agreed_at')
    .orderBy('id')
    .pluck('id');
  for (const contractId of contracts) {
    const closed = await closeDecided(work, { contractId, by: of.through });
    if (isRefusal(closed)) return closed;
  }
  const due = await dueOfPart(work, of, seen.part_key);
  await approveCharges(
    work,
    due.filter((c) => c.state === 'proposed'),
    { batchId: of.runId },
  );
  const issued = await issueInvoice(work, { clientId: seen.client_id, chargeIds: due.map((c) => c.id), grossMinor: null }, seen.part);
  if (isRefusal(issued)) return issued;
  await work.tx('billing_run_invoice').where({ id: seen.id }).update({ state: 'issued', invoice_id: issued.id });
  return {};
}

/** What is left decides whether a run is over. */
async function settle(work: Work, runId: Id<'billing_run'>): Promise<Outcome<unknown>> {
  await work.tx('billing_run').where({ id: runId }).forUpdate().first('id');
  await work
    .tx('billing_run')
    .where({ id: runId, state: 'issuing' })
    .update({ state: (await isLeft(work.tx, runId)) ? 'ready' : 'done' });
  await work.emit('run', runId);
  return {};
}
