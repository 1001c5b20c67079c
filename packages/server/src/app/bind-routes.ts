import { createHmac } from 'node:crypto';
import { raw, Router, type Request, type RequestHandler, type Response } from 'express';
import { ValidationError, type AnySchema } from 'yup';
import { holds } from '@core/permissions';
import { isRefusal, refuse, type Outcome, type Refusal } from '@core/outcome';
import {
  measureInput,
  measureOf,
  MOST_FAULTS,
  type AnswerOf,
  type BodyOf,
  type Measure,
  type ParamsOf,
  type QueryOf,
  type Route,
} from '@core/routes';
import { isStorableText } from '@core/text';
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
    const actor = req.actor;
    const barred = bar(route, actor, req);
    if (barred) return sendProblem(res, barred);
    // Only of those who may is a file read at all.
    if (route.upload) await readBytes(req, res, route.upload);
    const input = readInput(route, req, measures);
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
    if (route.method === 'GET' || route.reads || route.ownTransactions)
      return answer(res, route, shownTo(route, call.actor, await handler(call)));
    const key = readKey(route, req);
    if (isRefusal(key)) return sendProblem(res, { ...problemOf(key), status: 400 });
    const given = await handler[BEFORE]?.(call as never);
    if (isRefusal(given)) return sendProblem(res, problemOf(given));
    const print = fingerprint(app.config.SESSION_SECRET, route, req);
    const outcome = await transact(app.knex, call.now, call.actor, async (work) =>
      once(work, { key, print, secret: route.secret === true }, () => handler({ ...call, db: work.tx, work, given })),
    );
    // What is set up holds from the answer on; other processes learn of it by the live event.
    if (route.permission === 'setup.edit' && !isRefusal(outcome)) await app.house.load(app.knex);
    return answer(res, route, shownTo(route, call.actor, outcome));
  };
}

const MOST_KEY = 200;

/** The key of a command. One that needs no sign-in has none: nobody may see what another did under theirs. */
function readKey(route: Route, req: Request): Outcome<string | undefined> {
  if (route.permission === 'open') return undefined;
  const key = req.get('idempotency-key') ?? '';
  if (!key || key.length > MOST_KEY)
    return refuse(
      'invalid',
      `Every command needs an Idempotency-Key header: any text of up to ${MOST_KEY} characters that is new for each command; ${key.length} were given.`,
    );
  return key;
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
  if (route.versioned && !/^"?\d{1,9}"?$/.test(req.get('if-match') ?? ''))
    return problem(428, 'no-version', 'No version', 'Name the version you saw in an If-Match header, such as If-Match: "3".');
  return undefined;
}

interface Input {
  readonly query: unknown;
  readonly body: unknown;
  readonly version: number;
}

interface Measures {
  readonly query: Measure;
  readonly body: Measure;
}

const EMPTY: Measure = { is: 'record', fields: {} };

function measuresOf(route: Route): Measures {
  return {
    query: route.query ? measureOf(route.query, `${route.name}: query`) : EMPTY,
    body: route.body ? measureOf(route.body, `${route.name}: body`) : EMPTY,
  };
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
const MOST_PARAM = 200;

/** Sizes and names first; only what fits is checked against the schemas. */
function readInput(route: Route, req: Request, measures: Measures): Outcome<Input> {
  const body = Buffer.isBuffer(req.body) ? undefined : (req.body as unknown);
  const fields: Record<string, string> = { ...measureInput(measures.query, req.query), ...measureInput(measures.body, body) };
  for (const [name, value] of Object.entries(req.params)) {
    const text = String(value);
    if (name.endsWith('Id') && name !== 'jobId' ? !UUID.test(text) : text.length > MOST_PARAM || !isStorableText(text))
      fields[name] = name.endsWith('Id') ? 'an id such as 3f6c…' : `text of at most ${MOST_PARAM} characters`;
  }
  const read = (schema: AnySchema | undefined, given: unknown) => {
    if (!schema || Object.keys(fields).length) return undefined;
    const checked = check(schema, given ?? {});
    if ('value' in checked) return checked.value;
    Object.assign(fields, checked.faults);
    return undefined;
  };
  const query = read(route.query, req.query);
  const checkedBody = read(route.body, body);
  if (Object.keys(fields).length)
    return refuse(
      'invalid',
      `Not right: ${Object.entries(fields)
        .slice(0, MOST_FAULTS)
        .map(([path, what]) => `${path} (${what})`)
        .join('; ')}.`,
      fields,
    );
  return { query, body: checkedBody, version: Number((req.get('if-match') ?? '').replaceAll('"', '')) };
}

/** Stops at the first fault; only then, and only for as much as people mend at once, all faults are looked for. */
function check(schema: AnySchema, given: unknown): { value: unknown } | { faults: Record<string, string> } {
  try {
    return { value: schema.validateSync(given, { abortEarly: true, stripUnknown: true }) as unknown };
  } catch (fault) {
    if (!(fault instanceof ValidationError)) throw fault;
    const faults: Record<string, string> = {};
    const all = faultsOf(schema, shortened(given));
    for (const e of (all.length ? all : [fault]).slice(0, MOST_FAULTS)) faults[e.path || 'body'] ??= e.errors[0] ?? 'not right';
    return { faults };
  }
}

function faultsOf(schema: AnySchema, given: unknown): ValidationError[] {
  try {
    schema.validateSync(given, { abortEarly: false, stripUnknown: true });
    return [];
  } catch (fault) {
    if (!(fault instanceof ValidationError)) throw fault;
    return fault.inner.length ? fault.inner : [fault];
  }
}

/** The same with lists cut to as many items as there may be faults. */
function shortened(given: unknown): unknown {
  if (Array.isArray(given)) return given.slice(0, MOST_FAULTS).map(shortened);
  if (typeof given !== 'object' || given === null) return given;
  return Object.fromEntries(Object.entries(given).map(([name, value]) => [name, shortened(value)]));
}

/** Keyed, as what is asked may hold a secret. */
function fingerprint(secret: string, route: Route, req: Request): string {
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

interface Named {
  readonly key: string | undefined;
  readonly print: string;
  /** Its answer holds a secret, which is shown once and kept nowhere. */
  readonly secret: boolean;
}

/**
 * Carries a command out once for each actor and key: the same key again gives the first answer. The key is
 * taken in the command's own transaction, so a second caller waits for the first and sees what came of it.
 */
async function once(work: Work, { key, print, secret }: Named, run: () => Promise<Outcome<unknown>>): Promise<Outcome<unknown>> {
  if (!key) return run();
  const actor = work.actor.personId ?? 'nobody';
  const [taken] = await work
    .tx('idempotency_key')
    .insert({ actor, key, request_hash: print })
    .onConflict(['actor', 'key'])
    .ignore()
    .returning('key');
  if (!taken) {
    const [first] = await work.tx('idempotency_key').where({ actor, key });
    if (first.request_hash !== print) return refuse('already-used', 'This Idempotency-Key was used for another command. Take a new one.');
    if (first.answer === null && secret)
      return refuse('already-used', 'This was carried out already, and what it made was shown then; it is kept nowhere. Make another.');
    return first.answer as unknown;
  }
  const outcome = await run();
  if (!isRefusal(outcome) && !secret)
    await work
      .tx('idempotency_key')
      .where({ actor, key })
      .update({ answer: JSON.stringify(outcome) });
  return outcome;
}

/** An answer without the fields that its reader may not see. */
function shownTo(route: Route, { role }: Actor, outcome: Outcome<unknown>): Outcome<unknown> {
  const hidden = (route.hides ?? []).filter(({ needs }) => !(role && holds(role, needs)));
  return isRefusal(outcome) ? outcome : hidden.reduce<unknown>((shown, { path }) => without(shown, path.split('.')), outcome);
}

function without(value: unknown, [name, ...rest]: readonly string[]): unknown {
  if (typeof value !== 'object' || value === null || name === undefined) return value;
  if (name === '*') return (value as unknown[]).map((each) => without(each, rest));
  const { [name]: inner, ...others } = value as Record<string, unknown>;
  return rest.length && inner !== undefined ? { ...others, [name]: without(inner, rest) } : others;
}

function answer(res: Response, route: Route, outcome: Outcome<unknown>): void {
  if (isRefusal(outcome)) return sendProblem(res, problemOf(outcome as Refusal));
  if (!route.file) return void res.json(outcome);
  const file = outcome as unknown as FileAnswer;
  res.type(file.mediaType);
  res.set('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`);
  res.send(file.bytes);
}
