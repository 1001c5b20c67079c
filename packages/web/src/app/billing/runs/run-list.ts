import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { runRoutes, type RunRowWire } from '@core/billing';
import { formatMoney, plainMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { EmptyNote } from '../../ui/empty-note';
import type { Column } from '../../ui/list/column';
import { List } from '../../ui/list/list';
import { ListState } from '../../ui/list/list-state';
import { nearTime, plainDate } from '../../ui/time-format';
import { RUN_STATE_WORDS } from './run-words';

/** Runs, the newest first: what each came to and who prepared it. */
@Component({
  selector: 'dl-run-list',
  imports: [EmptyNote, List],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-list [list]="list" [columns]="columns" label="Billing runs" usualSort="-on">
      <dl-empty-note title="No run yet">Prepare one above: it shows what is due by a day before anything is issued.</dl-empty-note>
    </dl-list>
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class RunList {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly columns: readonly Column<RunRowWire>[] = [
    { key: 'on', head: 'Run for', text: (r) => plainDate(r.on), file: (r) => r.on, link: (r) => `/billing/runs/${r.id}`, sort: '-on' },
    { key: 'state', head: 'State', text: (r) => RUN_STATE_WORDS[r.state], width: '120px' },
    { key: 'by', head: 'Prepared by', text: (r) => r.preparedBy, kind: 'soft' },
    {
      key: 'at',
      head: 'Prepared',
      text: (r) => nearTime(Date.parse(r.preparedAt), this.session.now(), this.session.zone),
      file: (r) => r.preparedAt,
      kind: 'soft',
      width: '150px',
    },
    { key: 'issued', head: 'Issued', text: (r) => `${r.issued} of ${r.invoices}`, kind: 'figure', width: '110px' },
    { key: 'net', head: 'Before tax', text: (r) => formatMoney(r.net), file: (r) => plainMoney(r.net), kind: 'figure', width: '140px' },
  ];
  protected readonly list = new ListState<RunRowWire>({
    name: 'runs',
    topics: ['run'],
    ownWords: ['show'],
    load: (_, page) => this.api.call(runRoutes.listRuns, { query: page }),
  });
}
