import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';

/** A page of Setup: the way back, its heading, what is done on the whole of it (`ngProjectAs="[setupAct]"`), and under that its content. */
@Component({
  selector: 'dl-setup-part',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <header class="page-head">
        <p class="small"><a routerLink="/setup">Setup</a></p>
        <h1>{{ heading() }}</h1>
        <span class="grow"></span>
        <ng-content select="[setupAct]" />
      </header>
      <div class="page-body"><ng-content /></div>
    </div>
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class SetupPart {
  readonly heading = input.required<string>();
}
