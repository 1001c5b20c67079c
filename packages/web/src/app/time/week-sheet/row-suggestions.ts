import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, debounceTime, map, of, switchMap } from 'rxjs';
import { parseMinutes, sayWorkShortly } from '@core/ground';
import {
  type CellEffectWire,
  clock,
  type Effect,
  type NamedEffect,
  type SuggestedRowWire,
  sumEffects,
  type TypedCell,
  weekSheetRoutes,
  type WeekSheetWire,
} from '@core/time';
import { Api } from '../../shell/api';
import { loading } from '../../ui/loading';
import { MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { shortDay } from '../../ui/time-format';
import { EffectNote } from '../../ui/effect-note';
import { keyOfRow } from './kept-cells';
import { typedCell } from './typed-cell';
import { WeekSheetState } from './week-sheet.state';

const WAIT_MS = 150;
export interface TakenRows {
  readonly rows: readonly SuggestedRowWire[];
  /** Their hours on days that have come, as they are to be typed in. */
  readonly cells: readonly TypedCell[];
}
/** What the hours of chosen rows do: by the key of each row, and all together. */
interface Effects {
  readonly rows: ReadonlyMap<string, Effect>;
  readonly all: Effect;
}

/** Rows that the week may need, chosen one by one, with or without the hours and notes that go with them. */
@Component({
  selector: 'dl-row-suggestions',
  imports: [AsyncPipe, MinutesPipe, EffectNote, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-label="Rows that the week may need">
      @let now = rows$ | async;
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="state.again.next()" />
      } @else if (now) {
        @let effects = effects$ | async;
        @for (row of now.value; track key(row)) {
          <label class="row">
            <input type="checkbox" [checked]="!left().has(key(row))" (change)="flip(key(row))" />
            <span class="clip"
              ><b>{{ name(row) }}</b> {{ row.subject }}
              <span class="soft">{{ row.client }}{{ row.client ? ', ' : '' }}{{ row.activity }}</span></span
            >
            <span class="small soft">{{ row.says }}</span>
            <span class="mono small num">{{ hours() && total(row) ? (total(row) | minutes) : '' }}</span>
            <span class="small does">
              @if (effects?.rows?.get(key(row)); as does) {
                <dl-effect [effect]="does" [of]="'what the hours of ' + name(row) + ' come to'" />
              }
            </span>
          </label>
        } @empty {
          <p class="soft">Nothing more: what is booked, what the week before had and what most weeks have is there.</p>
        }
        <p class="acts">
          @if (now.value.length) {
            <button type="button" class="btn-main" [disabled]="!chosen(now.value).length" (click)="take(now.value)">
              Take {{ chosen(now.value).length }}
            </button>
            @if (effects?.all; as does) {
              <span role="status"><dl-effect [effect]="does" of="what the hours of these rows come to" /></span>
            }
            <label><input #tickBox type="checkbox" [checked]="hours()" (change)="hours.set(tickBox.checked)" /> with hours</label>
            <label><input #tickBox2 type="checkbox" [checked]="notes()" (change)="notes.set(tickBox2.checked)" /> with notes</label>
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
      grid-template-columns: 20px minmax(0, 1fr) 170px 70px minmax(0, 240px);
      gap: 10px;
      align-items: center;
      padding: 3px 0;
    }
    .does {
      text-align: right;
    }
    .acts {
      display: flex;
      gap: 16px;
      align-items: center;
    }
  `,
})
export class RowSuggestions {
  readonly week = input.required<WeekSheetWire>();
  /** The date up to which hours are taken. */
  readonly today = input.required<string>();
  readonly taken = output<TakenRows>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  protected readonly state = inject(WeekSheetState);
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly hours = signal(true);
  protected readonly notes = signal(false);
  private readonly monday = computed(() => this.week().days[0]!.day);
  protected readonly rows$ = loading(toObservable(this.monday), (day) => this.state.suggestions(day));
  protected readonly key = keyOfRow;
  protected readonly effects$ = combineLatest([this.rows$, toObservable(this.left), toObservable(this.hours)]).pipe(
    debounceTime(WAIT_MS),
    switchMap(([rows, , hours]) => {
      const chosen = rows.is === 'there' && hours ? this.chosen(rows.value) : [];
      const cells = chosen.flatMap((row) => this.cellsOf(row));
      if (!cells.length) return of(undefined);
      return this.api.call(weekSheetRoutes.previewCells, { body: { cells } }).pipe(
        map((a) => this.effectsOf(chosen, cells, a.cells)),
        catchError(() => of(undefined)),
      );
    }),
  );

  protected flip(key: string): void {
    const left = new Set(this.left());
    if (!left.delete(key)) left.add(key);
    this.left.set(left);
  }

  /** What is taken of its hours: those on days that have come. */
  protected total(row: SuggestedRowWire): number {
    return this.cellsOf(row).reduce((sum, c) => sum + (parseMinutes(c.typed) ?? 0), 0);
  }

  protected chosen(all: readonly SuggestedRowWire[]): SuggestedRowWire[] {
    return all.filter((r) => !this.left().has(keyOfRow(r)));
  }

  protected name(row: SuggestedRowWire): string {
    return sayWorkShortly(row);
  }

  protected take(all: readonly SuggestedRowWire[]): void {
    const rows = this.chosen(all);
    this.taken.emit({ rows, cells: this.hours() ? rows.flatMap((row) => this.cellsOf(row)) : [] });
  }

  private cellsOf(row: SuggestedRowWire): TypedCell[] {
    const said = this.notes() ? { note: row.note } : {};
    return this.week().days.flatMap(({ day, closed }, n) =>
      row.minutes[n] && !closed && day <= this.today()
        ? [typedCell({ row, cell: { day, stored: undefined }, typed: clock(row.minutes[n]), said })]
        : [],
    );
  }

  private effectsOf(rows: readonly SuggestedRowWire[], cells: readonly TypedCell[], effects: readonly CellEffectWire[]): Effects {
    const named = (row: SuggestedRowWire): NamedEffect[] =>
      cells.flatMap((cell, n) => {
        const effect = keyOfRow(cell) === keyOfRow(row) ? effects[n]!.effect : null;
        return effect ? [{ name: shortDay(cell.day), effect }] : [];
      });
    const byRow = rows.flatMap((row) => {
      const own = named(row);
      return own.length ? [{ row, name: this.name(row), effect: sumEffects(own, 'the client') }] : [];
    });
    return { rows: new Map(byRow.map(({ row, effect }) => [keyOfRow(row), effect])), all: sumEffects(byRow, 'clients') };
  }
}
