import { ChangeDetectionStrategy, Component, output } from '@angular/core';
import type { NamedWork } from '@core/ground';
import { WorkFinder } from '../../ui/work-finder';

/** Finds what is to be booked where it is not among the unbooked: internal work, or any ticket. */
@Component({
  selector: 'dl-other-work',
  imports: [WorkFinder],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <b>Book internal work, or any ticket</b>
      <span class="grow"></span>
      <button type="button" class="btn-link" (click)="closed.emit()">Close</button>
    </header>
    <dl-work-finder (chosen)="chosen.emit($event)" />
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 16px 12px;
    }
    header {
      display: flex;
      align-items: center;
      gap: 12px;
    }
    dl-work-finder {
      display: block;
      max-width: 560px;
    }
  `,
})
export class OtherWork {
  readonly chosen = output<NamedWork>();
  readonly closed = output<void>();
}
