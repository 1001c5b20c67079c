import argon2 from 'argon2';

/** argon2id with the parameters that OWASP names as the least: 19 MiB, 2 passes, 1 lane. */
const COST = { type: argon2.argon2id, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

export function hashPassword(password: string): Promise<string> {
  return argon2.hash(password, COST);
}

/** Takes as long for an unknown person as for a known one. */
export async function checkPassword(hash: string | undefined, password: string): Promise<boolean> {
  return (await argon2.verify(hash ?? (await decoy()), password)) && hash !== undefined;
}

let decoyHash: Promise<string> | undefined;
function decoy(): Promise<string> {
  return (decoyHash ??= hashPassword('no person has this'));
}
