import type { Knex } from 'knex';
import { type AccessRole, type Instant, isRefusal, type Outcome } from '@core/ground';
import { at } from './database';
import { isStalePlan } from './prepared-statements';

/** Who acts, and through which way in. */
export interface Actor {
  readonly personId: string | null;
  readonly name: string;
  readonly role: AccessRole | null;
  readonly via: 'web' | 'api' | 'mail' | 'job' | 'ledger';
  /** The API token that was shown, where one was. */
  readonly tokenId?: string | undefined;
}

export interface Told {
  readonly subject:
    | 'ticket'
    | 'client'
    | 'contact'
    | 'asset'
    | 'item'
    | 'charge'
    | 'invoice'
    | 'booking'
    | 'timer'
    | 'entry'
    | 'expense'
    | 'absence'
    | 'person'
    | 'house';
  readonly id: string;
  /** What happened, as the story shows it after the person's name: "routed to Support". */
  readonly what: string;
  readonly detail?: string | null;
  readonly changes?: Readonly<Record<string, readonly [unknown, unknown]>>;
}

/**
 * One command's work: all rows, story, outbox and jobs of it are in one transaction, or none is.
 */
export interface Work {
  readonly tx: Knex.Transaction;
  readonly now: Instant;
  readonly actor: Actor;
  /** Writes the story and the live event. */
  tell(told: Told): Promise<void>;
  /** A live event without a story, for what only concerns screens. */
  emit(topic: string, id: string | null): Promise<void>;
  /** Queues a job. One key is one job: a second enqueue with it moves the first. */
  enqueue(task: string, payload: Readonly<Record<string, unknown>>, key: string, afterSeconds?: number): Promise<void>;
  /** Removes a queued job that has not started. */
  dequeue(key: string): Promise<void>;
}

export function makeWork(tx: Knex.Transaction, now: Instant, actor: Actor): Work {
  const outboxRow = (topic: string, id: string | null) => ({
    topic,
    subject_id: id,
    payload: JSON.stringify({ by: actor.personId }),
    at: at(now),
  });
  const emit = async (topic: string, id: string | null) => {
    await tx('outbox').insert(outboxRow(topic, id));
  };
  return {
    tx,
    now,
    actor,
    emit,
    tell: async (told) => {
      await tx
        .with(
          'story',
          tx('story').insert({
            at: at(now),
            person_id: actor.personId,
            via: actor.via,
            subject: told.subject,
            subject_id: told.id,
            what: told.what,
            detail: told.detail ?? null,
            changes: told.changes ? JSON.stringify(told.changes) : null,
          }),
        )
        .insert(outboxRow(told.subject, told.id))
        .into('outbox');
    },
    enqueue: async (task, payload, key, afterSeconds = 0) => {
      await tx.raw(
        `select graphile_worker.add_job(?, ?::json, run_at := now() + make_interval(secs => ?), job_key := ?, max_attempts := 25)`,
        [task, JSON.stringify(payload), afterSeconds, key],
      );
    },
    dequeue: async (key) => {
      await tx.raw('select graphile_worker.remove_job(?)', [key]);
    },
  };
}

class Refused extends Error {
  constructor(readonly outcome: unknown) {
    super('refused');
  }
}

/** PostgreSQL ended one of two that waited for each other, or that saw what the other changed. Nothing of it was stored. */
const CLASHED = /^40(P01|001)$/;
const MOST_TRIES = 4;

/**
 * Runs a command in one transaction; a refusal rolls all of it back and is returned. One that was ended because it
 * clashed with another is run again.
 */
export async function transact<T>(
  knex: Knex,
  now: Instant,
  actor: Actor,
  command: (work: Work) => Promise<Outcome<T>>,
): Promise<Outcome<T>> {
  for (let tries = 1; ; tries++)
    try {
      return await once(knex, now, actor, command);
    } catch (fault) {
      const again = isStalePlan(fault) || CLASHED.test(String((fault as { code?: unknown }).code));
      if (tries === MOST_TRIES || !again) throw fault;
    }
}

async function once<T>(knex: Knex, now: Instant, actor: Actor, command: (work: Work) => Promise<Outcome<T>>): Promise<Outcome<T>> {
  try {
    return await knex.transaction(async (tx) => {
      const outcome = await command(makeWork(tx, now, actor));
      if (isRefusal(outcome)) throw new Refused(outcome);
      return outcome;
    });
  } catch (fault) {
    if (fault instanceof Refused) return fault.outcome as Outcome<T>;
    throw fault;
  }
}
