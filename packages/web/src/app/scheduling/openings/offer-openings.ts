import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest } from 'rxjs';
import { HELD_HOURS, openingRoutes, type WorkFitWire } from '@core/scheduling';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';

const HELD_AT_FIRST = 4;

/** Three openings that the client can choose from by mail, held meanwhile: instead of telephone tag. */
@Component({
  selector: 'dl-offer-openings',
  imports: [AsyncPipe, AtPipe, MinutesPipe, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = proposed$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="days.set(days())" />
    } @else if (now) {
      @let p = now.value;
      @for (o of p.openings; track o.personId + o.startsAt) {
        <div class="opening">
          <label class="tick"
            ><input type="checkbox" [checked]="!left().has(o.startsAt)" (change)="flip(o.startsAt)" />
            <span class="clip"
              ><b>{{ o.startsAt | at }}</b> {{ o.person }} <span class="soft small">{{ o.minutes | minutes }}</span></span
            ></label
          >
          <dl-why [explanation]="o.why" [of]="'why ' + o.person + ': ' + o.points + ' points'" />
        </div>
      } @empty {
        <p class="soft small">Nobody who knows how has room in these days. Look further ahead.</p>
      }
      <p class="line">
        <label
          >within
          <select #selectBox class="in" (change)="days.set(+selectBox.value)">
            <option value="2">two days</option>
            <option value="5" selected>five days</option>
            <option value="14">two weeks</option>
          </select></label
        >
        <label
          >held for
          <select #selectBox2 class="in" (change)="hours.set(+selectBox2.value)">
            @for (h of choices; track h) {
              <option [value]="h" [selected]="h === hours()">{{ h === 1 ? '1 hour' : h + ' hours' }}</option>
            }
          </select></label
        >
      </p>
      @if (p.to) {
        <p class="line">
          <button type="button" class="btn-main" [disabled]="busy() || !chosen(p.openings).length" (click)="send(p.openings)">
            Hold and mail {{ chosen(p.openings).length }}
          </button>
          <span class="soft small clip" [title]="p.to">to {{ p.to }}</span>
        </p>
      } @else {
        <p class="late small">The ticket has no contact to write to. Name one on the ticket first.</p>
      }
    }
  `,
  styles: `
    .opening {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 34px;
      align-items: center;
    }
    .opening .tick {
      min-width: 0;
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 16px;
      align-items: center;
      margin: 4px 0;
    }
    .line .in {
      width: auto;
    }
  `,
})
export class OfferOpenings {
  readonly ticketId = input.required<Id<'ticket'>>();
  readonly onSite = input(false);
  readonly offered = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly choices = HELD_HOURS;
  protected readonly days = signal(5);
  protected readonly hours = signal<number>(HELD_AT_FIRST);
  protected readonly busy = signal(false);
  /** The instants of openings that are not to be offered. */
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly proposed$ = loading(combineLatest([toObservable(this.ticketId), toObservable(this.days)]), ([ticketId, days]) =>
    this.api.call(openingRoutes.proposeOpenings, { params: { ticketId }, query: { days } }),
  );

  protected flip(startsAt: string): void {
    const left = new Set(this.left());
    if (!left.delete(startsAt)) left.add(startsAt);
    this.left.set(left);
  }

  protected chosen(all: readonly WorkFitWire[]): WorkFitWire[] {
    return all.filter((o) => !this.left().has(o.startsAt));
  }

  protected send(all: readonly WorkFitWire[]): void {
    const openings = this.chosen(all).map(({ personId, startsAt, minutes }) => ({ personId, startsAt, minutes }));
    const body = { openings, heldHours: this.hours() as (typeof HELD_HOURS)[number], onSite: this.onSite() };
    this.busy.set(true);
    this.api.call(openingRoutes.offerOpenings, { params: { ticketId: this.ticketId() }, body }).subscribe({
      next: ({ id }) => {
        this.busy.set(false);
        this.toasts.done(`${openings.length === 1 ? 'An opening is' : `${openings.length} openings are`} held and mailed`, () =>
          this.api
            .call(openingRoutes.releaseOpenings, { params: { setId: id } })
            .subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) }),
        );
        this.offered.emit();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
      },
    });
  }
}
