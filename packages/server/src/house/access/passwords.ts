import argon2 from 'argon2';
import { inTurn } from './in-turn';

/** argon2id with the parameters that OWASP names as the least: 19 MiB, 2 passes, 1 lane. */
const COST = { type: argon2.argon2id, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

/** Hashing takes a core for a while: a few at a time, so that those at work are never without one. */
const turns = inTurn({ atOnce: 2, mostWaiting: 60 });

/** @throws TooManyWait */
export function hashPassword(password: string): Promise<string> {
  return turns(() => argon2.hash(password, COST));
}

/** Takes as long for an unknown person as for a known one. @throws TooManyWait */
export async function checkPassword(hash: string | undefined, password: string): Promise<boolean> {
  const kept = hash ?? (await decoy());
  return (await turns(() => argon2.verify(kept, password))) && hash !== undefined;
}

let decoyHash: Promise<string> | undefined;
function decoy(): Promise<string> {
  return (decoyHash ??= argon2.hash('no person has this', COST));
}
