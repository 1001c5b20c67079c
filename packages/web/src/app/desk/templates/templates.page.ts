import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { SetupList } from '../../house/house/setup-list';
import { requestFormsSection } from '../request-forms/request-forms.section';
import { routinesSection } from '../routines/routines.section';
import { checklistsSection, templatesSection } from './templates.section';

/** What is written once and used again: templates, checklists, routine work and request forms. */
@Component({
  selector: 'dl-templates-page',
  imports: [RouterLink, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <header class="page-head">
        <p class="small"><a routerLink="/setup">Setup</a></p>
        <h1>Templates and routine work</h1>
      </header>
      <div class="page-body">
        <dl-setup-list #templates [section]="written" (changed)="routines.reload()" />
        <dl-setup-list [section]="checklists" />
        <dl-setup-list #routines [section]="turns" />
        <dl-setup-list [section]="forms" />
      </div>
    </div>
  `,
})
export class TemplatesPage {
  protected readonly written = templatesSection();
  protected readonly checklists = checklistsSection();
  protected readonly turns = routinesSection();
  protected readonly forms = requestFormsSection();
}
