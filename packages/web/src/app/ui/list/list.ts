import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import { AsyncPipe, NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  contentChildren,
  DestroyRef,
  Directive,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  TemplateRef,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { Shortcuts } from '../../shell/shortcuts';
import { StateNote } from '../state-note';
import { chosenColumns, nextSort, type Column } from './column';
import type { ListState } from './list-state';

/** How a cell is drawn where words do not do: `<ng-template dlCell="due" [dlCellOf]="list" let-row>`. */
@Directive({ selector: '[dlCell]' })
export class Cell<Row extends { readonly id: string }> {
  readonly key = input.required<string>({ alias: 'dlCell' });
  readonly of = input.required<ListState<Row>>({ alias: 'dlCellOf' });
  readonly template = inject<TemplateRef<{ $implicit: Row }>>(TemplateRef);

  static ngTemplateContextGuard<Row extends { readonly id: string }>(_: Cell<Row>, context: unknown): context is { $implicit: Row } {
    return Boolean(context);
  }
}

const ROW = 33;
const HEAD = 30;
const STEPS: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1, PageDown: 15, PageUp: -15, Home: -1e9, End: 1e9 };

/** Rows of any length: only those near the eyes are drawn. Arrow keys move, Enter opens, x chooses. */
@Component({
  selector: 'dl-list',
  imports: [AsyncPipe, NgTemplateOutlet, RouterLink, ScrollingModule, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './list.html',
  styleUrls: ['./virtual-rows.css', './list.css'],
})
export class List<Row extends { readonly id: string }> {
  readonly list = input.required<ListState<Row>>();
  readonly columns = input.required<readonly Column<Row>[]>();
  /** What the rows are, for who hears the screen: "Tickets". */
  readonly label = input.required<string>();
  /** The sort that holds where the address names none. */
  readonly usualSort = input<string>();
  readonly choosable = input(false);
  /** Names a row where it is chosen. */
  readonly named = input<(row: Row) => string>((row) => row.id);
  protected readonly cells = contentChildren<Cell<Row>>(Cell);
  protected readonly viewport = viewChild(CdkVirtualScrollViewport);
  protected readonly offset = signal(0);
  protected readonly row = ROW;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '↑ ↓ Enter', what: 'move in the list and open' },
      { keys: 'x', what: 'choose the row, to act on many' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      const id = (document.activeElement as HTMLElement | null)?.closest('[data-id]')?.getAttribute('data-id');
      if (event.key === 'x' && id && this.choosable()) this.list().toggle(id);
    });
    effect((onCleanup) => {
      const viewport = this.viewport();
      if (!viewport) return;
      const moves = viewport.renderedRangeStream.subscribe((range) => this.offset.set(range.start * ROW));
      const top = this.list().startTop;
      if (top) requestAnimationFrame(() => viewport.scrollToOffset(top));
      onCleanup(() => moves.unsubscribe());
    });
  }

  protected readonly byId = (_: number, row: Row): string => row.id;

  protected shown(named: string | undefined): readonly Column<Row>[] {
    return chosenColumns(this.columns(), named);
  }

  protected cell(key: string): TemplateRef<{ $implicit: Row }> | undefined {
    return this.cells().find((c) => c.key() === key)?.template;
  }

  protected sort(column: Column<Row>, now: string | undefined): void {
    if (column.sort) this.list().set({ sort: nextSort(now ?? this.usualSort(), column.sort) });
  }

  protected way(column: Column<Row>, now: string | undefined): 'ascending' | 'descending' | null {
    const sort = now ?? this.usualSort();
    if (!column.sort || sort?.replace('-', '') !== column.sort.replace('-', '')) return null;
    return sort.startsWith('-') ? 'descending' : 'ascending';
  }

  protected arrow(column: Column<Row>, now: string | undefined): string {
    const way = this.way(column, now);
    return way ? { ascending: '↑', descending: '↓' }[way] : '';
  }

  protected scrolled(length: number): void {
    const viewport = this.viewport();
    if (viewport) this.list().scrolled(viewport.measureScrollOffset(), length - viewport.getRenderedRange().end);
  }

  protected move(event: KeyboardEvent, length: number): void {
    const step = STEPS[event.key];
    if (step === undefined || /^(INPUT|TEXTAREA|SELECT|BUTTON)$/.test((event.target as HTMLElement).tagName)) return;
    event.preventDefault();
    const at = Number((document.activeElement as HTMLElement | null)?.closest('[data-index]')?.getAttribute('data-index') ?? -1);
    this.focusRow(Math.min(length - 1, Math.max(0, at + step)));
  }

  /** Brings a row into view and gives it the focus, as soon as it is drawn. */
  private focusRow(index: number, tries = 60): void {
    const viewport = this.viewport();
    if (!viewport || index < 0) return;
    const [top, height, y] = [viewport.measureScrollOffset(), viewport.getViewportSize(), index * ROW];
    if (y < top) viewport.scrollToOffset(y);
    else if (y + ROW + HEAD > top + height) viewport.scrollToOffset(y + ROW + HEAD - height);
    const target = this.host.nativeElement.querySelector<HTMLElement>(`[data-index="${index}"] [data-row]`);
    if (target) target.focus({ preventScroll: true });
    else if (tries) requestAnimationFrame(() => this.focusRow(index, tries - 1));
  }
}
