import { randomBytes } from 'node:crypto';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import type { Access, AccessRole, Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { type Actor, byPerson } from '../../app/actor';
import { hashToken } from './tokens';

declare module 'express-session' {
  interface SessionData {
    /** Who is signed in. */
    who: { readonly is: 'person'; readonly id: Id<'person'> };
    csrf: string;
  }
}
declare global {
  // eslint-disable-next-line @typescript-eslint/no-namespace
  namespace Express {
    interface Request {
      actor?: Actor;
      /** What whoever asks may, and where. */
      access?: Access;
    }
  }
}

/** Finds out who asks: by API token, else by session. */
export function identify(app: App): RequestHandler {
  return async (req: Request, _res: Response, next: NextFunction) => {
    const bearer = /^Bearer (dl_\S+)$/.exec(req.get('authorization') ?? '')?.[1];
    const person = bearer ? await personOfToken(app, bearer) : await personById(app, req.session?.who?.id);
    if (person) {
      req.actor = byPerson(person, bearer ? 'api' : 'web', person.tokenId);
      req.access = { role: person.role, exceptions: person.exceptions };
    }
    next();
  };
}

interface PersonRow {
  readonly id: Id<'person'>;
  readonly name: string;
  readonly role: AccessRole;
  readonly exceptions: Access['exceptions'];
}

/** Where the role of a person `p` is another than everywhere else. */
export const EXCEPTIONS = `(select coalesce(json_agg(json_build_object('divisionId', a.division_id, 'role', a.role)), '[]') from person_access a where a.person_id = p.id) as exceptions`;

async function personById(app: App, id: Id<'person'> | undefined): Promise<(PersonRow & { tokenId?: undefined }) | undefined> {
  return id
    ? app.knex('person as p').where({ 'p.id': id, 'p.active': true }).first('p.id', 'p.name', 'p.role', app.knex.raw(EXCEPTIONS))
    : undefined;
}

/** When a token was used last is written down once a minute: every read would else be a write. */
const USED_SECONDS = 60;

async function personOfToken(app: App, secret: string): Promise<(PersonRow & { tokenId: Id<'api_token'> }) | undefined> {
  const found = await app
    .knex('api_token as k')
    .join('person as p', 'p.id', 'k.person_id')
    .where({ 'k.token_hash': hashToken(secret), 'p.active': true })
    .whereNull('k.revoked_at')
    .first('p.id', 'p.name', 'p.role', 'k.id as tokenId', 'k.last_used_at', app.knex.raw(EXCEPTIONS));
  if (!found) return undefined;
  const { last_used_at: used, ...person } = found;
  const now = app.clock.now();
  if (used === null || now - used >= USED_SECONDS)
    await app
      .knex('api_token')
      .where({ id: person.tokenId })
      .update({ last_used_at: at(now) });
  return person;
}

/** Begins a session under a new id, so that one set before signing in is worth nothing. */
export async function beginSession(req: Request, personId: Id<'person'>): Promise<void> {
  await new Promise<void>((resolve, reject) => req.session.regenerate((fault) => (fault ? reject(fault) : resolve())));
  req.session.who = { is: 'person', id: personId };
  req.session.csrf = randomBytes(18).toString('base64url');
  await new Promise<void>((resolve, reject) => req.session.save((fault) => (fault ? reject(fault) : resolve())));
}

export function endSession(req: Request): Promise<void> {
  return new Promise((resolve, reject) => (req.session ? req.session.destroy((fault) => (fault ? reject(fault) : resolve())) : resolve()));
}
