import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, map, of, startWith, Subject, switchMap } from 'rxjs';
import { parseMinutes } from '@core/ground';
import { travelRoutes, type TravelPairWire } from '@core/scheduling';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';

/** How long it is from a place to all others: by coordinates, by what was logged, or as somebody says. */
@Component({
  selector: 'dl-travel-page',
  imports: [AsyncPipe, MinutesPipe, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <header class="page-head">
        <p class="small"><a routerLink="/dispatch">Dispatch</a></p>
        <h1>Ways between places</h1>
      </header>
      <div class="page-body">
        @let now = now$ | async;
        @if (now && now.is !== 'there') {
          <dl-state-note [state]="now" (again)="again.next()" />
        } @else if (now) {
          <label
            >From
            <select #selectBox class="in" aria-label="From" (change)="show(selectBox.value)">
              @for (p of now.value.places; track p.id) {
                <option [value]="p.id" [selected]="p.id === now.value.from">{{ p.name }}</option>
              }
            </select></label
          >
          <table class="rows">
            <thead>
              <tr>
                <th>To</th>
                <th>How long</th>
                <th>Where that comes from</th>
              </tr>
            </thead>
            <tbody>
              @for (pair of now.value.pairs; track pair.b) {
                <tr>
                  <td>{{ pair.bName }}</td>
                  <td>
                    @if (session.may('dispatch.book')) {
                      <input
                        #textBox
                        class="in mono"
                        [attr.aria-label]="'Minutes to ' + pair.bName"
                        [value]="pair.minutes | minutes"
                        (change)="set(pair, textBox)"
                      />
                    } @else {
                      {{ pair.minutes | minutes }}
                    }
                  </td>
                  <td class="small">
                    {{ pair.by ? 'said by ' + pair.by : pair.source }}
                    @if (pair.by && session.may('dispatch.book')) {
                      <button type="button" class="btn-link small" (click)="put(pair, null)">
                        take away<span class="visually-hidden"> what was said of {{ pair.bName }}</span>
                      </button>
                    }
                  </td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
    </div>
  `,
  styles: `
    select.in {
      width: auto;
      margin-left: 8px;
    }
    td .in {
      width: 110px;
    }
    .rows {
      margin-top: 16px;
      max-width: 900px;
    }
  `,
})
export class TravelPage {
  readonly from = input<string>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly now$ = loading(combineLatest([toObservable(this.from), this.again.pipe(startWith(undefined))]), ([chosen]) =>
    this.api.call(travelRoutes.listPlaces, {}).pipe(
      switchMap(({ places }) => {
        const from = chosen ?? places[0]?.id;
        const pairs = from ? this.api.call(travelRoutes.listTravel, { query: { from } }) : of({ pairs: [] as TravelPairWire[] });
        return pairs.pipe(map((a) => ({ places, from, pairs: a.pairs })));
      }),
    ),
  );

  protected show(from: string): void {
    void this.router.navigate([], { queryParams: { from } });
  }

  protected set(pair: TravelPairWire, field: HTMLInputElement): void {
    const minutes = parseMinutes(field.value);
    if (minutes === undefined || minutes > 600) {
      this.toasts.trouble(`${field.value || 'Nothing'} was typed; write a time such as 25 or 1:30, up to 10 hours.`);
      return;
    }
    this.put(pair, minutes);
  }

  protected put(pair: TravelPairWire, minutes: number | null): void {
    this.api.call(travelRoutes.setTravel, { params: { aId: pair.a, bId: pair.b }, body: { minutes } }).subscribe({
      next: () => (this.toasts.done('Saved; ways to come are laid anew'), this.again.next()),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
