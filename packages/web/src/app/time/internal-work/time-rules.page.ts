import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { TimeAsked } from '../../desk';
import { costRatesSection } from '../../house';
import { Session } from '../../shell/session';
import { AbsenceGrants } from '../absences/absence-grants';
import { absenceKindsSection } from '../absences/absence-kinds.section';
import { LongTime } from '../approval/long-time';
import { DistanceSettingsForm } from '../expenses/distance-settings';
import { expenseCategoriesSection } from '../expenses/expense-categories.section';
import { SetupList } from '../../ui/setup-list';
import { internalWorkSection } from './internal-work.section';
import { SetupPart } from '../../ui/setup-part';

/** What asks for its time and what may be chosen for it, and what else is recorded: internal work, expenses, distances, absence. */
@Component({
  selector: 'dl-time-rules-page',
  imports: [SetupPart, AbsenceGrants, DistanceSettingsForm, LongTime, SetupList, TimeAsked],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-setup-part heading="Time, expenses and absence">
      <dl-time-asked />
      <dl-setup-list [section]="internal" />
      <dl-setup-list [section]="categories" />
      <dl-distance-settings />
      @if (session.may('costs.read')) {
        <dl-setup-list [section]="costs" />
      }
      <dl-long-time />
      <dl-setup-list [section]="kinds" (changed)="grants.reload()" />
      <dl-absence-grants #grants />
    </dl-setup-part>
  `,
})
export class TimeRulesPage {
  protected readonly session = inject(Session);
  protected readonly costs = costRatesSection();
  protected readonly internal = internalWorkSection();
  protected readonly categories = expenseCategoriesSection();
  protected readonly kinds = absenceKindsSection();
}
