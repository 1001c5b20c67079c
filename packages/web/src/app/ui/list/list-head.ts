import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { ListState } from './list-state';

/** The head of a list's page: its name, its filters, the count, and what can be done. */
@Component({
  selector: 'dl-list-head',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = list().list$ | async;
    <header class="page-head">
      <h1>{{ title() }}</h1>
      <ng-content select="[filter]" />
      <span class="grow"></span>
      @if (now && now.is === 'there') {
        <span class="soft small" role="status">{{ now.value.countCapped ? '1,000+' : now.value.count }} {{ noun() }}</span>
      }
      <ng-content />
    </header>
  `,
  styles: `
    .page-head {
      padding: 8px 16px;
      gap: 6px;
    }
  `,
})
export class ListHead<Row extends { readonly id: string }> {
  readonly list = input.required<ListState<Row>>();
  readonly title = input.required<string>();
  readonly noun = input.required<string>();
}
