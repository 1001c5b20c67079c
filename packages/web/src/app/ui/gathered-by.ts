import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** What a report is gathered by: one of a few, each one press away. */
@Component({
  selector: 'dl-gathered-by',
  host: { role: 'group', 'aria-label': 'Gathered by' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (c of choices(); track c) {
      <button type="button" class="btn-plain" [class.on]="c === by()" [attr.aria-pressed]="c === by()" (click)="chosen.emit(c)">
        by {{ c }}
      </button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .on {
      background: var(--wash);
    }
  `,
})
export class GatheredByChoice {
  readonly choices = input.required<readonly string[]>();
  readonly by = input.required<string>();
  readonly chosen = output<string>();
}
