import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, startWith, Subject } from 'rxjs';
import { absenceRoutes, sayDays, type AbsenceKindWire } from '@core/time';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';

/** What people have of a kind in a year, where it is not what the kind says: somebody who began in May, or has more by contract. */
@Component({
  selector: 'dl-absence-grants',
  imports: [AsyncPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section aria-label="Days of people">
      <h2>
        Days of people in {{ year() }}
        <button type="button" class="btn-plain" (click)="year.set(year() - 1)" aria-label="The year before">‹</button
        ><button type="button" class="btn-plain" (click)="year.set(year() + 1)" aria-label="The year after">›</button>
      </h2>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @let kinds = kept(now.value.kinds);
        <table class="rows">
          <thead>
            <tr>
              <th>Person</th>
              @for (k of kinds; track k.id) {
                <th class="num">{{ k.name }}, days</th>
              }
            </tr>
          </thead>
          @for (p of now.value.people; track p.id) {
            <tr>
              <td>{{ p.name }}</td>
              @for (k of kinds; track k.id) {
                <td class="num">
                  <input
                    #days
                    class="in mono"
                    inputmode="decimal"
                    [attr.aria-label]="k.name + ' of ' + p.name"
                    [placeholder]="k.yearHalves / 2"
                    [readOnly]="!session.may('setup.edit')"
                    [value]="own(now.value.grants, p.id, k.id)"
                    (change)="set(k, p.id, days.value)"
                  />
                </td>
              }
            </tr>
          }
        </table>
      }
    </section>
  `,
  styles: `
    section {
      max-width: 900px;
      margin-bottom: 28px;
    }
    h2 {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    .in {
      width: 90px;
      text-align: right;
    }
  `,
})
export class AbsenceGrants {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly year = signal(Number(isoDay(this.session.now(), this.session.zone).slice(0, 4)));
  protected readonly now$ = loading(combineLatest([toObservable(this.year), this.again.pipe(startWith(undefined))]), ([year]) =>
    this.api.call(absenceRoutes.listAbsenceKinds, { query: { year } }),
  );

  reload(): void {
    this.again.next();
  }

  protected kept(kinds: readonly AbsenceKindWire[]): AbsenceKindWire[] {
    return kinds.filter((k) => k.hasBalance);
  }

  protected own(
    grants: readonly { personId: Id<'person'>; kindId: Id<'absence_kind'>; halves: number }[],
    personId: Id<'person'>,
    kindId: Id<'absence_kind'>,
  ): string {
    const halves = grants.find((g) => g.personId === personId && g.kindId === kindId)?.halves;
    return halves === undefined ? '' : String(halves / 2);
  }

  /** Nothing typed is what the kind says. */
  protected set(kind: AbsenceKindWire, personId: Id<'person'>, typed: string): void {
    const text = typed.trim().replace(',', '.');
    const halves = text === '' ? null : Number(text) * 2;
    if (halves !== null && !Number.isInteger(halves))
      return this.toasts.trouble(`"${typed}" was given; days are whole or half, such as 22.5.`);
    const body = { year: this.year(), grants: [{ personId, halves }] };
    this.api.call(absenceRoutes.setAbsenceGrant, { params: { absenceKindId: kind.id }, body }).subscribe({
      next: () => (
        this.toasts.done(halves === null ? `As the kind says: ${sayDays(kind.yearHalves)}` : `${sayDays(halves)} in ${this.year()}`),
        this.reload()
      ),
      error: (fault: unknown) => (this.toasts.trouble(fault), this.reload()),
    });
  }
}
