import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Id } from '@core/ground';
import { WorkFinder, type WorkedOn } from '../../ui/work-finder';
import type { RowHead } from './kept-cells';

/** Picks work, and how it was done. */
@Component({
  selector: 'dl-row-adder',
  imports: [WorkFinder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-label="Add a row">
      <label
        >How
        <select class="in" #how>
          @for (a of activities(); track a.id) {
            <option [value]="a.id">{{ a.name }}</option>
          }
        </select></label
      >
      <dl-work-finder class="grow" (chosen)="take(how.value, $event)" />
      <button type="button" class="btn-link" (click)="closed.emit()">Close</button>
    </section>
  `,
  styles: `
    section {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 16px;
      align-items: start;
      padding: 12px 16px;
      margin: 8px 0;
    }
    label {
      display: grid;
      gap: 3px;
      font-size: 12.5px;
      font-weight: 600;
      color: var(--ink-soft);
    }
  `,
})
export class RowAdder {
  readonly activities = input.required<readonly { readonly id: string; readonly name: string }[]>();
  readonly chosen = output<RowHead>();
  readonly closed = output<void>();

  protected take(activityId: Id<'activity'>, work: WorkedOn): void {
    this.chosen.emit({ ...work, activityId, activity: this.activities().find((a) => a.id === activityId)!.name });
  }
}
