import { DOCUMENT } from '@angular/common';
import { inject, Injectable } from '@angular/core';
import { catchError, EMPTY, exhaustMap, filter, fromEvent, merge, throttleTime } from 'rxjs';
import { timeRoutes } from '@core/time';
import { Api } from './api';
import { Session } from './session';

const MINUTE_MS = 60_000;

/** Tells, once a minute at most and only while somebody types or points, that this minute was worked here. */
@Injectable({ providedIn: 'root' })
export class Here {
  constructor() {
    const [document, api, session] = [inject(DOCUMENT), inject(Api), inject(Session)];
    merge(fromEvent(document, 'keydown'), fromEvent(document, 'pointerdown'), fromEvent(document, 'pointermove'))
      .pipe(
        filter(() => session.may('time.own')),
        throttleTime(MINUTE_MS),
        // A minute that cannot be told is not worth a word.
        exhaustMap(() => api.call(timeRoutes.beHere, {}).pipe(catchError(() => EMPTY))),
      )
      .subscribe();
  }
}
