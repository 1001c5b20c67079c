import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest } from 'rxjs';
import type { WorkFitWire } from '@core/scheduling';
import { OfferOpenings } from '../openings/offer-openings';
import { ticketIdOf, type NamedWork } from '@core/ground';
import { Session } from '../../shell/session';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';
import { closesWhat } from './closing';
import { DispatchState } from './dispatch.state';

/** Who can and when: the gaps that fit a ticket, the best first; one press books. */
@Component({
  selector: 'dl-work-fits',
  imports: [AsyncPipe, AtPipe, MinutesPipe, OfferOpenings, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="head">
      @if (offering()) {
        <b>Openings for the client</b>
        <button type="button" class="btn-link" (click)="offering.set(false)">back</button>
      } @else {
        <b>Who can and when</b>
        <select #selectBox class="in" aria-label="How far ahead" (change)="days.set(+selectBox.value)">
          <option value="1" [selected]="days() === 1">today</option>
          <option value="5" [selected]="days() === 5">five days</option>
          <option value="14" [selected]="days() === 14">two weeks</option>
        </select>
        @if (work().workKind === 'ticket' && session.may('dispatch.book')) {
          <button type="button" class="btn-link" (click)="offering.set(true)">offer by mail</button>
        }
      }
    </p>
    @let now = fits$ | async;
    @if (offering()) {
      <dl-offer-openings [ticketId]="ticketOf(work().workId)" [onSite]="onSite()" (offered)="offered()" />
    } @else if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="state.retry()" />
    } @else if (now) {
      @for (fit of now.value.slice(0, 12); track fit.personId + fit.startsAt) {
        <div class="fit">
          <button
            type="button"
            class="btn-plain"
            [disabled]="!session.may('dispatch.book')"
            [attr.aria-label]="'Book ' + fit.person + ' ' + (fit.startsAt | at)"
            (click)="take(fit)"
          >
            {{ fit.startsAt | at }}
          </button>
          <span class="clip"
            >{{ fit.person }} <span class="soft small">{{ fit.minutes | minutes }}</span></span
          >
          <span class="small clip says" [title]="fit.says">{{ fit.says }}</span>
          <dl-why [explanation]="fit.why" [of]="'why ' + fit.person + ': ' + fit.points + ' points'" />
        </div>
      } @empty {
        <p class="soft small">Nobody who knows how has a gap long enough. Look further ahead, or book a shorter time.</p>
      }
    }
  `,
  styles: `
    :host {
      border-left: 1px solid var(--rule);
      padding-left: 16px;
      max-height: 38vh;
      overflow: auto;
    }
    .head {
      display: flex;
      gap: 12px;
      align-items: center;
      white-space: nowrap;
    }
    .head .btn-link {
      margin-left: auto;
    }
    .head .in {
      width: auto;
    }
    .fit {
      display: grid;
      grid-template-columns: 92px minmax(0, 1.3fr) minmax(0, 1fr) 34px;
      gap: 8px;
      align-items: center;
      padding: 2px 0;
    }
    .fit .btn-plain {
      min-height: 26px;
      white-space: nowrap;
      padding: 0 6px;
    }
    .says {
      color: var(--met);
    }
  `,
})
export class WorkFits {
  protected readonly ticketOf = ticketIdOf;
  readonly work = input.required<NamedWork>();
  readonly onSite = input(false);
  readonly taken = output<void>();
  protected readonly state = inject(DispatchState);
  protected readonly session = inject(Session);
  private readonly closeThis = closesWhat(this.work, this.taken);
  protected readonly days = signal(5);
  protected readonly offering = signal(false);
  protected readonly fits$ = loading(combineLatest([toObservable(this.work), toObservable(this.days)]), ([work, days]) =>
    this.state.workFits(work.workId, days),
  );

  protected offered(): void {
    this.state.retry();
    this.taken.emit();
  }

  protected take(fit: WorkFitWire): void {
    const slot = { personId: fit.personId, startsAt: fit.startsAt, minutes: fit.minutes, onSite: this.onSite() };
    this.state.book(this.work(), slot, this.closeThis());
  }
}
