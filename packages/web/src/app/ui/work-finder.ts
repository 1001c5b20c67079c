import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, map, of, shareReplay, switchMap } from 'rxjs';
import { internalWorkRoutes, type InternalWorkWire } from '@core/time';
import { searchRoutes, type HitWire } from '@core/house';
import { ticketRoutes } from '@core/desk';
import { naming, type NamedWork } from '@core/ground';
import { Api } from '../shell/api';
import { Toasts } from '../shell/toasts';

const WAIT_MS = 150;

/** What time is recorded on, and for whom. */
export interface WorkedOn extends NamedWork {
  readonly client: string | null;
}

/** As the finder gives it. */
export function workOf(e: NamedWork & { readonly client?: string | null }): WorkedOn {
  return { ...naming(e), client: e.client ?? null };
}

/** Finds any ticket by number or words, or picks internal work. */
@Component({
  selector: 'dl-work-finder',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label
      >Ticket
      <input
        #textBox
        class="in"
        type="search"
        placeholder="number or words"
        autocomplete="off"
        [value]="q()"
        (input)="q.set(textBox.value)"
        (keydown.enter)="$event.preventDefault(); first?.()"
    /></label>
    @let hits = (hits$ | async) ?? [];
    @if (hits.length) {
      <ul>
        @for (hit of hits; track hit.id) {
          <li>
            <button type="button" class="btn-link clip" (click)="take(hit)">{{ hit.title }}</button>
            <span class="soft small clip">{{ hit.detail }}</span>
          </li>
        }
      </ul>
    }
    @if (withInternal()) {
      <p class="small">
        <span class="soft">or</span>
        @for (w of (internal$ | async) ?? []; track w.id) {
          <button type="button" class="btn-link small" (click)="inside(w)">{{ w.name }}</button>
        }
      </p>
    }
  `,
  styles: `
    label {
      display: grid;
      gap: 3px;
      font-size: 12.5px;
      font-weight: 600;
      color: var(--ink-soft);
    }
    .in {
      font-weight: 400;
    }
    ul {
      list-style: none;
      margin: 4px 0 0;
      padding: 0;
    }
    li {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 0 12px;
      margin: 4px 0 0;
    }
  `,
})
export class WorkFinder {
  readonly withInternal = input(true);
  readonly chosen = output<WorkedOn>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly q = signal('');
  protected first: (() => void) | undefined;
  protected readonly internal$ = this.api.call(internalWorkRoutes.listInternalWork, {}).pipe(
    map((a) => a.work),
    catchError(() => of([] as InternalWorkWire[])),
    shareReplay(1),
  );
  protected readonly hits$ = toObservable(this.q).pipe(
    debounceTime(WAIT_MS),
    switchMap((q) =>
      q.trim()
        ? this.api.call(searchRoutes.search, { query: { q } }).pipe(
            map((a) => a.hits.filter((h) => h.kind === 'ticket')),
            catchError(() => of([] as HitWire[])),
          )
        : of([] as HitWire[]),
    ),
    map((hits) => {
      const [only] = hits;
      this.first = only && (() => this.take(only));
      return hits;
    }),
  );

  protected take(hit: HitWire): void {
    this.api.call(ticketRoutes.getTicket, { params: { ticketId: hit.id } }).subscribe({
      next: (t) => this.chosen.emit({ workId: t.id, workKind: 'ticket', number: t.number, subject: t.subject, client: t.client }),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected inside(work: InternalWorkWire): void {
    this.chosen.emit({ workId: work.id, workKind: 'internal work', number: null, subject: work.name, client: null });
  }
}
