import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { map, merge, shareReplay, startWith, Subject } from 'rxjs';
import { catalogueRoutes, type ItemWire } from '@core/catalogue';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Session } from '../shell/session';
import { ArrowRows } from '../ui/arrow-rows';
import { downloadCsv } from '../ui/csv';
import { EmptyNote } from '../ui/empty-note';
import { loading } from '../ui/loading';
import { StateNote } from '../ui/state-note';
import { CatalogueForm } from './catalogue-form';

@Component({
  selector: 'dl-catalogue-list-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, EmptyNote, StateNote, CatalogueForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let list = list$ | async;
    @let q = (query$ | async) ?? '';
    <div class="page">
      <header class="page-head">
        <h1>Catalogue</h1>
        <input
          class="in"
          style="width: 220px"
          type="text"
          aria-label="Words"
          placeholder="number or name"
          [value]="q"
          (input)="set($any($event.target).value)"
        />
        <span class="grow"></span>
        @if (list && list.is === 'there') {
          <span class="soft small">{{ fitting(list.value.items, q).length }} items</span>
          <button type="button" class="btn-link" (click)="export(fitting(list.value.items, q))">CSV</button>
        }
        @if (session.may('catalogue.edit')) {
          <button type="button" class="btn-main" (click)="adding = !adding">Add an item</button>
        }
      </header>
      <div class="page-body" style="padding: 0" dlArrowRows>
        @if (adding) {
          <dl-catalogue-form (saved)="opened($event)" (closed)="adding = false; again.next()" />
        }
        @if (list && list.is !== 'there') {
          <dl-state-note [state]="list" (again)="again.next()" />
        } @else if (list) {
          <table class="rows">
            <thead>
              <tr>
                <th>Number</th>
                <th>Name</th>
                <th>Category</th>
                <th class="num">Cost</th>
                <th class="num">Price</th>
                <th class="num">With tax</th>
                <th class="num">Tax</th>
                <th class="num">Margin</th>
              </tr>
            </thead>
            <tbody>
              @for (i of fitting(list.value.items, q); track i.id) {
                <tr>
                  <td class="mono">{{ i.number }}</td>
                  <td>
                    <a class="ink-link" data-row [routerLink]="['/catalogue', i.id]">{{ i.name }}</a>
                  </td>
                  <td class="soft">{{ i.category }}</td>
                  <td class="num">{{ i.cost }}</td>
                  <td class="num">{{ i.netPrice }}</td>
                  <td class="num">{{ i.grossPrice }}</td>
                  <td class="num">{{ i.taxPercent }} %</td>
                  <td class="num">{{ i.marginPercent ? i.marginPercent + ' %' : '–' }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="8"><dl-empty-note title="No item fits">Take words away above, or add the item.</dl-empty-note></td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
    </div>
  `,
})
export class CatalogueListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected adding = false;
  protected readonly query$ = inject(ActivatedRoute).queryParams.pipe(map((q) => String(q['q'] ?? '')));
  protected readonly list$ = loading(merge(inject(Live).about('item'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(catalogueRoutes.listItems, {}),
  ).pipe(shareReplay({ bufferSize: 1, refCount: true }));

  protected fitting(items: readonly ItemWire[], q: string): readonly ItemWire[] {
    return items.filter((i) => `${i.number} ${i.name} ${i.category}`.toLowerCase().includes(q.toLowerCase()));
  }

  protected set(q: string): void {
    void this.router.navigate([], { queryParams: { q: q || undefined }, replaceUrl: true });
  }

  protected opened(itemId: string): void {
    this.adding = false;
    void this.router.navigate(['/catalogue', itemId]);
  }

  protected export(items: readonly ItemWire[]): void {
    downloadCsv(
      'catalogue.csv',
      ['number', 'name', 'category', 'cost', 'net price', 'tax percent'],
      items.map((i) => [i.number, i.name, i.category, i.cost, i.netPrice, i.taxPercent]),
    );
  }
}
