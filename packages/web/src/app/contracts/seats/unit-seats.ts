import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { seatRoutes } from '@core/contracts';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { loading } from '../../ui/loading';
import { DatePipe, UnitPricePipe } from '../../ui/pipes';

/** What a contact or an asset is billed for today, and from when. */
@Component({
  selector: 'dl-unit-seats',
  imports: [AsyncPipe, DatePipe, RouterLink, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = seats$ | async;
    @if (now && now.is === 'there') {
      @for (s of now.value.seats; track $index) {
        <div>
          {{ s.line }} <span class="mono">{{ s.price | unitPrice: now.value.currency }}</span> {{ s.frequency }}, from {{ s.startsOn | date
          }}{{ s.lastDay ? ' to ' : '' }}{{ s.lastDay ? (s.lastDay | date) : '' }},
          <a [routerLink]="['/contracts', s.contract]">contract {{ s.contract }}</a>
        </div>
      } @empty {
        <span class="soft">on no line of a contract</span>
      }
    }
  `,
})
export class UnitSeats {
  readonly unitId = input.required<Id<'contact'> | Id<'asset'>>();
  private readonly api = inject(Api);
  protected readonly seats$ = loading(toObservable(this.unitId), (unitId) =>
    this.api.call(seatRoutes.getUnitSeats, { params: { unitId } }),
  );
}
