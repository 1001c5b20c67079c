import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { catchError, map, of } from 'rxjs';
import { Outage } from './outage';
import { problemOf } from './problem';
import { Session } from './session';

/** Lets nobody past who isn't signed in; says so where the server can't be asked, and goes on when it can. */
export const signedIn: CanActivateFn = (_route, state) => {
  const [session, router, outage] = [inject(Session), inject(Router), inject(Outage)];
  if (session.current) return true;
  return session.load().pipe(
    map((is) => is || router.createUrlTree(['/enter'], { queryParams: { to: state.url } })),
    catchError((fault: unknown) => {
      outage.show(problemOf(fault), state.url);
      return of(false);
    }),
  );
};
