import { type Id, isRefusal, type LocalDate, type Outcome, refuse } from '@core/ground';
import { byJob, whoColumns } from '../../app/actor';
import type { App } from '../../app/app';
import { at, type Db } from '../../app/database';
import { databaseIsAway } from '../../app/database-away';
import type { Row } from '../../app/rows';
import { makeWork, transact, type Work } from '../../app/work';
import { CLEARED } from '../charges/charges-read-model';
import { proposeDue } from '../recurring-charges/propose-recurring';
import { fitRunInvoices } from './fit-run-invoices';
import { openRun } from './open-run';
import { readRunClient, type RunClient } from './run-client';

const JOB = byJob('billing run');
/** How many clients are looked at between two signs of life. */
const TELL_EVERY = 20;

/** Begins a run for a day. Who asks for the one that is open already gets that. */
export async function prepareRun(work: Work, on: LocalDate): Promise<Outcome<{ id: Id<'billing_run'> }>> {
  const [fresh] = await work
    .tx('billing_run')
    .insert({ on_date: on, prepared_at: at(work.now), ...whoColumns(work.actor) })
    .onConflict()
    .ignore()
    .returning('id');
  if (!fresh) {
    const open = await openRun(work.tx);
    if (open?.on_date === on) return { id: open.id };
    return refuse('not-possible-now', `The run for ${open?.on_date} is open: issue it or put it away first.`);
  }
  await work.enqueue('prepare-run', { runId: fresh.id }, { key: `prepare-run:${fresh.id}` });
  await work.tell('run.prepared', fresh.id, { on });
  return { id: fresh.id };
}

/**
 * Job: works out what is due, client by client, each in a transaction of its own; begun again it goes on after the last one.
 */
export async function prepareInvoices(app: App, { runId }: { readonly runId: Id<'billing_run'> }): Promise<void> {
  let goesOn = true;
  while (goesOn) goesOn = await prepareOn(app, runId);
}

/** Goes on from where the run stands. @returns whether it stands elsewhere by then: begun anew, or another looks at clients, too */
async function prepareOn(app: App, runId: Id<'billing_run'>): Promise<boolean> {
  const run = await app.knex('billing_run').where({ id: runId }).first();
  if (run?.state !== 'preparing') return false;
  const clients = await clientsToLookAt(app.knex);
  const left = clients.filter((id) => run.after_client === null || id > run.after_client);
  await put(app, { runId }, { clients: clients.length, looked_at: clients.length - left.length, trouble: null });
  let after = run.after_client;
  for (const [n, clientId] of left.entries()) {
    try {
      if (!(await lookAt(app, run, { clientId, after }))) return true;
      after = clientId;
    } catch (fault) {
      // The queue tries again; whoever waits for the run sees where it stands.
      if (!databaseIsAway(fault)) await put(app, { runId }, { trouble: await sayStopped(app.knex, clientId) });
      throw fault;
    }
    if (n % TELL_EVERY === TELL_EVERY - 1) await put(app, { runId }, { looked_at: clients.length - left.length + n + 1 });
  }
  return !(await put(app, { runId, doneAfter: after }, { looked_at: clients.length, state: 'ready' }));
}

async function sayStopped(db: Db, clientId: Id<'client'>): Promise<string> {
  const client = await db('client').where({ id: clientId }).first('name');
  return `It stopped at ${client?.name} and is tried again by itself. What went wrong is in the log; nothing half done was stored.`;
}

interface Next {
  readonly clientId: Id<'client'>;
  /** The one before, after which the run stands. */
  readonly after: string | null;
}

/** Where a run is still being prepared, and stands after the client that was looked at last. */
const STANDS_AFTER = `state = 'preparing' and after_client is not distinct from ?`;

/** Works out what is due of a client. @returns whether the run stood where it was: somebody may have ended it meanwhile, or begun it anew */
async function lookAt(app: App, run: Row<'billing_run'>, { clientId, after }: Next): Promise<boolean> {
  const done = await transact(app, { now: app.clock.now(), actor: JOB }, async (work) => {
    const goesOn = await work.tx('billing_run').where({ id: run.id }).whereRaw(STANDS_AFTER, [after]).update({ after_client: clientId });
    if (!goesOn) return { goesOn: false };
    await proposeDueOfClient(work, await readRunClient(work.tx, run, clientId));
    await fitRunInvoices(work, run, clientId);
    return { goesOn: true };
  });
  if (isRefusal(done)) throw new Error(done.detail);
  return done.goesOn;
}

/** What recurs and is due of a client's contracts by the day as of which it is billed waits in charge review. */
export async function proposeDueOfClient(work: Work, { clientId, through }: Pick<RunClient, 'clientId' | 'through'>): Promise<void> {
  const contracts: Row<'contract'>[] = await work
    .tx('contract')
    .where({ client_id: clientId })
    .whereNotNull('agreed_at')
    .orderBy('id')
    .forNoKeyUpdate();
  for (const contract of contracts) await proposeDue(work, contract, through);
}

/** In the order in which they are looked at; what is held may be due by the run's day. */
async function clientsToLookAt(db: Db): Promise<Id<'client'>[]> {
  return db('client as c')
    .whereExists(db('contract as k').whereRaw('k.client_id = c.id and k.agreed_at is not null').select('k.id'))
    .orWhereExists(db('charge as ch').whereRaw('ch.client_id = c.id').whereRaw(CLEARED).select('ch.id'))
    .orderBy('c.id')
    .pluck('c.id');
}

interface Put {
  readonly runId: Id<'billing_run'>;
  /** Where it is over: the last client. */
  readonly doneAfter?: string | null;
}

async function put(app: App, { runId, doneAfter }: Put, set: Record<string, unknown>): Promise<boolean> {
  return app.knex.transaction(async (tx) => {
    const changed = await tx('billing_run')
      .where({ id: runId })
      .modify((q) => doneAfter !== undefined && void q.whereRaw(STANDS_AFTER, [doneAfter]))
      .update(set);
    await makeWork({ tx, now: app.clock.now(), actor: JOB, book: app.house }).emit('run', runId);
    return changed > 0;
  });
}
