import { ChangeDetectionStrategy, Component } from '@angular/core';
import { SetupList } from '../../ui/setup-list';
import { requestFormsSection } from '../request-forms/request-forms.section';
import { routinesSection } from '../routines/routines.section';
import { checklistsSection, templatesSection } from './templates.section';
import { SetupPart } from '../../ui/setup-part';

/** What is written once and used again: templates, checklists, routine work and request forms. */
@Component({
  selector: 'dl-templates-page',
  imports: [SetupPart, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-setup-part heading="Templates and routine work">
      <dl-setup-list #templates [section]="written" (changed)="routines.reload()" />
      <dl-setup-list [section]="checklists" />
      <dl-setup-list #routines [section]="turns" />
      <dl-setup-list [section]="forms" />
    </dl-setup-part>
  `,
})
export class TemplatesPage {
  protected readonly written = templatesSection();
  protected readonly checklists = checklistsSection();
  protected readonly turns = routinesSection();
  protected readonly forms = requestFormsSection();
}
