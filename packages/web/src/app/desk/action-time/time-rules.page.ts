import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { AbsenceGrants } from '../../time/absences/absence-grants';
import { absenceKindsSection } from '../../time/absences/absence-kinds.section';
import { LongTime } from '../../time/approval/long-time';
import { DistanceSettingsForm } from '../../time/expenses/distance-settings';
import { expenseCategoriesSection } from '../../time/expenses/expense-categories.section';
import { SetupList } from '../../house/house/setup-list';
import { internalWorkSection } from '../../time/internal-work/internal-work.section';
import { TimeAsked } from './time-asked';

/** What asks for its time and what may be chosen for it, and what else is recorded: internal work, expenses, distances, absence. */
@Component({
  selector: 'dl-time-rules-page',
  imports: [AbsenceGrants, DistanceSettingsForm, LongTime, RouterLink, SetupList, TimeAsked],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <header class="page-head">
        <p class="small"><a routerLink="/setup">Setup</a></p>
        <h1>Time, expenses and absence</h1>
      </header>
      <div class="page-body">
        <dl-time-asked />
        <dl-setup-list [section]="internal" />
        <dl-setup-list [section]="categories" />
        <dl-distance-settings />
        <dl-long-time />
        <dl-setup-list [section]="kinds" (changed)="grants.reload()" />
        <dl-absence-grants #grants />
      </div>
    </div>
  `,
})
export class TimeRulesPage {
  protected readonly internal = internalWorkSection();
  protected readonly categories = expenseCategoriesSection();
  protected readonly kinds = absenceKindsSection();
}
