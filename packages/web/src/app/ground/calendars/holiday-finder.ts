import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { BehaviorSubject, catchError, of, shareReplay, switchMap } from 'rxjs';
import { calendarRoutes, type HolidayWire } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';

interface Place {
  readonly country: string;
  readonly region: string;
  readonly year: number;
}

/** The public holidays of a country or region in a year, put in with one press. */
@Component({
  selector: 'dl-holiday-finder',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    @if (now) {
      <p class="find">
        <select #selectBox class="in" aria-label="Country" (change)="choose({ country: selectBox.value, region: '' })">
          @for (c of now.countries; track c.code) {
            <option [value]="c.code" [selected]="c.code === place.value.country">{{ c.name }}</option>
          }
        </select>
        @if (now.regions.length) {
          <select #selectBox2 class="in" aria-label="Region" (change)="choose({ region: selectBox2.value })">
            <option value="" [selected]="!place.value.region">the whole country</option>
            @for (r of now.regions; track r.code) {
              <option [value]="r.code" [selected]="r.code === place.value.region">{{ r.name }}</option>
            }
          </select>
        }
        <input
          #textBox
          class="in"
          type="number"
          aria-label="Year"
          [value]="place.value.year"
          (change)="choose({ year: textBox.valueAsNumber })"
        />
        <button type="button" class="btn-plain" [disabled]="!now.holidays.length" (click)="found.emit(now.holidays)">
          Put in its {{ now.holidays.length }} public holidays
        </button>
      </p>
    }
  `,
  styles: `
    .find {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin: 0;
    }
    .find .in {
      width: auto;
      max-width: 220px;
    }
    .find input {
      width: 90px;
    }
  `,
})
export class HolidayFinder {
  readonly found = output<readonly HolidayWire[]>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly place = new BehaviorSubject<Place>({
    country: 'IE',
    region: '',
    year: new Date(inject(Session).now()).getFullYear(),
  });
  protected readonly now$ = this.place.pipe(
    switchMap(({ country, region, year }) =>
      this.api.call(calendarRoutes.listHolidays, { query: { country, year, ...(region ? { region } : {}) } }).pipe(
        catchError((fault: unknown) => {
          this.toasts.trouble(fault);
          return of(undefined);
        }),
      ),
    ),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  protected choose(part: Partial<Place>): void {
    this.place.next({ ...this.place.value, ...part });
  }
}
