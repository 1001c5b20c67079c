import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import { catchError, map, of, shareReplay } from 'rxjs';
import { type AssetFilter, assetRoutes, type AssetRowWire, clientRoutes } from '@core/clients';
import type { Id } from '@core/ground';
import { ViewMenu } from '../../house';
import { Api } from '../../shell/api';
import { everyPage } from '../../ui/every-page';
import { Session } from '../../shell/session';
import { EmptyNote } from '../../ui/empty-note';
import type { Option } from '../../ui/field';
import { ArchiveBar } from '../../ui/list/archive-bar';
import type { Column } from '../../ui/list/column';
import { FilterChoice, FilterWords } from '../../ui/list/filters';
import { List } from '../../ui/list/list';
import { ListHead } from '../../ui/list/list-head';
import { ListState } from '../../ui/list/list-state';
import { AssetFormPanel } from './asset-form';

const COLUMNS: readonly Column<AssetRowWire>[] = [
  { key: 'number', head: 'Number', text: (a) => a.number, link: (a) => `/assets/${a.id}`, kind: 'code', sort: 'number', width: '120px' },
  { key: 'name', head: 'Name', text: (a) => a.name, sort: 'name' },
  { key: 'make', head: 'Make', text: (a) => a.make ?? '', kind: 'soft' },
  { key: 'client', head: 'Client', text: (a) => a.client, sort: 'client' },
  { key: 'site', head: 'Site', text: (a) => a.site ?? '' },
  { key: 'contact', head: 'Used by', text: (a) => a.contact ?? '' },
  { key: 'tickets', head: 'Open tickets', text: (a) => String(a.openTickets), kind: 'figure', sort: '-tickets', width: '120px' },
];

@Component({
  selector: 'dl-asset-list-page',
  imports: [AsyncPipe, ArchiveBar, EmptyNote, FilterChoice, FilterWords, List, ListHead, ViewMenu, AssetFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <dl-list-head [list]="list" title="Assets" noun="assets">
        <dl-filter-words filter [list]="list" label="Number or name" />
        <dl-filter-choice filter [list]="list" name="clientId" label="Client" any="every client" [options]="(clients$ | async) ?? []" />
        <dl-filter-choice filter [list]="list" name="archived" label="Put away" any="in use" [options]="away" />
        <dl-view-menu name="assets" [list]="list" [columns]="columns" />
        @if (session.may('assets.edit')) {
          <button type="button" class="btn-main" (click)="adding = !adding">Add an asset</button>
        }
      </dl-list-head>
      @if (adding) {
        <dl-asset-form [of]="clientId() ?? ''" (saved)="opened($event)" (closed)="adding = false; list.retry()" />
      }
      <dl-archive-bar [list]="list" [archive]="archive" />
      <dl-list
        [list]="list"
        [columns]="columns"
        label="Assets"
        usualSort="number"
        [choosable]="session.may('assets.edit')"
        [named]="nameOf"
      >
        <dl-empty-note title="No asset fits">Take a filter away above, or add the asset.</dl-empty-note>
      </dl-list>
    </div>
  `,
})
export class AssetListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly columns = COLUMNS;
  protected readonly away = [{ value: 'yes', label: 'put away' }];
  protected readonly nameOf = (a: AssetRowWire): string => a.number;
  protected readonly archive = (assetId: Id<'asset'>, version: number, archived: boolean) =>
    this.api.call(assetRoutes.archiveAsset, { params: { assetId }, version, body: { archived } });
  protected adding = false;
  protected readonly list = new ListState<AssetRowWire>({
    name: 'assets',
    topics: ['asset'],
    load: (query, page) => this.api.call(assetRoutes.listAssets, { query: { ...(query as Partial<AssetFilter>), ...page } }),
  });
  protected readonly clients$ = everyPage((page) => this.api.call(clientRoutes.listClients, { query: page })).pipe(
    map((a) => a.rows.map((c): Option => ({ value: c.id, label: c.name }))),
    catchError(() => of([])),
    shareReplay(1),
  );

  protected clientId(): string | null {
    return new URLSearchParams(this.router.url.split('?')[1]).get('clientId');
  }

  protected opened(assetId: Id<'asset'>): void {
    this.adding = false;
    void this.router.navigate(['/assets', assetId]);
  }
}
