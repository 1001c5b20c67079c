import { ChangeDetectionStrategy, Component } from '@angular/core';
import { fieldsSection } from '../own-fields/fields.section';
import { conditionsSection } from './conditions.section';
import { kindsSection } from '../kinds/kinds.section';
import { statusesSection } from '../statuses/statuses.section';
import { KindRules } from '../kinds/kind-rules';
import { SetupList } from '../../ui/setup-list';
import { SetupPart } from '../../ui/setup-part';

/** The house's own fields on records, what tickets are asked for, and what stands in the way of their moves. */
@Component({
  selector: 'dl-ticket-rules-page',
  imports: [SetupPart, KindRules, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-setup-part heading="Own fields and rules of tickets">
      <dl-setup-list [section]="fields" />
      <dl-setup-list [section]="conditions" />
      <dl-kind-rules />
      <dl-setup-list [section]="kinds" />
      <dl-setup-list [section]="statuses" />
    </dl-setup-part>
  `,
})
export class TicketRulesPage {
  protected readonly fields = fieldsSection();
  protected readonly conditions = conditionsSection();
  protected readonly statuses = statusesSection();
  protected readonly kinds = kindsSection();
}
