import type { Request } from 'express';
import type { Db } from './database';

/** What somebody opened a stream by: it ends when that does. */
export interface OpenedBy {
  readonly personId: string;
  readonly role: string | null;
  readonly sessionId: string | null;
  readonly tokenId: string | null;
}

export function openedBy(req: Request): OpenedBy {
  const { personId, role, tokenId = null } = req.actor!;
  return { personId: personId!, role, tokenId, sessionId: tokenId ? null : (req.sessionID ?? null) };
}

/** Whether the session or token still stands, and its person is there with the same role. */
export async function isGood(db: Db, by: OpenedBy): Promise<boolean> {
  const person = await db('person').where({ id: by.personId, active: true }).first('role');
  if (person?.role !== by.role) return false;
  if (by.tokenId) return Boolean(await db('api_token').where({ id: by.tokenId }).whereNull('revoked_at').first('id'));
  return Boolean(await db('session').where({ sid: by.sessionId }).whereRaw('expire > now()').first('sid'));
}
