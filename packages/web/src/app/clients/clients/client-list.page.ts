import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { clientRoutes, type ClientFilter, type ClientRowWire } from '@core/clients';
import type { Id } from '@core/ground';
import { ViewMenu } from '../../house';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { EmptyNote } from '../../ui/empty-note';
import { ArchiveBar } from '../../ui/list/archive-bar';
import type { Column } from '../../ui/list/column';
import { FilterChoice, FilterWords } from '../../ui/list/filters';
import { List } from '../../ui/list/list';
import { ListHead } from '../../ui/list/list-head';
import { ListState } from '../../ui/list/list-state';
import { RecordFormPanel } from '../../ui/record-form';
import { clientForms } from './client-form';

const COLUMNS: readonly Column<ClientRowWire>[] = [
  { key: 'number', head: 'No.', text: (c) => String(c.number), kind: 'figure', sort: 'number', width: '70px' },
  { key: 'name', head: 'Name', text: (c) => c.name, link: (c) => `/clients/${c.id}`, sort: 'name' },
  { key: 'sites', head: 'Sites', text: (c) => String(c.sites), kind: 'figure', width: '90px' },
  { key: 'contacts', head: 'Contacts', text: (c) => String(c.contacts), kind: 'figure', sort: '-contacts', width: '110px' },
  { key: 'tickets', head: 'Open tickets', text: (c) => String(c.openTickets), kind: 'figure', sort: '-tickets', width: '130px' },
  { key: 'zone', head: 'Time zone', text: (c) => c.zone, kind: 'soft', width: '200px' },
];

@Component({
  selector: 'dl-client-list-page',
  imports: [ArchiveBar, EmptyNote, FilterChoice, FilterWords, List, ListHead, RecordFormPanel, ViewMenu],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <dl-list-head [list]="list" title="Clients" noun="clients">
        <dl-filter-words filter [list]="list" label="Number or name" />
        <dl-filter-choice filter [list]="list" name="archived" label="Put away" any="served now" [options]="away" />
        <dl-view-menu name="clients" [list]="list" [columns]="columns" />
        @if (session.may('clients.edit')) {
          <button type="button" class="btn-main" (click)="adding = !adding">Add a client</button>
        }
      </dl-list-head>
      @if (adding) {
        <dl-record-form [form]="form" [lines]="lines()" (saved)="opened($event)" (closed)="adding = false; list.retry()" />
      }
      <dl-archive-bar [list]="list" [archive]="archive" />
      <dl-list
        [list]="list"
        [columns]="columns"
        label="Clients"
        usualSort="name"
        [choosable]="session.may('clients.edit')"
        [named]="nameOf"
      >
        <dl-empty-note title="No client fits">Take a filter away above, or add the client.</dl-empty-note>
      </dl-list>
    </div>
  `,
})
export class ClientListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  private readonly forms = clientForms(signal(null));
  protected readonly form = this.forms.add();
  protected readonly lines = this.forms.addLines;
  protected readonly columns = COLUMNS;
  protected readonly away = [{ value: 'yes', label: 'put away' }];
  protected readonly nameOf = (c: ClientRowWire): string => c.name;
  protected readonly archive = (clientId: Id<'client'>, version: number, archived: boolean) =>
    this.api.call(clientRoutes.archiveClient, { params: { clientId }, version, body: { archived } });
  protected adding = false;
  protected readonly list = new ListState<ClientRowWire>({
    name: 'clients',
    topics: ['client'],
    load: (query, page) => this.api.call(clientRoutes.listClients, { query: { ...(query as Partial<ClientFilter>), ...page } }),
  });

  protected opened(clientId: Id<'client'>): void {
    this.adding = false;
    void this.router.navigate(['/clients', clientId]);
  }
}
