import { createHash, randomBytes } from 'node:crypto';
import { at, type Db } from '../../app/database';
import type { Id, Instant } from '@core/ground';

const PREFIX = 'dl_';

export function hashToken(secret: string): Buffer {
  return createHash('sha256').update(secret).digest();
}

/** Makes a token with a person's rights. The secret is shown once; only its hash is kept. */
export async function createToken(
  db: Db,
  { personId, label, now }: { readonly personId: Id<'person'>; readonly label: string; readonly now: Instant },
): Promise<{ id: Id<'api_token'>; secret: string }> {
  const secret = PREFIX + randomBytes(24).toString('base64url');
  const [row] = await db('api_token')
    .insert({ person_id: personId, label, token_hash: hashToken(secret), created_at: at(now) })
    .returning('id');
  return { id: row!.id, secret };
}
