import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import type { SuggestedRowWire } from '@core/week-sheet';
import { loading } from '../ui/loading';
import { MinutesPipe } from '../ui/pipes';
import { StateNote } from '../ui/state-note';
import { keyOfRow } from './kept-cells';
import { WeekSheetState } from './week-sheet.state';

export interface ChosenRow {
  readonly row: SuggestedRowWire;
  readonly hours: boolean;
  readonly notes: boolean;
}

/** Rows that the week may need, chosen one by one, with or without the hours and notes that go with them. */
@Component({
  selector: 'dl-row-suggestions',
  imports: [AsyncPipe, MinutesPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-label="Rows that the week may need">
      @let now = rows$ | async;
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="state.again.next()" />
      } @else if (now) {
        @for (row of now.value; track key(row)) {
          <label class="row">
            <input type="checkbox" [checked]="!left().has(key(row))" (change)="flip(key(row))" />
            <span class="clip"
              ><b>{{ row.number ? '#' + row.number : (row.internal ?? 'on no ticket') }}</b> {{ row.subject }}
              <span class="soft">{{ row.client }}{{ row.client ? ', ' : '' }}{{ row.activity }}</span></span
            >
            <span class="small soft">{{ row.says }}</span>
            <span class="mono small">{{ total(row) | minutes }}</span>
          </label>
        } @empty {
          <p class="soft">Nothing more: what is booked, what the week before had and what most weeks have is there.</p>
        }
        <p class="acts">
          @if (now.value.length) {
            <button type="button" class="btn-main" [disabled]="!chosen(now.value).length" (click)="take(now.value)">
              Take {{ chosen(now.value).length }}
            </button>
            <label><input type="checkbox" [checked]="hours()" (change)="hours.set($any($event.target).checked)" /> with hours</label>
            <label><input type="checkbox" [checked]="notes()" (change)="notes.set($any($event.target).checked)" /> with notes</label>
          }
          <button type="button" class="btn-link" (click)="closed.emit()">Close</button>
        </p>
      }
    </section>
  `,
  styles: `
    section {
      padding: 8px 16px;
      margin: 8px 0;
    }
    .row {
      display: grid;
      grid-template-columns: 20px minmax(0, 1fr) 200px 80px;
      gap: 10px;
      align-items: center;
      padding: 3px 0;
    }
    .acts {
      display: flex;
      gap: 16px;
      align-items: center;
    }
  `,
})
export class RowSuggestions {
  readonly day = input.required<string>();
  readonly taken = output<readonly ChosenRow[]>();
  readonly closed = output<void>();
  protected readonly state = inject(WeekSheetState);
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly hours = signal(true);
  protected readonly notes = signal(false);
  protected readonly rows$ = loading(toObservable(this.day), (day) => this.state.suggestions(day));
  protected readonly key = keyOfRow;

  protected flip(key: string): void {
    const left = new Set(this.left());
    if (!left.delete(key)) left.add(key);
    this.left.set(left);
  }

  protected total(row: SuggestedRowWire): number {
    return row.minutes.reduce((sum, m) => sum + m, 0);
  }

  protected chosen(all: readonly SuggestedRowWire[]): SuggestedRowWire[] {
    return all.filter((r) => !this.left().has(keyOfRow(r)));
  }

  protected take(all: readonly SuggestedRowWire[]): void {
    this.taken.emit(this.chosen(all).map((row) => ({ row, hours: this.hours(), notes: this.notes() })));
  }
}
