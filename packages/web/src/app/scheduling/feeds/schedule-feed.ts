import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { catchError, map, of, startWith, Subject, switchMap } from 'rxjs';
import { feedRoutes } from '@core/scheduling';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';

/** The secret address at which one's own schedule can be had in any calendar. */
@Component({
  selector: 'dl-schedule-feed',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let address = address$ | async;
    <section aria-label="My schedule in another calendar">
      <h2>My schedule in another calendar</h2>
      @if (address) {
        <p class="small soft">Whoever has this address sees your bookings. Give it to your calendar alone.</p>
        <p>
          <input
            #textBox
            class="in mono small"
            type="text"
            readonly
            aria-label="Address of my schedule"
            [value]="address"
            (focus)="textBox.select()"
          />
        </p>
        <p class="acts">
          <button type="button" class="btn-link" (click)="make('The old address answers no more; give your calendar the new one')">
            make a new one
          </button>
          <button type="button" class="btn-link" (click)="end()">end it</button>
        </p>
      } @else {
        <p class="small soft">Bookings and time off as a feed that your calendar reads by itself.</p>
        <button type="button" class="btn-plain" (click)="make('Give this address to your calendar')">Make an address</button>
      }
    </section>
  `,
  styles: `
    section {
      margin-top: 24px;
    }
    .acts {
      display: flex;
      gap: 16px;
    }
  `,
})
export class ScheduleFeed {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly again = new Subject<void>();
  protected readonly address$ = this.again.pipe(
    startWith(undefined),
    switchMap(() =>
      this.api.call(feedRoutes.getFeed, {}).pipe(
        map((a) => a.address),
        catchError(() => of(null)),
      ),
    ),
  );

  protected make(words: string): void {
    this.api.call(feedRoutes.makeFeed, {}).subscribe({
      next: () => {
        this.toasts.done(words);
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected end(): void {
    this.api.call(feedRoutes.endFeed, {}).subscribe({
      next: () => {
        this.toasts.done('The address answers no more');
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
