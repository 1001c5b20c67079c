import { AsyncPipe } from '@angular/common';
import { afterNextRender, ChangeDetectionStrategy, Component, computed, inject, Injector, input, output } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, shareReplay } from 'rxjs';
import { sayWorkShortly } from '@core/ground';
import type { GapFitWire, LaneWire } from '@core/scheduling';
import { Session } from '../../shell/session';
import { loading } from '../../ui/loading';
import { MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { clockTime } from '../../ui/time-format';
import { Why } from '../../ui/why';
import { WorkLink } from '../../ui/work-link';
import { closesWhat } from './closing';
import { DispatchState } from './dispatch.state';
import type { Gap } from './dispatch-lane';

const MOST_SHOWN = 9;

/** What fits a gap, the best first; the digit beside it takes it. */
@Component({
  selector: 'dl-gap-fits',
  imports: [AsyncPipe, MinutesPipe, StateNote, Why, WorkLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <b>Fits {{ lane().name }}, {{ title() }}</b>
      <span class="grow"></span>
      <button type="button" class="btn-link" (click)="closed.emit()">Close</button>
    </header>
    @let now = fits$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="state.retry()" />
    } @else if (now) {
      @for (fit of now.value.slice(0, 9); track fit.workId) {
        <div class="fit">
          <span class="clip"
            ><b>{{ fit.priority }}</b> <dl-work-link [work]="fit" /><span class="soft">{{
              fit.client ? ', ' + fit.client : ''
            }}</span></span
          >
          <span class="mono small" [title]="fit.estimateSays">{{ fit.minutes | minutes }}</span>
          <span class="small clip says">{{ fit.says }}</span>
          <dl-why [explanation]="fit.why" [of]="'why ' + shortly(fit) + ' fits: ' + fit.points + ' points'" />
          @if (session.may('dispatch.book')) {
            <button type="button" class="btn-plain take" (click)="take(fit)">
              Take <kbd>{{ $index + 1 }}</kbd>
            </button>
          }
        </div>
      } @empty {
        <p class="soft none">Nothing unbooked fits here: too long, or a skill that {{ lane().name }} does not have.</p>
      }
    }
  `,
  styles: `
    header {
      display: flex;
      padding: 8px 16px;
      align-items: center;
      gap: 12px;
    }
    .fit {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 70px minmax(0, 240px) 40px auto;
      gap: 12px;
      align-items: center;
      padding: 3px 16px;
      border-top: 1px solid var(--rule);
    }
    .says {
      color: var(--met);
    }
    .none {
      padding: 4px 16px 10px;
    }
    .take {
      min-height: 26px;
      white-space: nowrap;
    }
  `,
})
export class GapFits {
  readonly lane = input.required<LaneWire>();
  readonly gap = input.required<Gap>();
  readonly closed = output<void>();
  /** The list is there, as long as it gets. */
  readonly listed = output<void>();
  protected readonly state = inject(DispatchState);
  protected readonly session = inject(Session);
  protected readonly shortly = sayWorkShortly;
  private readonly closeThis = closesWhat(this.gap, this.closed);
  private shown: readonly GapFitWire[] = [];
  protected readonly title = computed(() => `${this.clock(this.gap().from)} to ${this.clock(this.gap().to)}`);
  protected readonly fits$ = loading(combineLatest([toObservable(this.lane), toObservable(this.gap)]), ([lane, gap]) =>
    this.state.gapFits(lane.personId!, gap),
  ).pipe(shareReplay({ bufferSize: 1, refCount: true }));

  constructor() {
    const injector = inject(Injector);
    this.fits$.pipe(takeUntilDestroyed()).subscribe((f) => {
      this.shown = f.is === 'there' ? f.value.slice(0, MOST_SHOWN) : [];
      if (f.is === 'there') afterNextRender(() => this.listed.emit(), { injector });
    });
  }

  /** Takes by the digit beside it. @returns whether there was one */
  takeNth(n: number): boolean {
    const fit = this.shown[n - 1];
    if (fit) this.take(fit);
    return Boolean(fit);
  }

  protected take(fit: GapFitWire): void {
    const slot = { personId: this.lane().personId, startsAt: fit.startsAt, minutes: fit.minutes, onSite: fit.needsVisit };
    this.state.book(fit, slot, this.closeThis());
  }

  private clock(at: string): string {
    return clockTime(Date.parse(at), this.session.zone);
  }
}
