import { inject, Injectable } from '@angular/core';
import { from, type Observable } from 'rxjs';
import type { AnswerOf, BodyOf, ParamsOf, QueryOf, Route } from '@core/ground';
import { OnTheWay } from './on-the-way';
import { ProblemError, UNREACHABLE } from './problem';

type Part<K extends string, T> = T extends undefined ? { readonly [P in K]?: undefined } : { readonly [P in K]: T };
type ParamsPart<R extends Route> = keyof ParamsOf<R> extends never ? { readonly params?: undefined } : { readonly params: ParamsOf<R> };
type QueryPart<R extends Route> = QueryOf<R> extends undefined ? { readonly query?: undefined } : { readonly query?: Partial<QueryOf<R>> };

/** What a call needs: path parameters, query, body and, for what people edit, the version that was seen. */
export type Input<R extends Route> = ParamsPart<R> &
  QueryPart<R> &
  Part<'body', BodyOf<R>> & { readonly version?: number; readonly key?: string; readonly keepalive?: boolean };

/** The typed client of the API: one method for every route of the table. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly onTheWay = inject(OnTheWay);
  private csrf = '';

  setCsrf(csrf: string): void {
    this.csrf = csrf;
  }

  /**
   * Calls a route at once, listened to or not; fails with a ProblemError. Every command carries a key of its own, so a
   * retry is safe.
   */
  call<R extends Route>(route: R, input: Input<R>): Observable<AnswerOf<R>> {
    const sent = this.send(route, input);
    return from(route.method === 'GET' ? this.onTheWay.add(sent) : sent);
  }

  /** As call, with a file as the body. */
  upload<R extends Route>(route: R, input: Input<R>, file: Blob): Observable<AnswerOf<R>> {
    return from(this.send(route, input, file));
  }

  private async send<R extends Route>(route: R, input: Input<R>, file?: Blob): Promise<AnswerOf<R>> {
    const url = urlOf(route, input.params, input.query);
    const headers: Record<string, string> = { accept: 'application/json' };
    if (route.method !== 'GET') {
      headers['idempotency-key'] = input.key ?? crypto.randomUUID();
      headers['x-csrf-token'] = this.csrf;
      headers['content-type'] = file ? 'application/octet-stream' : 'application/json';
    }
    if (input.version !== undefined) headers['if-match'] = `"${input.version}"`;
    let response: Response;
    try {
      response = await fetch(url, {
        method: route.method,
        headers,
        credentials: 'same-origin',
        keepalive: input.keepalive ?? false,
        ...(file ? { body: file } : input.body === undefined ? {} : { body: JSON.stringify(input.body) }),
      });
    } catch {
      throw new ProblemError(UNREACHABLE);
    }
    const answer: unknown = await response.json().catch(() => ({
      type: 'about:blank',
      title: 'No answer',
      status: response.status,
      detail: `The server answered ${response.status} without saying why.`,
    }));
    if (!response.ok) throw new ProblemError(answer as ProblemError['problem']);
    return answer as AnswerOf<R>;
  }
}

export function urlOf(route: Route, params?: Readonly<Record<string, string>>, query?: object): string {
  const path = route.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params?.[name] ?? ''));
  const search = new URLSearchParams(
    Object.entries(query ?? {})
      .filter(([, v]) => v !== undefined && v !== null && v !== '')
      .map(([k, v]) => [k, String(v)]),
  );
  return `/api${path}${search.size ? `?${search}` : ''}`;
}
