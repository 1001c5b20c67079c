import type { EnvironmentProviders, Provider } from '@angular/core';
import { provideRouter } from '@angular/router';
import { EMPTY, isObservable, of, throwError, type Observable } from 'rxjs';
import type { MeWire } from '@core/house';
import { Api } from '../src/app/shell/api';
import { Live } from '../src/app/shell/live';
import { ProblemError } from '../src/app/shell/problem';
import { Session } from '../src/app/shell/session';

export interface Call {
  readonly name: string;
  readonly input: { readonly body?: unknown; readonly query?: unknown; readonly params?: unknown; readonly version?: number };
}

/** A server's answers by the name of the route, for what a component shows and asks; whoever is asked for and missing fails the test. */
export class Answering {
  readonly calls: Call[] = [];

  constructor(private readonly answers: Readonly<Record<string, unknown>>) {}

  /** What was asked of a route, the newest last. */
  of(name: string): Call['input'][] {
    return this.calls.filter((c) => c.name === name).map((c) => c.input);
  }

  providers(me: Partial<MeWire> = {}): (Provider | EnvironmentProviders)[] {
    const call = (route: { readonly name: string }, input: Call['input']): Observable<unknown> => {
      this.calls.push({ name: route.name, input });
      const answer = this.answers[route.name];
      if (answer instanceof ProblemError) return throwError(() => answer);
      if (isObservable(answer)) return answer;
      if (answer === undefined) throw new Error(`${route.name} was asked for and has no answer here`);
      return of(typeof answer === 'function' ? (answer as (input: Call['input']) => unknown)(input) : answer);
    };
    const current = {
      person: { id: 'sora', name: 'Sora Minegishi', role: 'technician', gradeId: 'engineer', grade: 'engineer', technician: true },
      ...me,
    };
    const session = {
      current,
      zone: 'Europe/Dublin',
      may: (permission: string) => (me.permissions ?? []).includes(permission as never),
      now: () => Date.parse('2026-11-24T10:40:00Z'),
    };
    return [
      provideRouter([]),
      { provide: Api, useValue: { call, upload: call } },
      { provide: Live, useValue: { about: () => EMPTY, mine: () => EMPTY, of: () => EMPTY, touching: () => EMPTY } },
      { provide: Session, useValue: session },
    ];
  }
}

/** A refusal as the server answers it. */
export function refusal(status: number, detail: string, fields?: Readonly<Record<string, string>>): ProblemError {
  return new ProblemError({ type: '', title: 'Refused', status, detail, ...(fields ? { fields } : {}) });
}

/** Waits until what was asked for, and what waits a moment before asking, has arrived. */
export const settle = (ms = 320) => new Promise((done) => setTimeout(done, ms));
