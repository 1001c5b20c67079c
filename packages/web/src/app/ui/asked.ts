import { inject, signal, type Signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { Toasts } from '../shell/toasts';

/** What is read at a press. */
export interface Asked<T> {
  readonly busy: Signal<boolean>;
  readonly found: Signal<T | undefined>;
  readonly ask: () => void;
}

/** Reads something at a press, once at a time; what goes wrong is said, and what was found before stays. Called where injection is possible. */
export function askedFor<T>(read: () => Observable<T>): Asked<T> {
  const toasts = inject(Toasts);
  const [busy, found] = [signal(false), signal<T | undefined>(undefined)];
  const ask = () => {
    busy.set(true);
    read().subscribe({
      next: (answer) => {
        found.set(answer);
        busy.set(false);
      },
      error: (fault: unknown) => {
        busy.set(false);
        toasts.trouble(fault);
      },
    });
  };
  return { busy, found, ask };
}
