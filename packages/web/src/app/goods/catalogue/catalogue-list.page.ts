import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { catchError, map, of, shareReplay } from 'rxjs';
import { catalogueRoutes, type ItemFilter, type ItemRowWire } from '@core/goods';
import { formatUnitPrice, type Id } from '@core/ground';
import { ViewMenu } from '../../house';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { EmptyNote } from '../../ui/empty-note';
import type { Option } from '../../ui/field';
import { ArchiveBar } from '../../ui/list/archive-bar';
import type { Column } from '../../ui/list/column';
import { FilterChoice, FilterWords } from '../../ui/list/filters';
import { List } from '../../ui/list/list';
import { ListHead } from '../../ui/list/list-head';
import { ListState } from '../../ui/list/list-state';
import { PriceRules } from '../price-rules/price-rules';
import { CatalogueForm } from './catalogue-form';

const COLUMNS: readonly Column<ItemRowWire>[] = [
  { key: 'number', head: 'Number', text: (i) => i.number, kind: 'code', sort: 'number', width: '130px' },
  { key: 'name', head: 'Name', text: (i) => i.name, link: (i) => `/catalogue/${i.id}`, sort: 'name' },
  { key: 'category', head: 'Category', text: (i) => i.category, kind: 'soft', sort: 'category', width: '140px' },
  {
    key: 'cost',
    head: 'Cost',
    text: (i) => (i.cost ? formatUnitPrice(i.cost, i.currency) : ''),
    file: (i) => i.cost ?? '',
    kind: 'figure',
    width: '110px',
  },
  {
    key: 'net',
    head: 'Without tax',
    text: (i) => formatUnitPrice(i.netPrice, i.currency),
    file: (i) => i.netPrice,
    kind: 'figure',
    sort: 'price',
    width: '120px',
  },
  {
    key: 'gross',
    head: 'With tax',
    text: (i) => formatUnitPrice(i.grossPrice, i.currency),
    file: (i) => i.grossPrice,
    kind: 'figure',
    width: '120px',
  },
  { key: 'tax', head: 'Tax', text: (i) => `${i.taxPercent} %`, kind: 'figure', width: '80px' },
  { key: 'margin', head: 'Margin', text: (i) => (i.marginPercent ? `${i.marginPercent} %` : ''), kind: 'figure', width: '90px' },
];

@Component({
  selector: 'dl-catalogue-list-page',
  imports: [AsyncPipe, ArchiveBar, EmptyNote, FilterChoice, FilterWords, List, ListHead, ViewMenu, CatalogueForm, PriceRules],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <dl-list-head [list]="list" title="Catalogue" noun="items">
        <dl-filter-words filter [list]="list" label="Number or name" />
        <dl-filter-choice
          filter
          [list]="list"
          name="category"
          label="Category"
          any="every category"
          [options]="(categories$ | async) ?? []"
        />
        <dl-filter-choice filter [list]="list" name="archived" label="Put away" any="sold now" [options]="away" />
        <button type="button" class="btn-link small" [attr.aria-expanded]="rules()" (click)="rules.set(!rules())">Price rules</button>
        <dl-view-menu name="catalogue" [list]="list" [columns]="columns" />
        @if (session.may('catalogue.edit')) {
          <button type="button" class="btn-main" (click)="adding = !adding">Add an item</button>
        }
      </dl-list-head>
      @if (adding) {
        <dl-catalogue-form (saved)="opened($event)" (closed)="adding = false; list.retry()" />
      }
      @if (rules()) {
        <section class="panel rules" aria-label="Price rules of the house"><dl-price-rules /></section>
      }
      <dl-archive-bar [list]="list" [archive]="archive" />
      <dl-list
        [list]="list"
        [columns]="columns"
        label="Catalogue items"
        usualSort="name"
        [choosable]="session.may('catalogue.edit')"
        [named]="nameOf"
      >
        <dl-empty-note title="No item fits">Take a filter away above, or add the item.</dl-empty-note>
      </dl-list>
    </div>
  `,
  styles: `
    .rules {
      margin: 12px 20px;
      padding: 0 14px 10px;
    }
  `,
})
export class CatalogueListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly columns = COLUMNS.filter((c) => this.session.may('costs.read') || !['cost', 'margin'].includes(c.key));
  protected readonly away = [{ value: 'yes', label: 'put away' }];
  protected readonly nameOf = (i: ItemRowWire): string => i.name;
  protected readonly archive = (itemId: Id<'catalogue_item'>, version: number, archived: boolean) =>
    this.api.call(catalogueRoutes.archiveItem, { params: { itemId }, version, body: { archived } });
  protected adding = false;
  protected readonly rules = signal(false);
  protected readonly list = new ListState<ItemRowWire>({
    name: 'catalogue',
    topics: ['item'],
    load: (query, page) => this.api.call(catalogueRoutes.listItems, { query: { ...(query as Partial<ItemFilter>), ...page } }),
  });
  protected readonly categories$ = this.api.call(catalogueRoutes.listItemCategories, {}).pipe(
    map((a) => a.categories.map((c): Option => ({ value: c, label: c }))),
    catchError(() => of([])),
    shareReplay(1),
  );

  protected opened(itemId: Id<'catalogue_item'>): void {
    this.adding = false;
    void this.router.navigate(['/catalogue', itemId]);
  }
}
