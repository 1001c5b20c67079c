import { raw, Router, type Request, type RequestHandler, type Response } from 'express';
import {
  type AnswerOf,
  type BodyOf,
  type Instant,
  isRefusal,
  type Outcome,
  type ParamsOf,
  type Reach,
  reachOf,
  type QueryOf,
  type Route,
} from '@core/ground';
import type { App } from './app';
import type { Db } from './database';
import { fingerprint, once, readKey } from './once';
import { problem, problemOf, sendProblem } from './problems';
import { readNumbers } from './named-records';
import { measuresOf, readInput } from './read-input';
import { shownTo } from './shown-to';
import { type Actor, byNobody } from './actor';
import { readScoped } from './scope';
import { transact, type Work } from './work';

/** A file as an answer. */
export interface FileAnswer {
  readonly bytes: Buffer;
  readonly name: string;
  readonly mediaType: string;
}

export interface Call<R extends Route> {
  readonly app: App;
  readonly params: ParamsOf<R>;
  readonly query: QueryOf<R>;
  readonly body: BodyOf<R>;
  readonly actor: Actor;
  readonly now: Instant;
  readonly db: Db;
  /** The version named in If-Match; there on versioned routes. */
  readonly version: number;
  /** For sign-in and out alone. */
  readonly req: Request;
  /** The bytes of the body; there on upload routes. */
  readonly upload: Buffer | undefined;
}

/** What a handler does before its transaction begins, while it holds no connection: hashing, reading what takes long. */
type Before = (call: Call<Route>) => Promise<Outcome<unknown>>;
const BEFORE = Symbol('before');

/** A command in two steps: what takes long comes first and outside any transaction; a refusal there ends it. */
export function prepared<R extends Route>(_route: R) {
  return <P extends object>(
    before: (call: Call<R>) => Promise<Outcome<P>>,
    run: (call: Call<R> & { readonly work: Work }, given: P) => Promise<Outcome<Answer<R>>>,
  ) => {
    const handler = (call: Call<R> & { readonly work: Work; readonly given?: unknown }) => run(call, call.given as P);
    return Object.assign(handler, { [BEFORE]: before });
  };
}

type Answer<R extends Route> = R extends { file: string } ? FileAnswer : AnswerOf<R>;
export type Handler<R extends Route> = R extends { method: 'GET' }
  ? (call: Call<R>) => Promise<Outcome<Answer<R>>>
  : (call: Call<R> & { readonly work: Work }) => Promise<Outcome<Answer<R>>>;

export type Handlers<T extends Readonly<Record<string, Route>>> = { readonly [K in keyof T]: Handler<T[K]> };

/** Binds one handler of a few lines to each route of a table. */
export function bindRoutes<T extends Readonly<Record<string, Route>>>(app: App, routes: T, handlers: Handlers<T>): Router {
  const router = Router();
  for (const [name, route] of Object.entries(routes)) {
    const handler = handlers[name as keyof T] as unknown as AnyHandler;
    const method = route.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
    router[method](route.path, serve(app, route, handler));
  }
  return router;
}

type AnyHandler = ((call: Call<Route> & { work?: Work; given?: unknown }) => Promise<Outcome<unknown>>) & { [BEFORE]?: Before };

function serve(app: App, route: Route, handler: AnyHandler): RequestHandler {
  const measures = measuresOf(route);
  return async (req, res) => {
    const reach = reachOn(app, route, req);
    const barred = bar(route, req, reach);
    if (barred) return sendProblem(res, barred);
    const actor = req.actor && actingAs(req.actor, reach);
    // Only of those who may is a file read at all.
    if (route.upload) await readBytes(req, res, route.upload);
    const params = await readNumbers(app.knex, req.params as Record<string, string>);
    if (isRefusal(params)) return sendProblem(res, problemOf(params));
    const input = readInput(route, { req, params, measures });
    if (isRefusal(input)) return sendProblem(res, problemOf(input));
    const call = {
      app,
      actor: actor ?? NOBODY,
      now: app.clock.now(),
      db: app.knex,
      version: input.version,
      req,
      params: params as never,
      query: input.query as never,
      body: input.body as never,
      upload: Buffer.isBuffer(req.body) ? req.body : undefined,
    };
    if (route.method === 'GET' || route.reads || route.ownTransactions)
      return answer(
        res,
        route,
        shownTo(route, call.actor, await readScoped(app.knex, call.actor.divisions, (db) => handler({ ...call, db }))),
      );
    const key = readKey(route, req);
    if (isRefusal(key)) return sendProblem(res, { ...problemOf(key), status: 400 });
    const given = await handler[BEFORE]?.(call);
    if (isRefusal(given)) return sendProblem(res, problemOf(given));
    const print = fingerprint(app.config.SESSION_SECRET, route, req);
    const outcome = await transact(app, { now: call.now, actor: call.actor }, async (work) =>
      once(work, { key, print, secret: route.secret === true }, () => handler({ ...call, db: work.tx, work, given })),
    );
    // What is set up holds from the answer on; other processes learn of it by the live event.
    if (route.permission === 'setup.edit' && !isRefusal(outcome)) await app.house.load(app.knex);
    return answer(res, route, shownTo(route, call.actor, outcome));
  };
}

/** @throws where the body is larger than allowed */
async function readBytes(req: Request, res: Response, limit: number): Promise<void> {
  const read = raw({ type: () => true, limit });
  await new Promise<void>((done, failed) => read(req, res, (fault?: unknown) => (fault ? failed(fault) : done())));
}

const NOBODY = byNobody('web');

/** Where whoever asks may do what the route does. */
function reachOn(app: App, route: Route, { access }: Request): Reach {
  const permission = route.permission === 'open' || route.permission === 'signed in' ? undefined : route.permission;
  return access ? reachOf(access, permission, app.house.divisionIds) : { is: 'nowhere' };
}

function actingAs(actor: Actor, reach: Reach): Actor {
  return reach.is === 'nowhere' ? actor : { ...actor, role: reach.role, divisions: reach.is === 'in some' ? reach.divisions : null };
}

function bar(route: Route, req: Request, reach: Reach) {
  const { actor, access } = req;
  if (route.permission === 'open') return undefined;
  if (!actor || !access)
    return problem({
      status: 401,
      type: 'not-signed-in',
      title: 'Not signed in',
      detail: 'Sign in, or send an API token as "Authorization: Bearer …".',
    });
  if (reach.is === 'nowhere')
    return problem({
      status: 403,
      type: 'not-allowed',
      title: 'Not allowed',
      detail:
        route.permission === 'signed in'
          ? 'You have no access role in any division.'
          : `This needs the permission ${route.permission}, which ${access.exceptions.length ? 'your access roles do' : `the access role ${access.role} does`} not hold.`,
    });
  if (route.method !== 'GET' && actor.via === 'web' && req.get('x-csrf-token') !== req.session?.csrf)
    return problem({
      status: 403,
      type: 'csrf',
      title: 'Page too old',
      detail: 'This page was opened under another session. Load it again.',
    });
  if (route.versioned && !/^"?\d{1,9}"?$/.test(req.get('if-match') ?? ''))
    return problem({
      status: 428,
      type: 'no-version',
      title: 'No version',
      detail: 'Name the version you saw in an If-Match header, such as If-Match: "3".',
    });
  return undefined;
}

function answer(res: Response, route: Route, outcome: Outcome<unknown>): void {
  if (isRefusal(outcome)) return sendProblem(res, problemOf(outcome));
  if (!route.file) return void res.json(outcome);
  const file = outcome as FileAnswer;
  res.type(file.mediaType);
  res.set('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`);
  res.send(file.bytes);
}
