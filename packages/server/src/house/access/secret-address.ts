import { createHash, createHmac, randomBytes } from 'node:crypto';
import type { App } from '../../app/app';

/** What a secret address opens. */
export type Purpose = 'schedule' | 'follow' | 'openings' | 'password';

/** A secret address as it is kept: what is in the database opens nothing without the server's own secret. */
export interface KeptSecret {
  readonly nonce: string;
  readonly token_hash: Buffer;
}

/** 192 bits, so that nobody finds another's by trying. */
const TOKEN_BYTES = 24;
const TOKEN = /^[A-Za-z0-9_-]{32}$/;

/** Makes a secret: kept as its hash, and written anew from its nonce whenever its address is. */
export function makeSecret(app: Pick<App, 'config'>, purpose: Purpose): KeptSecret {
  const nonce = randomBytes(18).toString('base64url');
  return { nonce, token_hash: hashSecret(tokenOf(app, purpose, nonce)) };
}

/** What stands in the address. */
export function tokenOf(app: Pick<App, 'config'>, purpose: Purpose, nonce: string): string {
  return createHmac('sha256', app.config.SESSION_SECRET)
    .update(`${purpose} ${nonce}`)
    .digest()
    .subarray(0, TOKEN_BYTES)
    .toString('base64url');
}

export function hashSecret(token: string): Buffer {
  return createHash('sha256').update(token).digest();
}

/** Whether a text can be such a secret at all. */
export function isSecret(token: string): boolean {
  return TOKEN.test(token);
}
