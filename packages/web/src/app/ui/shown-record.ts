import { inject, type Signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, filter, map, merge, type Observable, shareReplay, startWith, Subject, tap } from 'rxjs';
import { idsIn, type Interest } from '@core/ground';
import { Live } from '../shell/live';
import { type Loading, loading } from './loading';

export interface RecordToShow<T> {
  /** Its id, or the number that its address names it by. */
  readonly id: Signal<string>;
  readonly read: (id: string) => Observable<T>;
  /** What it is read anew for; its own id and those that stand in it are added. */
  readonly topics: readonly string[];
  /** The client all of whose records of these topics it shows. */
  readonly clientId?: (shown: T) => string;
  /** What else the page has read, such as lists under the record. */
  readonly beside?: () => unknown;
  /** What is done with it whenever it was read. */
  readonly take?: (record: T) => void;
}

/** The record that a page shows: read by its address, and anew when something that it shows changes. */
export interface ShownRecord<T> {
  readonly state$: Observable<Loading<T>>;
  readonly record$: Observable<T>;
  readonly again: () => void;
}

/** Called where injection is possible. */
export function showRecord<T>({ id, read, topics, clientId, beside, take }: RecordToShow<T>): ShownRecord<T> {
  const again = new Subject<void>();
  let shown: T | undefined;
  const interest = (): Interest => ({
    topics,
    records: idsIn([id(), shown, beside?.()]),
    clientId: shown && clientId ? clientId(shown) : null,
  });
  const changed$ = merge(inject(Live).touching(interest), again).pipe(startWith(undefined));
  const which$ = combineLatest([toObservable(id), changed$]).pipe(map(([which]) => which));
  const state$ = loading(which$, read).pipe(
    tap((now) => {
      if (now.is !== 'there') return;
      shown = now.value;
      take?.(now.value);
    }),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  const record$ = state$.pipe(
    filter((now) => now.is === 'there'),
    map((now) => now.value),
  );
  return { state$, record$, again: () => again.next() };
}
