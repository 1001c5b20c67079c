import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, startWith, Subject } from 'rxjs';
import { teamWeekRoutes, type TeamWeekWire } from '@core/time';
import { plusDays, type LocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { loading } from '../../ui/loading';
import { MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { isoDay, shortDay } from '../../ui/time-format';

/** So many are named; all stand in the table. */
const NAMED = 6;
type Person = TeamWeekWire['people'][number];

/** A week of the team's time: what is expected and recorded by day, and who is not complete. */
@Component({
  selector: 'dl-team-week-page',
  imports: [AsyncPipe, MinutesPipe, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = week$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now) {
      @let w = now.value;
      @let people = of(w);
      <div class="page">
        <header class="page-head">
          <p class="small"><a routerLink="/my-time">My time</a></p>
          <h1>Time of the team</h1>
          <button type="button" class="btn-plain" (click)="go(w, -7)" aria-label="The week before">‹</button
          ><button type="button" class="btn-plain" (click)="go(w, 7)" aria-label="The week after">›</button
          ><button type="button" class="btn-plain" (click)="show(undefined)">This week</button>
          <select #selectBox class="in team" aria-label="Team" (change)="narrow(selectBox.value || undefined)">
            <option value="" [selected]="!team()">every team</option>
            @for (t of teams(w); track t) {
              <option [value]="t" [selected]="t === team()">{{ t }}</option>
            }
          </select>
          <span class="grow"></span>
          @if (session.may('time.approve')) {
            <a class="btn-link" routerLink="/my-time/absences">Absences</a>
            <a class="btn-link" routerLink="/my-time/hours">Hours</a>
          }
          @if (session.may('expenses.pay')) {
            <a class="btn-link" routerLink="/reimbursements">Reimbursements</a>
          }
        </header>
        <div class="page-body">
          <p>
            @if (waiting(people); as n) {
              <b>{{ n }}</b> entries and expenses wait for approval<span class="late">{{
                odd(people) ? ', ' + odd(people) + ' of them odd' : ''
              }}</span
              >.
            }
            @if (late(people).length) {
              <b class="late">{{ late(people).length }}</b> of {{ people.length }} are not complete: {{ names(late(people)) }}.
            } @else {
              Everybody's time is complete up to the last day that is over.
            }
          </p>
          <table class="rows">
            <thead>
              <tr>
                <th>Technician</th>
                @for (day of w.days; track day) {
                  <th class="num">{{ dayName(day) }}</th>
                }
                <th class="num">Week</th>
                <th>Approval</th>
                <th>Complete up to</th>
              </tr>
            </thead>
            <tbody>
              @for (p of people; track p.id) {
                <tr>
                  <td>
                    @if (session.may('time.approve')) {
                      <a class="ink-link" [routerLink]="['/my-time/team', p.id]" [queryParams]="{ day: w.days[0] }">{{ p.name }}</a>
                    } @else {
                      {{ p.name }}
                    }
                    <br /><span class="soft small">{{ p.team }}</span>
                  </td>
                  @for (d of p.days; track d.day) {
                    <td class="num mono" [title]="d.closed ? 'closed' : ''">
                      @if (d.expectedMinutes || d.recordedMinutes) {
                        <span [class.late]="isOver(d.day) && d.recordedMinutes < d.expectedMinutes">{{
                          d.recordedMinutes | minutes
                        }}</span><br /><span class="soft small">{{ d.closed ? 'closed, ' : '' }}of {{ d.expectedMinutes | minutes }}</span>
                      }
                    </td>
                  }
                  <td class="num mono">
                    {{ recorded(p) | minutes }}<br /><span class="soft small">of {{ expected(p) | minutes }}</span>
                  </td>
                  <td>
                    <span [class.met]="!p.waiting && !p.returned && p.approvedMinutes">{{ stands(p) }}</span>
                    @if (p.odd) {
                      <br /><span class="late small">{{ p.odd }} odd</span>
                    }
                  </td>
                  <td>
                    <span [class.late]="!p.complete" [class.met]="p.complete">{{
                      p.completeUpTo ? dayName(p.completeUpTo) : 'not declared'
                    }}</span>
                  </td>
                </tr>
              }
            </tbody>
          </table>
        </div>
      </div>
    }
  `,
})
export class TeamWeekPage {
  readonly day = input<string>();
  /** The name of a team; all where nothing is said. */
  readonly team = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly week$ = loading(
    combineLatest([toObservable(this.day), merge(inject(Live).about('entry'), this.again).pipe(startWith(undefined))]).pipe(
      map(([day]) => day),
    ),
    (day) => this.api.call(teamWeekRoutes.getTeamWeek, { query: day ? { day } : {} }),
  );

  protected show(day: string | undefined): void {
    void this.router.navigate([], { queryParams: { day }, queryParamsHandling: 'merge' });
  }

  protected narrow(team: string | undefined): void {
    void this.router.navigate([], { queryParams: { team }, queryParamsHandling: 'merge' });
  }

  protected teams(w: TeamWeekWire): string[] {
    return [...new Set(w.people.flatMap((p) => p.team ?? []))];
  }

  protected of(w: TeamWeekWire): Person[] {
    return w.people.filter((p) => !this.team() || p.team === this.team());
  }

  protected go(w: TeamWeekWire, days: number): void {
    this.show(plusDays(w.days[0]! as LocalDate, days));
  }

  protected late(people: readonly Person[]): Person[] {
    return people.filter((p) => !p.complete);
  }

  protected waiting(people: readonly Person[]): number {
    return people.reduce((sum, p) => sum + p.waiting, 0);
  }

  protected odd(people: readonly Person[]): number {
    return people.reduce((sum, p) => sum + p.odd, 0);
  }

  protected stands(p: Person): string {
    const parts = [p.waiting ? `${p.waiting} wait` : '', p.returned ? `${p.returned} returned` : ''].filter(Boolean);
    return parts.join(', ') || (p.approvedMinutes ? 'approved' : '');
  }

  protected names(people: readonly Person[]): string {
    const more = people.length > NAMED ? [`and ${people.length - NAMED} more`] : [];
    return [...people.slice(0, NAMED).map((p) => p.name), ...more].join(', ');
  }

  /** Today may still be filled. */
  protected isOver(day: string): boolean {
    return day < isoDay(this.session.now(), this.session.zone);
  }

  protected readonly dayName = shortDay;

  protected recorded(p: Person): number {
    return p.days.reduce((sum, d) => sum + d.recordedMinutes, 0);
  }

  protected expected(p: Person): number {
    return p.days.reduce((sum, d) => sum + d.expectedMinutes, 0);
  }
}
