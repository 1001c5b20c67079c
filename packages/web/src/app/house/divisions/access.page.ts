import { ChangeDetectionStrategy, Component } from '@angular/core';
import { SetupList } from '../../ui/setup-list';
import { accessSection } from './access.section';
import { divisionsSection } from './divisions.section';
import { SetupPart } from '../../ui/setup-part';

/** What divisions have of their own, and who may do what in them. */
@Component({
  selector: 'dl-access-page',
  imports: [SetupPart, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-setup-part heading="Divisions and access">
      <dl-setup-list [section]="divisions" />
      <dl-setup-list [section]="access" />
    </dl-setup-part>
  `,
})
export class AccessPage {
  protected readonly divisions = divisionsSection();
  protected readonly access = accessSection();
}
