import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** Says what belongs here, and offers the first step as its content. */
@Component({
  selector: 'dl-empty-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<h2>{{ title() }}</h2>
    <p class="soft"><ng-content /></p>`,
  styles: `
    :host {
      display: grid;
      gap: 4px;
      padding: 32px 24px;
      max-width: 520px;
    }
  `,
})
export class EmptyNote {
  readonly title = input.required<string>();
}
