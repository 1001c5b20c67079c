import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, catchError, map, of, tap, type Observable } from 'rxjs';
import { accessRoutes, type MeWire } from '@core/house';
import type { Permission, Zone } from '@core/ground';
import { Api } from './api';
import { problemOf } from './problem';

/** Who is signed in, what they may do, and what time the server has. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly me = new BehaviorSubject<MeWire | undefined>(undefined);
  private ahead = 0;
  readonly me$ = this.me.asObservable();

  get current(): MeWire | undefined {
    return this.me.value;
  }

  get zone(): Zone {
    return (this.me.value?.zone ?? 'UTC') as Zone;
  }

  /** Asks the server; answers whether somebody is signed in. Fails where the server can't be asked. */
  load(): Observable<boolean> {
    return this.api.call(accessRoutes.getSession, {}).pipe(
      tap((me) => {
        this.api.setCsrf(me.csrf);
        this.ahead = Date.parse(me.now) - Date.now();
        this.me.next(me);
      }),
      map(() => true),
      catchError((fault: unknown) => {
        if (problemOf(fault).status !== 401) throw fault;
        this.me.next(undefined);
        return of(false);
      }),
    );
  }

  may(permission: Permission): boolean {
    return this.me.value?.permissions.includes(permission) ?? false;
  }

  /** The server's time in epoch milliseconds; the demo's differs from the machine's. */
  now(): number {
    return Date.now() + this.ahead;
  }

  forget(): void {
    this.me.next(undefined);
  }
}
