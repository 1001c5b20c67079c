import { createHash } from 'node:crypto';
import { raw, Router, type Request, type RequestHandler, type Response } from 'express';
import { ValidationError, type AnySchema } from 'yup';
import { holds } from '@core/permissions';
import { isRefusal, refuse, type Outcome, type Refusal } from '@core/outcome';
import type { AnswerOf, BodyOf, ParamsOf, QueryOf, Route } from '@core/routes';
import type { Instant } from '@core/time';
import type { App } from './app';
import type { Db } from './database';
import { problem, problemOf, sendProblem } from './problems';
import { transact, type Actor, type Work } from './work';

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

type AnyHandler = (call: Call<Route> & { work?: Work }) => Promise<Outcome<unknown>>;

function serve(app: App, route: Route, handler: AnyHandler): RequestHandler {
  return async (req, res) => {
    const actor = req.actor;
    const barred = bar(route, actor, req);
    if (barred) return sendProblem(res, barred);
    // Only of those who may is a file read at all.
    if (route.upload) await readBytes(req, res, route.upload);
    const input = readInput(route, req);
    if (isRefusal(input)) return sendProblem(res, problemOf(input));
    const call = {
      app,
      actor: actor ?? NOBODY,
      now: app.clock.now(),
      db: app.knex,
      version: input.version,
      req,
      params: req.params as never,
      query: input.query as never,
      body: input.body as never,
      upload: Buffer.isBuffer(req.body) ? req.body : undefined,
    };
    if (route.method === 'GET' || route.reads) return answer(res, route, await handler(call));
    const key = req.get('idempotency-key');
    if (!key && route.permission !== 'open')
      return sendProblem(
        res,
        problem(
          400,
          'no-idempotency-key',
          'No Idempotency-Key',
          'Every command needs an Idempotency-Key header: any text of up to 200 characters that is new for each command.',
        ),
      );
    const outcome = await transact(app.knex, call.now, call.actor, async (work) =>
      once(work, key, fingerprint(route, req), () => handler({ ...call, db: work.tx, work })),
    );
    // What is set up holds from the answer on; other processes learn of it by the live event.
    if (route.permission === 'setup.edit' && !isRefusal(outcome)) await app.house.load(app.knex);
    return answer(res, route, outcome);
  };
}

/** @throws where the body is larger than allowed */
async function readBytes(req: Request, res: Response, limit: number): Promise<void> {
  const read = raw({ type: () => true, limit });
  await new Promise<void>((done, failed) => read(req, res, (fault?: unknown) => (fault ? failed(fault) : done())));
}

const NOBODY: Actor = { personId: null, name: 'nobody', role: null, via: 'web' };

function bar(route: Route, actor: Actor | undefined, req: Request) {
  if (route.permission === 'open') return undefined;
  if (!actor) return problem(401, 'not-signed-in', 'Not signed in', 'Sign in, or send an API token as "Authorization: Bearer …".');
  if (route.permission !== 'signed in' && !(actor.role && holds(actor.role, route.permission)))
    return problem(
      403,
      'not-allowed',
      'Not allowed',
      `This needs the permission ${route.permission}, which the access role ${actor.role} does not hold.`,
    );
  if (route.method !== 'GET' && actor.via === 'web' && req.get('x-csrf-token') !== req.session?.csrf)
    return problem(403, 'csrf', 'Page too old', 'This page was opened under another session. Load it again.');
  if (route.versioned && !/^"?\d+"?$/.test(req.get('if-match') ?? ''))
    return problem(428, 'no-version', 'No version', 'Name the version you saw in an If-Match header, such as If-Match: "3".');
  return undefined;
}

interface Input {
  readonly query: unknown;
  readonly body: unknown;
  readonly version: number;
}

function readInput(route: Route, req: Request): Outcome<Input> {
  const fields: Record<string, string> = {};
  const read = (schema: AnySchema | undefined, given: unknown) => {
    if (!schema) return undefined;
    try {
      return schema.validateSync(given ?? {}, { abortEarly: false, stripUnknown: true }) as unknown;
    } catch (fault) {
      if (!(fault instanceof ValidationError)) throw fault;
      for (const e of fault.inner.length ? fault.inner : [fault]) fields[e.path || 'body'] ??= e.errors[0] ?? 'not right';
      return undefined;
    }
  };
  const query = read(route.query, req.query);
  const body = read(route.body, req.body);
  for (const [name, value] of Object.entries(req.params))
    if (name.endsWith('Id') && name !== 'jobId' && !/^[0-9a-f-]{36}$/.test(String(value))) fields[name] = 'an id such as 3f6c…';
  if (Object.keys(fields).length)
    return refuse(
      'invalid',
      `Not right: ${Object.entries(fields)
        .map(([path, what]) => `${path} (${what})`)
        .join('; ')}.`,
      fields,
    );
  return { query, body, version: Number((req.get('if-match') ?? '').replaceAll('"', '')) };
}

function fingerprint(route: Route, req: Request): string {
  return createHash('sha256')
    .update(JSON.stringify([route.name, req.params, Buffer.isBuffer(req.body) ? null : (req.body ?? null), req.get('if-match') ?? null]))
    .update(Buffer.isBuffer(req.body) ? req.body : '')
    .digest('hex');
}

/**
 * Carries a command out once for each actor and key: the same key again gives the first answer. The key is
 * taken in the command's own transaction, so a second caller waits for the first and sees what came of it.
 */
async function once(work: Work, key: string | undefined, hash: string, run: () => Promise<Outcome<unknown>>): Promise<Outcome<unknown>> {
  if (!key) return run();
  const actor = work.actor.personId ?? 'nobody';
  const [taken] = await work
    .tx('idempotency_key')
    .insert({ actor, key: key.slice(0, 200), request_hash: hash })
    .onConflict(['actor', 'key'])
    .ignore()
    .returning('key');
  if (!taken) {
    const [first] = await work.tx('idempotency_key').where({ actor, key: key.slice(0, 200) });
    if (first.request_hash !== hash) return refuse('already-used', 'This Idempotency-Key was used for another command. Take a new one.');
    return first.answer as unknown;
  }
  const outcome = await run();
  if (!isRefusal(outcome))
    await work
      .tx('idempotency_key')
      .where({ actor, key: key.slice(0, 200) })
      .update({ answer: JSON.stringify(outcome) });
  return outcome;
}

function answer(res: Response, route: Route, outcome: Outcome<unknown>): void {
  if (isRefusal(outcome)) return sendProblem(res, problemOf(outcome as Refusal));
  if (!route.file) return void res.json(outcome);
  const file = outcome as unknown as FileAnswer;
  res.type(file.mediaType);
  res.set('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`);
  res.send(file.bytes);
}
