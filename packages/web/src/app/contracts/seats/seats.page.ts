import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { combineLatest, startWith, Subject, tap } from 'rxjs';
import { type ClientSeatsWire, SEAT_STATES, type SeatKind, type SeatLineWire, seatRoutes, type SeatState } from '@core/contracts';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { loading } from '../../ui/loading';
import { MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { PasteSeats } from './paste-seats';
import { SeatsChange } from './seats-change';
import { SeatsGrid } from './seats-grid';

/** All people and assets of a client with the lines that they are on: what is odd in sight, many changed at once. */
@Component({
  selector: 'dl-seats-page',
  imports: [AsyncPipe, MoneyPipe, PasteSeats, RouterLink, SeatsChange, SeatsGrid, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = seats$ | async;
    <div class="page">
      <header class="page-head">
        <p class="small"><a [routerLink]="['/clients', clientId()]">Client</a></p>
        <h1>Seats{{ now && now.is === 'there' ? ' of ' + now.value.client : '' }}</h1>
        <span class="grow"></span>
        <input
          #findBox
          class="in find"
          type="search"
          aria-label="Find among them"
          placeholder="find"
          [value]="find()"
          (input)="find.set(findBox.value)"
        />
        <select #kindBox class="in find" aria-label="Show" (change)="counted.set($any(kindBox.value))">
          <option value="seat">People</option>
          <option value="asset">Assets</option>
        </select>
        @if (may()) {
          <button type="button" class="btn-plain" (click)="pasting.set(!pasting())">Paste rows</button>
        }
      </header>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @let s = now.value;
        <div class="above">
          <p class="figures" role="group" aria-label="How they stand">
            @for (f of s.figures; track f.state) {
              <button
                type="button"
                class="figure"
                [class.at]="state() === f.state"
                [attr.aria-pressed]="state() === f.state"
                (click)="only(f.state)"
              >
                <b [class.late]="f.count > 0 && isOdd(f.state)">{{ f.count }}</b> {{ f.state }}
                <span class="mono soft small">{{ f.monthly.minor ? (f.monthly | money) : '' }}</span>
              </button>
            }
          </p>
          @if (pasting()) {
            <dl-paste-seats [seats]="s" (done)="changed()" (left)="pasting.set(false)" />
          }
          @if (picked().length) {
            <dl-seats-change [seats]="s" [chosen]="picked()" [meant]="meant()" (done)="changed()" (left)="clear()" />
          }
        </div>
        @if (!s.lines.length) {
          <p class="page-body soft">
            No contract of {{ s.client }} has a line that counts {{ counted() === 'seat' ? 'people' : 'assets' }}. Lines are added on the
            <a routerLink="/contracts" [queryParams]="{ clientId: s.clientId }">contract's page</a>.
          </p>
        } @else {
          <dl-seats-grid [seats]="s" [rows]="rows()" [choosable]="may()" [(chosen)]="chosen" (met)="meant.set($event)" />
        }
      }
    </div>
  `,
  styles: `
    .page {
      display: flex;
      flex-direction: column;
      height: 100%;
    }
    .find {
      width: 150px;
    }
    .above {
      padding: 10px 20px 0;
    }
    .figures {
      display: flex;
      gap: 8px;
      flex-wrap: wrap;
      padding-bottom: 8px;
    }
    .figure {
      border: 1px solid var(--rule);
      border-radius: 4px;
      background: none;
      font: inherit;
      color: inherit;
      padding: 4px 10px;
      cursor: pointer;
    }
    .figure.at {
      background: var(--wash);
      border-color: var(--ink);
    }
    .figure b {
      font-size: 16px;
    }
  `,
})
export class SeatsPage {
  readonly clientId = input.required<Id<'client'>>();
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly counted = signal<SeatKind>('seat');
  protected readonly state = signal<SeatState | undefined>(undefined);
  protected readonly find = signal('');
  protected readonly pasting = signal(false);
  protected readonly chosen = linkedSignal<SeatKind, ReadonlySet<string>>({ source: this.counted, computation: () => new Set() });
  protected readonly meant = signal<SeatLineWire | undefined>(undefined);
  private readonly there = signal<ClientSeatsWire | undefined>(undefined);
  protected readonly seats$ = loading(
    combineLatest([
      toObservable(this.clientId),
      toObservable(this.counted),
      this.again.pipe(startWith(undefined)),
      inject(Live)
        .touching(() => ({ topics: ['contract', 'contact', 'asset'], records: new Set<string>(), clientId: this.clientId() }))
        .pipe(startWith(undefined)),
    ]),
    ([clientId, counted]) =>
      this.api.call(seatRoutes.getClientSeats, { params: { clientId }, query: { counted } }).pipe(tap((s) => this.there.set(s))),
  );
  protected readonly rows = computed(() => {
    const [words, state] = [this.find().trim().toLowerCase(), this.state()];
    return (this.there()?.rows ?? []).filter(
      (r) => (!state || r.state === state) && (!words || `${r.name} ${r.also}`.toLowerCase().includes(words)),
    );
  });
  /** Those who are chosen and shown: nobody out of sight is changed. */
  protected readonly picked = computed(() => this.rows().filter((r) => this.chosen().has(r.unitId)));

  protected may(): boolean {
    return this.session.may('contracts.edit');
  }

  protected isOdd(state: SeatState): boolean {
    return SEAT_STATES.indexOf(state) < SEAT_STATES.indexOf('billed');
  }

  protected only(state: SeatState): void {
    this.state.set(this.state() === state ? undefined : state);
  }

  protected clear(): void {
    this.chosen.set(new Set());
    this.meant.set(undefined);
  }

  protected changed(): void {
    this.clear();
    this.again.next();
  }
}
