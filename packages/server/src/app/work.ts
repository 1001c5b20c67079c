import type { Knex } from 'knex';
import type { EventType, Happenings } from '@core/events';
import { type Instant, isRefusal, type Outcome } from '@core/ground';
import type { HouseBook } from '../house/house/house-book';
import type { Actor } from './actor';
import type { App } from './app';
import { handleEvent } from './handled-events';
import { isStalePlan } from './prepared-statements';
import { Refused } from './refused';
import { scopeTo } from './scope';
import { type Touched, writeEvent, writeLive } from './write-event';

/**
 * One command's work: all rows, events, outbox and jobs of it are in one transaction, or none is.
 */
export interface Work {
  readonly tx: Knex.Transaction;
  readonly now: Instant;
  readonly actor: Actor;
  /** What holds for the house. */
  readonly book: HouseBook;
  /** The event that led to this work, where one did. */
  readonly cause: string | null;
  /** Writes what happened to a record to the log, sends the live events, and lets those who handle it do their part. @returns the event's id */
  tell<Type extends EventType>(type: Type, id: string, data: Happenings[Type]): Promise<string>;
  /** A live event without a story, for what only concerns screens; one for each of what is touched, where that are several. */
  emit(topic: string, id: string | null, touched?: Touched | readonly Touched[]): Promise<void>;
  /** Queues a job. One key is one job: a second enqueue with it moves the first. */
  enqueue(
    task: string,
    payload: Readonly<Record<string, unknown>>,
    job: { readonly key: string; readonly afterSeconds?: number },
  ): Promise<void>;
  /** Removes a queued job that has not started. */
  dequeue(key: string): Promise<void>;
}

export interface Working {
  readonly tx: Knex.Transaction;
  readonly now: Instant;
  readonly actor: Actor;
  readonly book: HouseBook;
}

export function makeWork({ tx, now, actor, book }: Working): Work {
  return {
    tx,
    now,
    actor,
    book,
    cause: null,
    async emit(topic, id, touched = {}) {
      await writeLive(tx, this, { topic, id, touched: Array.isArray(touched) ? touched : [touched as Touched] });
    },
    async tell(type, id, data) {
      const event = await writeEvent(tx, this, { type, id, data });
      await handleEvent({ ...this, cause: event }, { type, id, data });
      return event;
    },
    async enqueue(task, payload, { key, afterSeconds = 0 }) {
      await tx.raw('select queue_job(?, ?::json, ?, ?)', [task, JSON.stringify(payload), Math.ceil(afterSeconds), key]);
    },
    async dequeue(key) {
      await tx.raw('select unqueue_job(?)', [key]);
    },
  };
}

/** The same work done under another name, as by a rule that a mail met. */
export function workAs(work: Work, actor: Actor): Work {
  return { ...work, actor };
}

/** PostgreSQL ended one of two that waited for each other, or that saw what the other changed. Nothing of it was stored. */
const CLASHED = /^40(P01|001)$/;
const MOST_TRIES = 4;

/**
 * Runs a command in one transaction; a refusal rolls all of it back and is returned. One that was ended because it
 * clashed with another is run again.
 */
export async function transact<T>(
  app: Pick<App, 'knex' | 'house'>,
  by: Pick<Working, 'now' | 'actor'>,
  command: (work: Work) => Promise<Outcome<T>>,
): Promise<Outcome<T>> {
  for (let tries = 1; ; tries++)
    try {
      return await once(app, by, command);
    } catch (fault) {
      const again = isStalePlan(fault) || CLASHED.test(String((fault as { code?: unknown }).code));
      if (tries === MOST_TRIES || !again) throw fault;
    }
}

async function once<T>(
  { knex, house }: Pick<App, 'knex' | 'house'>,
  by: Pick<Working, 'now' | 'actor'>,
  command: (work: Work) => Promise<Outcome<T>>,
): Promise<Outcome<T>> {
  try {
    return await knex.transaction(async (tx) => {
      await scopeTo(tx, by.actor.divisions);
      const outcome = await command(makeWork({ ...by, tx, book: house }));
      if (isRefusal(outcome)) throw new Refused(outcome);
      return outcome;
    });
  } catch (fault) {
    if (fault instanceof Refused) return fault.outcome as Outcome<T>;
    throw fault;
  }
}
