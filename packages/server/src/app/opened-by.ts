import type { Request } from 'express';
import { type Access, type AccessRole, type Id, reachOf } from '@core/ground';
import { EXCEPTIONS } from '../house/access/identify';
import type { Db } from './database';

/** What somebody opened a stream by: it ends when that does. */
export interface OpenedBy {
  readonly personId: Id<'person'>;
  /** What it may do in the divisions that it sees. */
  readonly role: AccessRole | null;
  /** Everything that it may, said as one text. */
  readonly access: string;
  /** The divisions it sees; null is all of them. */
  readonly divisions: readonly string[] | null;
  readonly sessionId: string | null;
  readonly tokenId: Id<'api_token'> | null;
}

export function openedBy(req: Request, divisionIds: readonly Id<'division'>[]): OpenedBy {
  const { personId, tokenId = null } = req.actor!;
  const reach = reachOf(req.access!, undefined, divisionIds);
  const divisions = reach.is === 'everywhere' ? null : reach.is === 'nowhere' ? [] : reach.divisions;
  return {
    personId: personId!,
    role: reach.is === 'nowhere' ? null : reach.role,
    access: textOf(req.access!),
    divisions,
    tokenId,
    sessionId: tokenId ? null : (req.sessionID ?? null),
  };
}

/** Whether the session or token still stands, and its person is there with the same access. */
export async function isGood(db: Db, by: OpenedBy): Promise<boolean> {
  const person = await db('person as p').where({ id: by.personId, active: true }).first('role', db.raw(EXCEPTIONS));
  if (!person || textOf(person) !== by.access) return false;
  if (by.tokenId) return Boolean(await db('api_token').where({ id: by.tokenId }).whereNull('revoked_at').first('id'));
  return Boolean(await db('session').where({ sid: by.sessionId! }).whereRaw('expire > now()').first('sid'));
}

function textOf({ role, exceptions }: Access): string {
  return [role, ...exceptions.map((e) => `${e.divisionId} ${e.role}`).sort()].join(', ');
}
