import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, map, merge, startWith, Subject } from 'rxjs';
import { absenceRoutes, type MissingWire } from '@core/time';
import { plusDays, weekdayOf, type LocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { loading } from '../../ui/loading';
import { monthOf } from '../../ui/spans';
import { StateNote } from '../../ui/state-note';
import { isoDay, saySpan } from '../../ui/time-format';

interface Cell {
  readonly day: string;
  readonly free: boolean;
  readonly says: string;
  readonly away: MissingWire | undefined;
}
const LAST_WORKING_DAY = 5;

/** A month of the team: who is missing when; what is only asked for is outlined. */
@Component({
  selector: 'dl-team-absences',
  imports: [AsyncPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section aria-label="The team">
      <h2>
        The team, {{ title() }} <button type="button" class="btn-plain" (click)="go(1)" aria-label="The month before">‹</button
        ><button type="button" class="btn-plain" (click)="go(-1)" aria-label="The month after">›</button>
      </h2>
      @if (now && now.is === 'failed') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now && now.is === 'there') {
        <div class="scroll">
          <table>
            <thead>
              <tr>
                <th scope="col">Technician</th>
                @for (d of now.value.days; track d.day) {
                  <th scope="col" class="mono" [class.free]="d.free" [title]="d.says">{{ d.number }}</th>
                }
              </tr>
            </thead>
            <tbody>
              @for (p of now.value.people; track p.id) {
                <tr>
                  <th scope="row">{{ p.name }}</th>
                  @for (c of p.cells; track c.day) {
                    <td [class.free]="c.free" [title]="c.says">
                      @if (c.away; as a) {
                        <span class="away" [class.asked]="!a.decided"
                          ><span class="visually-hidden">{{ c.says }}</span></span
                        >
                      }
                    </td>
                  }
                </tr>
              }
            </tbody>
          </table>
        </div>
        <p class="small soft">Filled: away. Outlined: asked for and not decided yet.</p>
      }
    </section>
  `,
  styles: `
    h2 {
      display: flex;
      gap: 8px;
      align-items: center;
      margin: 0 0 8px;
    }
    .scroll {
      overflow-x: auto;
    }
    table {
      border-collapse: collapse;
      width: 100%;
      table-layout: fixed;
    }
    th:first-child {
      width: 170px;
      text-align: left;
      font-weight: 400;
      white-space: nowrap;
    }
    thead th {
      font-weight: 400;
      font-size: 12.5px;
      color: var(--ink-soft);
    }
    td,
    th {
      border-bottom: 1px solid var(--rule);
      height: 28px;
      padding: 0;
      text-align: center;
    }
    .free {
      background: var(--rail);
    }
    .away {
      display: block;
      height: 14px;
      background: var(--hold);
    }
    .away.asked {
      background: none;
      border: 2px solid var(--hold);
    }
  `,
})
export class TeamAbsences {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  private readonly span = signal(monthOf(isoDay(this.session.now(), this.session.zone), 0));
  protected readonly now$ = loading(
    combineLatest([toObservable(this.span), merge(inject(Live).about('booking'), this.again).pipe(startWith(undefined))]),
    ([span]) =>
      this.api.call(absenceRoutes.listTeamAbsences, { query: span }).pipe(
        map(({ people, missing, holidays }) => {
          const names = new Map(holidays.map((h) => [h.day, h.name]));
          const dates = datesOf(span);
          const free = (day: string) => names.has(day) || weekdayOf(day as LocalDate) > LAST_WORKING_DAY;
          return {
            days: dates.map((day) => ({ day, number: Number(day.slice(8)), free: free(day), says: names.get(day) ?? '' })),
            people: people.map((p) => ({
              ...p,
              cells: dates.map((day): Cell => {
                const away = missing.find((m) => m.personId === p.id && m.from <= day && day <= m.to);
                const says = away
                  ? `${p.name}: ${away.what}, ${saySpan(away.from, away.to)}${away.decided ? '' : ', asked for'}`
                  : (names.get(day) ?? '');
                return { day, free: free(day), says, away };
              }),
            })),
          };
        }),
      ),
  );

  protected title(): string {
    return saySpan(this.span().from, this.span().to);
  }

  protected go(back: number): void {
    this.span.set(monthOf(this.span().from, back));
  }
}

function datesOf({ from, to }: { readonly from: string; readonly to: string }): string[] {
  const dates: string[] = [];
  for (let day = from as LocalDate; day <= to; day = plusDays(day, 1)) dates.push(day);
  return dates;
}
