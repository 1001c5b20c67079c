import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { SetupList } from '../../house/house/setup-list';
import { AsideList } from './aside-list';
import { mailRulesSection } from './mail-rules.section';

/** Where mail goes that opens no ticket by itself, and what was put aside. */
@Component({
  selector: 'dl-mail-page',
  imports: [AsideList, RouterLink, SetupList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <header class="page-head">
        <p class="small"><a routerLink="/setup">Setup</a></p>
        <h1>Mail</h1>
      </header>
      <div class="page-body">
        <dl-aside-list />
        <dl-setup-list [section]="rules" />
      </div>
    </div>
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
