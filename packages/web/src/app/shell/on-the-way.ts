import { Injectable } from '@angular/core';
import { BehaviorSubject, distinctUntilChanged, filter, map, switchMap, take, timer, type Observable } from 'rxjs';

/** What is shown by one answer may ask for more as soon as it is drawn. */
const DRAWN_MS = 40;

/** What a page still waits for: answers of the server, and parts of the application not loaded yet. */
@Injectable({ providedIn: 'root' })
export class OnTheWay {
  private readonly waiting = new BehaviorSubject(0);

  /** Counts a promise until it ends, well or badly. */
  add<T>(promise: Promise<T>): Promise<T> {
    const done = () => this.waiting.next(this.waiting.value - 1);
    this.waiting.next(this.waiting.value + 1);
    promise.then(done, done);
    return promise;
  }

  /** Says once that nothing is on its way, and that what came asked for no more. */
  readonly settled$: Observable<void> = this.waiting.pipe(
    map((n) => n === 0),
    distinctUntilChanged(),
    switchMap((none) => timer(DRAWN_MS).pipe(map(() => none))),
    filter((none) => none),
    take(1),
    map(() => undefined),
  );
}
