import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { NgbPopover } from '@ng-bootstrap/ng-bootstrap/popover';
import { type Explanation, type Figure, formatMoney, formatSeconds } from '@core/ground';
import { Session } from '../shell/session';
import { nearTime } from './time-format';

/** Opens the steps and numbers behind a figure. */
@Component({
  selector: 'dl-why',
  imports: [NgbPopover],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      class="btn-link why"
      [ngbPopover]="steps"
      popoverClass="why-pop"
      [autoClose]="'outside'"
      container="body"
      [attr.aria-label]="'Why: ' + of()"
    >
      why
    </button>
    <ng-template #steps>
      <p class="why-title">{{ of() }}</p>
      <table class="why-steps">
        @for (step of explanation(); track $index) {
          <tr>
            <td>{{ step.rule }}</td>
            <td class="num">{{ step.figure ? words(step.figure) : '' }}</td>
          </tr>
        }
      </table>
    </ng-template>
  `,
  styles: `
    .why {
      font-size: 12.5px;
      min-height: 24px;
      margin: -2px 0;
    }
  `,
})
export class Why {
  private readonly session = inject(Session);
  readonly explanation = input.required<Explanation>();
  readonly of = input.required<string>();

  protected words(figure: Figure): string {
    switch (figure.unit) {
      case 'instant':
        return nearTime(figure.value * 1000, this.session.now(), this.session.zone);
      case 'seconds':
        return formatSeconds(figure.value);
      case 'money':
        return formatMoney(figure.value);
      case 'text':
        return figure.value;
    }
  }
}
