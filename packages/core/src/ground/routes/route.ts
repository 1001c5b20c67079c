import type { AnySchema, InferType } from 'yup';
import type { Id, ParamIds } from '../ids';
import type { Permission } from '../permissions';

/**
 * One route of the API as data. From it come the router, the OpenAPI document, the permission tests and the
 * web's typed client. Every route that is not a GET is a command: it takes an Idempotency-Key.
 */
export interface Route {
  readonly name: string;
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** Path below /api with parameters as ":name". */
  readonly path: string;
  readonly summary: string;
  /** 'open' needs no sign-in; 'signed in' needs any person. */
  readonly permission: Permission | 'open' | 'signed in';
  /** The row has a version: the caller names the one it saw in If-Match. */
  readonly versioned?: boolean;
  /** Not a GET, yet nothing is stored: it needs no key and runs outside a transaction. */
  readonly reads?: boolean;
  /** It opens its transactions itself, and none is open while it works: sign-in, which hashes. It takes no key. */
  readonly ownTransactions?: boolean;
  /** Its answer holds a secret: it is not kept for who asks again. */
  readonly secret?: boolean;
  /** Fields of the answer that only who holds a permission sees; of others they are not in the answer. A star is each of a list. */
  readonly hides?: readonly { readonly path: string; readonly needs: Permission }[];
  /** The answer is bytes of this media type and not JSON. */
  readonly file?: string;
  /** The body is a file of at most so many bytes, not JSON. */
  readonly upload?: number;
  readonly query?: AnySchema;
  readonly body?: AnySchema;
  readonly answer: AnySchema;
}

type Fields<S> = S extends AnySchema ? InferType<S> : undefined;
type ParamNames<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | ParamNames<`/${Rest}`>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;

export type ParamsOf<R extends Route> = {
  readonly [Name in ParamNames<R['path']>]: Name extends keyof ParamIds ? Id<ParamIds[Name]> : string;
};
export type QueryOf<R extends Route> = Fields<R['query']>;
export type BodyOf<R extends Route> = Fields<R['body']>;
export type AnswerOf<R extends Route> = InferType<R['answer']>;

/** Keeps the literal types of a table of routes. */
export function defineRoutes<const T extends Readonly<Record<string, Omit<Route, 'name'>>>>(
  table: T,
): { readonly [K in keyof T]: T[K] & { readonly name: K & string } } {
  return Object.fromEntries(Object.entries(table).map(([name, route]) => [name, { ...route, name }])) as never;
}
