import { ChangeDetectionStrategy, Component, inject, input, linkedSignal } from '@angular/core';
import { Router } from '@angular/router';
import { CONTRACT_STATES, type ContractFilter, contractRoutes, type ContractRowWire } from '@core/contracts';
import { ViewMenu } from '../../house';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { EmptyNote } from '../../ui/empty-note';
import type { Column } from '../../ui/list/column';
import { FilterChoice, FilterWords } from '../../ui/list/filters';
import { List } from '../../ui/list/list';
import { ListHead } from '../../ui/list/list-head';
import { ListState } from '../../ui/list/list-state';
import { RecordFormPanel } from '../../ui/record-form';
import { plainDate } from '../../ui/time-format';
import { newContractForm } from './contract-forms';

const COLUMNS: readonly Column<ContractRowWire>[] = [
  { key: 'number', head: 'Number', text: (c) => String(c.number), kind: 'code', sort: 'number', width: '90px' },
  { key: 'client', head: 'Client', text: (c) => c.client, sort: 'client' },
  { key: 'name', head: 'Contract', text: (c) => c.name, link: (c) => `/contracts/${c.number}`, sort: 'name' },
  { key: 'state', head: 'State', text: (c) => c.state, width: '90px' },
  { key: 'covers', head: 'Covers', text: (c) => c.covers, kind: 'soft' },
  { key: 'lines', head: 'Billed again', text: (c) => c.lines, kind: 'soft' },
  { key: 'start', head: 'First day', text: (c) => plainDate(c.startsOn), file: (c) => c.startsOn, sort: 'start', width: '110px' },
  { key: 'last', head: 'Last day', text: (c) => (c.lastDay ? plainDate(c.lastDay) : ''), file: (c) => c.lastDay ?? '', width: '110px' },
];

/** All contracts: with whom, what they cover, from when to when. */
@Component({
  selector: 'dl-contract-list-page',
  imports: [EmptyNote, FilterChoice, FilterWords, List, ListHead, RecordFormPanel, ViewMenu],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <dl-list-head [list]="list" title="Contracts" noun="contracts">
        <dl-filter-words filter [list]="list" label="Contract or client" />
        <dl-filter-choice filter [list]="list" name="state" label="State" any="every state" [options]="states" />
        <dl-view-menu name="contracts" [list]="list" [columns]="columns" />
        @if (session.may('contracts.edit')) {
          <button type="button" class="btn-main" (click)="adding.set(!adding())">Draw up a contract</button>
        }
      </dl-list-head>
      @if (adding()) {
        <dl-record-form [form]="forms.form()" [lines]="forms.lines()" (saved)="opened($event)" (closed)="adding.set(false)" />
      }
      <dl-list [list]="list" [columns]="columns" label="Contracts" usualSort="client" [named]="nameOf">
        <dl-empty-note title="No contract fits">Take a filter away above, or draw one up.</dl-empty-note>
      </dl-list>
    </div>
  `,
})
export class ContractListPage {
  /** From a client's page: the client for whom one is drawn up. */
  readonly newFor = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly adding = linkedSignal(() => Boolean(this.newFor()));
  protected readonly forms = newContractForm(linkedSignal(() => this.newFor() ?? ''));
  protected readonly columns = COLUMNS;
  protected readonly states = CONTRACT_STATES.map((value) => ({ value, label: value }));
  protected readonly nameOf = (c: ContractRowWire): string => `${c.number} ${c.name}`;
  protected readonly list = new ListState<ContractRowWire>({
    name: 'contracts',
    topics: ['contract'],
    load: (query, page) => this.api.call(contractRoutes.listContracts, { query: { ...(query as Partial<ContractFilter>), ...page } }),
  });

  protected opened(contractId: string): void {
    this.adding.set(false);
    void this.router.navigate(['/contracts', contractId]);
  }
}
