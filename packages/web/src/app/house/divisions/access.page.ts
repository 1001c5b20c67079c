import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { SetupList } from '../house/setup-list';
import { accessSection } from './access.section';
import { divisionsSection } from './divisions.section';

/** What divisions have of their own, and who may do what in them. */
@Component({
  selector: 'dl-access-page',
  imports: [RouterLink, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <header class="page-head">
        <p class="small"><a routerLink="/setup">Setup</a></p>
        <h1>Divisions and access</h1>
      </header>
      <div class="page-body">
        <dl-setup-list [section]="divisions" />
        <dl-setup-list [section]="access" />
      </div>
    </div>
  `,
})
export class AccessPage {
  protected readonly divisions = divisionsSection();
  protected readonly access = accessSection();
}
