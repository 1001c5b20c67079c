import { ChangeDetectionStrategy, Component, input, output, viewChild } from '@angular/core';
import type { ActionTime } from '@core/desk';
import type { Id } from '@core/ground';
import { ActionTimeStrip } from './action-time';

/** Asks how long it took before a ticket is resolved, where its kind asks for that. */
@Component({
  selector: 'dl-resolve-time',
  imports: [ActionTimeStrip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="panel" aria-label="Time of resolving">
      <b>How long did it take?</b>
      <dl-action-time #took [workId]="ticketId()" action="resolve" />
      <button type="button" class="btn-main" [disabled]="!took.ready()" (click)="go()">Resolve it</button>
      <button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
    </section>
  `,
  styles: `
    section {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 16px;
      align-items: center;
      padding: 10px 16px;
      margin-bottom: 12px;
    }
  `,
})
export class ResolveTime {
  readonly ticketId = input.required<Id<'ticket'>>();
  readonly resolved = output<ActionTime | null>();
  readonly closed = output<void>();
  private readonly strip = viewChild.required(ActionTimeStrip);

  protected go(): void {
    const time = this.strip().take();
    if (time !== undefined) this.resolved.emit(time);
  }

  /** Shows what was refused of the time; answers whether something else was. */
  refused(fields: Readonly<Record<string, string>> | undefined): boolean {
    return !this.strip().refused(fields);
  }
}
