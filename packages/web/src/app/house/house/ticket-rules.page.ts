import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { fieldsSection } from '../../desk/own-fields/fields.section';
import { conditionsSection } from './conditions.section';
import { kindsSection } from '../../desk/kinds/kinds.section';
import { statusesSection } from '../../desk/statuses/statuses.section';
import { KindRules } from './kind-rules';
import { SetupList } from './setup-list';

/** What tickets are asked for, and what stands in the way of their moves. */
@Component({
  selector: 'dl-ticket-rules-page',
  imports: [KindRules, RouterLink, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <header class="page-head">
        <p class="small"><a routerLink="/setup">Setup</a></p>
        <h1>What tickets are asked for</h1>
      </header>
      <div class="page-body">
        <dl-setup-list [section]="fields" />
        <dl-setup-list [section]="conditions" />
        <dl-kind-rules />
        <dl-setup-list [section]="kinds" />
        <dl-setup-list [section]="statuses" />
      </div>
    </div>
  `,
})
export class TicketRulesPage {
  protected readonly fields = fieldsSection();
  protected readonly conditions = conditionsSection();
  protected readonly statuses = statusesSection();
  protected readonly kinds = kindsSection();
}
