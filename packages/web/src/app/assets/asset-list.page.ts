import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, shareReplay, startWith, Subject } from 'rxjs';
import { assetRoutes, type AssetWire } from '@core/assets';
import { clientRoutes } from '@core/clients';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Session } from '../shell/session';
import { ArrowRows } from '../ui/arrow-rows';
import { downloadCsv } from '../ui/csv';
import { EmptyNote } from '../ui/empty-note';
import { loading } from '../ui/loading';
import { StateNote } from '../ui/state-note';
import { AssetFormPanel } from './asset-form';

@Component({
  selector: 'dl-asset-list-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, EmptyNote, StateNote, AssetFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let list = list$ | async;
    @let query = query$ | async;
    <div class="page">
      <header class="page-head">
        <h1>Assets</h1>
        <input
          class="in"
          style="width: 200px"
          type="text"
          aria-label="Number or name"
          placeholder="number or name"
          [value]="query?.['q'] ?? ''"
          (change)="set({ q: $any($event.target).value || undefined })"
        />
        <select class="in" style="width: auto" aria-label="Client" (change)="set({ clientId: $any($event.target).value || undefined })">
          <option value="">every client</option>
          @for (c of clients$ | async; track c.id) {
            <option [value]="c.id" [selected]="c.id === query?.['clientId']">{{ c.name }}</option>
          }
        </select>
        <span class="grow"></span>
        @if (list && list.is === 'there') {
          <span class="soft small">{{ list.value.assets.length }} assets</span>
          <button type="button" class="btn-link" (click)="export(list.value.assets)">CSV</button>
        }
        @if (session.may('assets.edit')) {
          <button type="button" class="btn-main" (click)="adding = !adding">Add an asset</button>
        }
      </header>
      <div class="page-body" style="padding: 0" dlArrowRows>
        @if (adding) {
          <dl-asset-form (saved)="opened($event)" (closed)="adding = false; retry()" />
        }
        @if (list && list.is !== 'there') {
          <dl-state-note [state]="list" (again)="retry()" />
        } @else if (list) {
          <table class="rows">
            <thead>
              <tr>
                <th>Number</th>
                <th>Name</th>
                <th>Client</th>
                <th>Site</th>
                <th>Used by</th>
                <th class="num">Open tickets</th>
              </tr>
            </thead>
            <tbody>
              @for (a of list.value.assets; track a.id) {
                <tr>
                  <td>
                    <a class="ink-link mono" data-row [routerLink]="['/assets', a.id]">{{ a.number }}</a>
                  </td>
                  <td>
                    {{ a.name }} <span class="soft small">{{ a.make }}</span>
                  </td>
                  <td>{{ a.client }}</td>
                  <td>{{ a.site }}</td>
                  <td>{{ a.contact ?? '–' }}</td>
                  <td class="num">{{ a.openTickets || '–' }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="6"><dl-empty-note title="No asset fits">Take a filter away above, or add the asset.</dl-empty-note></td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
    </div>
  `,
})
export class AssetListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  private readonly again = new Subject<void>();
  protected adding = false;
  protected readonly query$ = inject(ActivatedRoute).queryParams.pipe(
    map((q) => q as { q?: string; clientId?: string }),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  protected readonly clients$ = this.api.call(clientRoutes.listClients, {}).pipe(
    map((a) => a.clients),
    shareReplay(1),
  );
  protected readonly list$ = loading(
    combineLatest([this.query$, merge(inject(Live).about('asset'), this.again).pipe(startWith(undefined))]),
    ([query]) => this.api.call(assetRoutes.listAssets, { query }),
  ).pipe(shareReplay({ bufferSize: 1, refCount: true }));

  protected set(queryParams: Record<string, string | undefined>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  protected retry(): void {
    this.again.next();
  }

  protected opened(assetId: string): void {
    this.adding = false;
    void this.router.navigate(['/assets', assetId]);
  }

  protected export(assets: readonly AssetWire[]): void {
    downloadCsv(
      'assets.csv',
      ['number', 'name', 'make', 'client', 'site', 'used by'],
      assets.map((a) => [a.number, a.name, a.make ?? '', a.client, a.site ?? '', a.contact ?? '']),
    );
  }
}
