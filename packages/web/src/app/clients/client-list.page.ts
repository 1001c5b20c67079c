import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, shareReplay, startWith, Subject } from 'rxjs';
import { clientRoutes, type ClientRowWire } from '@core/clients';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Session } from '../shell/session';
import { ArrowRows } from '../ui/arrow-rows';
import { downloadCsv } from '../ui/csv';
import { EmptyNote } from '../ui/empty-note';
import { loading } from '../ui/loading';
import { StateNote } from '../ui/state-note';
import { ClientFormPanel } from './client-form';

@Component({
  selector: 'dl-client-list-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, EmptyNote, StateNote, ClientFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let list = list$ | async;
    @let q = (query$ | async) ?? '';
    <div class="page">
      <header class="page-head">
        <h1>Clients</h1>
        <input
          class="in"
          style="width: 220px"
          type="text"
          aria-label="Words"
          placeholder="part of a name"
          [value]="q"
          (input)="set($any($event.target).value)"
        />
        <span class="grow"></span>
        @if (list && list.is === 'there') {
          <span class="soft small">{{ fitting(list.value.clients, q).length }} clients</span>
          <button type="button" class="btn-link" (click)="export(fitting(list.value.clients, q))">CSV</button>
        }
        @if (session.may('clients.edit')) {
          <button type="button" class="btn-main" (click)="adding = !adding">Add a client</button>
        }
      </header>
      <div class="page-body" style="padding: 0" dlArrowRows>
        @if (adding) {
          <dl-client-form (saved)="opened($event)" (closed)="adding = false; retry()" />
        }
        @if (list && list.is !== 'there') {
          <dl-state-note [state]="list" (again)="retry()" />
        } @else if (list) {
          <table class="rows">
            <thead>
              <tr>
                <th class="num">No.</th>
                <th>Name</th>
                <th class="num">Sites</th>
                <th class="num">Contacts</th>
                <th class="num">Open tickets</th>
                <th>Time zone</th>
              </tr>
            </thead>
            <tbody>
              @for (c of fitting(list.value.clients, q); track c.id) {
                <tr>
                  <td class="num soft">{{ c.number }}</td>
                  <td>
                    <a class="ink-link" data-row [routerLink]="['/clients', c.id]">{{ c.name }}</a>
                  </td>
                  <td class="num">{{ c.sites }}</td>
                  <td class="num">{{ c.contacts }}</td>
                  <td class="num">{{ c.openTickets || '–' }}</td>
                  <td class="soft">{{ c.zone }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="6"><dl-empty-note title="No client fits">Take words away above, or add the client.</dl-empty-note></td>
                </tr>
              }
            </tbody>
          </table>
        }
      </div>
    </div>
  `,
})
export class ClientListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly again = new Subject<void>();
  protected readonly session = inject(Session);
  protected adding = false;
  protected readonly query$ = inject(ActivatedRoute).queryParams.pipe(map((q) => String(q['q'] ?? '')));
  protected readonly list$ = loading(combineLatest([merge(inject(Live).about('client'), this.again).pipe(startWith(undefined))]), () =>
    this.api.call(clientRoutes.listClients, {}),
  ).pipe(shareReplay({ bufferSize: 1, refCount: true }));

  protected fitting(clients: readonly ClientRowWire[], q: string): readonly ClientRowWire[] {
    return clients.filter((c) => c.name.toLowerCase().includes(q.toLowerCase()) || String(c.number) === q);
  }

  protected set(q: string): void {
    void this.router.navigate([], { queryParams: { q: q || undefined }, replaceUrl: true });
  }

  protected retry(): void {
    this.again.next();
  }

  protected opened(clientId: string): void {
    this.adding = false;
    void this.router.navigate(['/clients', clientId]);
  }

  protected export(clients: readonly ClientRowWire[]): void {
    downloadCsv(
      'clients.csv',
      ['number', 'name', 'sites', 'contacts', 'open tickets', 'zone'],
      clients.map((c) => [String(c.number), c.name, String(c.sites), String(c.contacts), String(c.openTickets), c.zone]),
    );
  }
}
