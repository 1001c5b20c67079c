import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { ActivatedRoute, Router } from '@angular/router';
import { toObservable } from '@angular/core/rxjs-interop';
import { NgbDropdown, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { catchError, map, merge, of, startWith, Subject, switchMap } from 'rxjs';
import { viewRoutes, type ListName, type ViewReach, type ViewWire } from '@core/house';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import { downloadCsv } from '../../ui/csv';
import { chosenColumns, switchColumn, type Column } from '../../ui/list/column';
import type { ListState } from '../../ui/list/list-state';

/** Views of a list kept by name, its columns, and its CSV file. */
@Component({
  selector: 'dl-view-menu',
  imports: [AsyncPipe, NgbDropdown, NgbDropdownMenu, NgbDropdownToggle],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './view-menu.html',
  styleUrl: './view-menu.css',
})
export class ViewMenu<Row extends { readonly id: string }> {
  readonly name = input.required<ListName>();
  /** Where there is no list, views are kept and nothing else. */
  readonly list = input<ListState<Row>>();
  readonly columns = input<readonly Column<Row>[]>([]);
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly router = inject(Router);
  private readonly route = inject(ActivatedRoute);
  private readonly again = new Subject<void>();
  protected readonly views$ = merge(toObservable(this.name), inject(Live).about('view'), this.again).pipe(
    startWith(undefined),
    switchMap(() =>
      this.api.call(viewRoutes.listViews, { query: { list: this.name() } }).pipe(
        map((a) => a.views),
        catchError(() => of([] as ViewWire[])),
      ),
    ),
  );

  /** Whom it is for, or who made it. */
  protected reach(view: ViewWire): string {
    if (!view.mine) return `by ${view.by}`;
    return { own: 'own', team: 'for my team', all: 'for all' }[view.reach];
  }

  protected open(view: ViewWire): void {
    void this.router.navigate([], { relativeTo: this.route, queryParams: Object.fromEntries(new URLSearchParams(view.query)) });
  }

  /** Whether the address shows just this view. */
  protected isOpen(view: ViewWire): boolean {
    const here = new URLSearchParams(this.router.url.split('?')[1] ?? '');
    const there = new URLSearchParams(view.query);
    here.sort();
    there.sort();
    return here.toString() === there.toString();
  }

  protected save(name: string, reach: string): void {
    if (!name.trim()) return this.toasts.trouble('Give the view a name first.');
    const query = this.router.url.split('?')[1] ?? '';
    this.api.call(viewRoutes.saveView, { body: { list: this.name(), name, query, reach: reach as ViewReach } }).subscribe({
      next: () => (this.toasts.done(`${name} is kept`), this.again.next()),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected remove(view: ViewWire): void {
    this.api.call(viewRoutes.removeView, { params: { viewId: view.id } }).subscribe({
      next: () => {
        this.toasts.done(`${view.name} is taken away`, () =>
          this.api
            .call(viewRoutes.saveView, { body: { list: this.name(), name: view.name, query: view.query, reach: view.reach } })
            .subscribe({ next: () => this.again.next(), error: (fault: unknown) => this.toasts.trouble(fault) }),
        );
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected shows(column: Column<Row>, named: string | undefined): boolean {
    return chosenColumns(this.columns(), named).includes(column);
  }

  protected switch(column: Column<Row>, named: string | undefined): void {
    this.list()?.set({ columns: switchColumn(this.columns(), named, column.key) }, true);
  }

  protected csv(): void {
    const columns = this.columns();
    this.list()
      ?.all()
      .subscribe({
        next: (rows) =>
          downloadCsv(
            `${this.name()}.csv`,
            columns.map((c) => c.head),
            rows.map((row) => columns.map((c) => (c.file ?? c.text)(row))),
          ),
        error: (fault: unknown) => this.toasts.trouble(fault),
      });
  }
}
