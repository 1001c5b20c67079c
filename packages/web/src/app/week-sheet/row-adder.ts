import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { searchRoutes, type HitWire } from '@core/search';
import { ticketRoutes } from '@core/tickets';
import { Api } from '../shell/api';
import { Toasts } from '../shell/toasts';
import type { RowHead } from './kept-cells';

const WAIT_MS = 150;

/** Picks a ticket, or none for work that is on no ticket, and how it was done. */
@Component({
  selector: 'dl-row-adder',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-label="Add a row">
      <label
        >How
        <select class="in" #how>
          @for (a of activities(); track a.id) {
            <option [value]="a.id">{{ a.name }}</option>
          }
        </select></label
      >
      <label class="grow"
        >Ticket <input class="in" type="search" placeholder="number or words" [value]="q()" (input)="q.set($any($event.target).value)"
      /></label>
      <button type="button" class="btn-link" (click)="take(how.value, null)">on no ticket</button>
      <button type="button" class="btn-link" (click)="closed.emit()">Close</button>
      <ul>
        @for (hit of (hits$ | async) ?? []; track hit.id) {
          <li>
            <button type="button" class="btn-link clip" (click)="take(how.value, hit)">{{ hit.title }}</button>
            <span class="soft small clip">{{ hit.detail }}</span>
          </li>
        }
      </ul>
    </section>
  `,
  styles: `
    section {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 16px;
      align-items: end;
      padding: 12px 16px;
      margin: 8px 0;
    }
    label {
      display: grid;
      gap: 2px;
    }
    ul {
      flex-basis: 100%;
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
  `,
})
export class RowAdder {
  readonly activities = input.required<readonly { readonly id: string; readonly name: string }[]>();
  readonly chosen = output<RowHead>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly q = signal('');
  protected readonly hits$ = toObservable(this.q).pipe(
    debounceTime(WAIT_MS),
    switchMap((q) =>
      q.trim()
        ? this.api.call(searchRoutes.search, { query: { q } }).pipe(
            map((a) => a.hits.filter((h) => h.kind === 'ticket')),
            catchError(() => of([] as HitWire[])),
          )
        : of([]),
    ),
  );

  protected take(activityId: string, hit: HitWire | null): void {
    const how = { activityId, activity: this.activities().find((a) => a.id === activityId)!.name };
    if (!hit) return this.chosen.emit({ ticketId: null, number: null, subject: null, client: null, ...how });
    this.api.call(ticketRoutes.getTicket, { params: { ticketId: hit.id } }).subscribe({
      next: (t) => this.chosen.emit({ ticketId: t.id, number: t.number, subject: t.subject, client: t.client, ...how }),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
