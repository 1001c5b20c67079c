import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, startWith, Subject } from 'rxjs';
import { absenceRoutes, sayDays, type AbsenceWire } from '@core/time';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { EmptyNote } from '../../ui/empty-note';
import { loading } from '../../ui/loading';
import { DatePipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';
import { Why } from '../../ui/why';
import { AbsenceAsk } from './absence-ask';
import { TeamAbsences } from './team-absences';
import { WaitingAbsences } from './waiting-absences';

/** One's own time off: what is left of the year, what was asked for, and who of the team is missing when. */
@Component({
  selector: 'dl-absences-page',
  imports: [AbsenceAsk, AsyncPipe, DatePipe, EmptyNote, RouterLink, StateNote, TeamAbsences, WaitingAbsences, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './absences.page.html',
  styleUrl: './absences.page.css',
})
export class AbsencesPage {
  readonly year = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly asking = signal(false);
  protected readonly days = sayDays;
  protected readonly now$ = loading(
    combineLatest([toObservable(this.year), merge(inject(Live).mine(['booking', 'entry']), this.again).pipe(startWith(undefined))]).pipe(
      map(() => this.shown()),
    ),
    (year) => this.api.call(absenceRoutes.listAbsences, { query: { year } }),
  );

  protected shown(): number {
    return Number(this.year() ?? isoDay(this.session.now(), this.session.zone).slice(0, 4));
  }

  protected go(years: number): void {
    void this.router.navigate([], { queryParams: { year: this.shown() + years }, queryParamsHandling: 'merge' });
  }

  protected mayWithdraw(a: AbsenceWire): boolean {
    return a.state === 'requested' || (a.state === 'approved' && a.from > isoDay(this.session.now(), this.session.zone));
  }

  protected withdraw(a: AbsenceWire): void {
    this.api.call(absenceRoutes.withdrawAbsence, { params: { absenceId: a.id }, version: a.version }).subscribe({
      next: () => (this.toasts.done('Withdrawn'), this.again.next()),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }

  protected asked(): void {
    this.asking.set(false);
    this.again.next();
  }
}
