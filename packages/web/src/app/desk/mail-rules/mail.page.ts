import { ChangeDetectionStrategy, Component } from '@angular/core';
import { SetupList } from '../../ui/setup-list';
import { AsideList } from './aside-list';
import { mailRulesSection } from './mail-rules.section';
import { SetupPart } from '../../ui/setup-part';

/** Where mail goes that opens no ticket by itself, and what was put aside. */
@Component({
  selector: 'dl-mail-page',
  imports: [SetupPart, AsideList, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-setup-part heading="Mail">
      <dl-aside-list />
      <dl-setup-list [section]="rules" />
    </dl-setup-part>
  `,
  styles: `
    dl-aside-list {
      display: block;
      max-width: 900px;
      margin-bottom: 32px;
    }
  `,
})
export class MailPage {
  protected readonly rules = mailRulesSection();
}
