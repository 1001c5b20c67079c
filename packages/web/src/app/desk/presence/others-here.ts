import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, EMPTY, finalize, fromEvent, interval, map, merge, startWith, switchMap } from 'rxjs';
import { PRESENCE_SECONDS, presenceRoutes, type PresentWire } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';

const AGAIN_MS = (PRESENCE_SECONDS / 3) * 1000;

/** Who else looks at the ticket, and whether they write. */
@Component({
  selector: 'dl-others-here',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (other of others$ | async; track other.id) {
      <p class="other small" role="status">
        <b>{{ other.name }}</b> {{ other.writing ? 'is writing here' : 'is here too' }}
      </p>
    }
  `,
  styles: `
    .other {
      margin: 4px 0 0;
      padding: 3px 10px;
      background: var(--wash);
      border-radius: 4px;
    }
  `,
})
export class OthersHere {
  readonly ticketId = input.required<Id<'ticket'>>();
  readonly writing = input(false);
  private readonly api = inject(Api);
  private readonly writing$ = toObservable(this.writing);
  private readonly ask$ = merge(
    inject(Live).of(['presence'], () => this.ticketId()),
    interval(AGAIN_MS),
  ).pipe(startWith(undefined));
  protected readonly others$ = toObservable(this.ticketId).pipe(
    switchMap((ticketId) =>
      combineLatest([this.writing$, this.ask$]).pipe(
        switchMap(([writing]) => this.say(ticketId, true, writing)),
        map((a): readonly PresentWire[] => a.others),
        finalize(() => this.say(ticketId, false, false).subscribe()),
      ),
    ),
  );

  constructor() {
    // A page that is closed or left by its address says goodbye too.
    fromEvent(window, 'pagehide')
      .pipe(
        takeUntilDestroyed(),
        switchMap(() => this.say(this.ticketId(), false, false)),
      )
      .subscribe();
  }

  /** Where the server is away nobody is told, and the next time it is asked again. */
  private say(ticketId: Id<'ticket'>, here: boolean, writing: boolean) {
    return this.api
      .call(presenceRoutes.beThere, { params: { ticketId }, body: { here, writing }, keepalive: !here })
      .pipe(catchError(() => EMPTY));
  }
}
