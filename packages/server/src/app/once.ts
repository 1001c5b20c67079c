import { createHmac } from 'node:crypto';
import type { Request } from 'express';
import { isRefusal, type Outcome, refuse, type Route } from '@core/ground';
import { keyOf } from './actor';
import type { Work } from './work';

const MOST_KEY = 200;

/** The key of a command. One that needs no sign-in has none: nobody may see what another did under theirs. */
export function readKey(route: Route, req: Request): Outcome<string | undefined> {
  if (route.permission === 'open') return undefined;
  const key = req.get('idempotency-key') ?? '';
  if (!key || key.length > MOST_KEY)
    return refuse(
      'invalid',
      `Every command needs an Idempotency-Key header: any text of up to ${MOST_KEY} characters that is new for each command; ${key.length} were given.`,
    );
  return key;
}

/** Keyed, as what is asked may hold a secret. */
export function fingerprint(secret: string, route: Route, req: Request): string {
  return createHmac('sha256', secret)
    .update(
      JSON.stringify([
        route.name,
        req.params,
        req.query,
        Buffer.isBuffer(req.body) ? null : (req.body ?? null),
        req.get('if-match') ?? null,
      ]),
    )
    .update(Buffer.isBuffer(req.body) ? req.body : '')
    .digest('hex');
}

export interface Named {
  readonly key: string | undefined;
  readonly print: string;
  /** Its answer holds a secret, which is shown once and kept nowhere. */
  readonly secret: boolean;
}

/**
 * Carries a command out once for each actor and key: the same key again gives the first answer. The key is
 * taken in the command's own transaction, so a second caller waits for the first and sees what came of it.
 */
export async function once(work: Work, { key, print, secret }: Named, run: () => Promise<Outcome<unknown>>): Promise<Outcome<unknown>> {
  if (!key) return run();
  const actor = keyOf(work.actor);
  const [taken] = await work
    .tx('idempotency_key')
    .insert({ actor, key, request_hash: print })
    .onConflict(['actor', 'key'])
    .ignore()
    .returning('key');
  if (!taken) {
    const [first] = await work.tx('idempotency_key').where({ actor, key });
    if (first!.request_hash !== print) return refuse('already-used', 'This Idempotency-Key was used for another command. Take a new one.');
    if (first!.answer === null && secret)
      return refuse('already-used', 'This was carried out already, and what it made was shown then; it is kept nowhere. Make another.');
    return first!.answer as unknown;
  }
  const outcome = await run();
  if (!isRefusal(outcome) && !secret)
    await work
      .tx('idempotency_key')
      .where({ actor, key })
      .update({ answer: JSON.stringify(outcome) });
  return outcome;
}
