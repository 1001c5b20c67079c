import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Loading } from './loading';

/** The waiting and the failed state of a page, each with what to do. */
@Component({
  selector: 'dl-state-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = state();
    @if (now.is === 'waiting') {
      <p class="soft note" role="status">Loading …</p>
    } @else if (now.is === 'failed') {
      <div class="note" role="alert">
        <h2>{{ now.problem.title }}</h2>
        <p>{{ now.problem.detail }}</p>
        <button type="button" class="btn-plain" (click)="again.emit()">Try again</button>
      </div>
    }
  `,
  styles: `
    .note {
      padding: 32px;
      display: grid;
      gap: 8px;
      justify-items: start;
      max-width: 560px;
    }
  `,
})
export class StateNote {
  readonly state = input.required<Loading<unknown>>();
  readonly again = output<void>();
}
