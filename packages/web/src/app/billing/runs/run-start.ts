import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { runRoutes } from '@core/billing';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DateInput } from '../../ui/date-input';
import { DatePipe } from '../../ui/pipes';
import { isoDay } from '../../ui/time-format';
import { openRun$ } from './open-run';

/** The way into a run: into the one that is open, or into a new one for a day. */
@Component({
  selector: 'dl-run-start',
  imports: [AsyncPipe, DateInput, DatePipe, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let open = open$ | async;
    @if (open?.run; as run) {
      <a class="btn-main" [routerLink]="['/billing/runs', run.id]"
        >Run for {{ run.on | date }}: {{ run.invoices - run.issued }} to look at</a
      >
    } @else if (open && session.may('invoices.issue')) {
      <span class="soft small">All that is due by</span>
      <dl-date label="Run for" [value]="on()" (changed)="$event && on.set($event)" />
      <button type="button" class="btn-main" [disabled]="busy()" (click)="prepare()">Prepare a run</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 8px;
      align-items: center;
    }
  `,
})
export class RunStart {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly busy = signal(false);
  protected readonly on = signal(isoDay(this.session.now(), this.session.zone));
  protected readonly open$ = openRun$();

  protected prepare(): void {
    this.busy.set(true);
    this.api.call(runRoutes.prepareRun, { body: { on: this.on() } }).subscribe({
      next: ({ id }) => void this.router.navigate(['/billing/runs', id]),
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
      },
    });
  }
}
