import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { BehaviorSubject, combineLatest, debounceTime, switchMap } from 'rxjs';
import { type ClockWire, promiseRoutes, type PromiseTargets, PRIORITIES, TRY_EVENTS, type TryEvent } from '@core/desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { DateInput } from '../../ui/date-input';
import { ClockStrip, clockName, clockWords } from '../../ui/clock-strip';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';
import { momentOf, wallText } from '../../ui/time-format';
import { Why } from '../../ui/why';
import { picked } from '../../ui/picked';

const WORDS: Readonly<Record<TryEvent['is'], string>> = {
  received: 'it is received',
  routed: 'it is routed',
  'public-contact': 'a person tells the client something',
  priority: 'its priority becomes',
  held: 'it waits for',
  runs: 'the hold ends',
  resolved: 'it is resolved',
  reopened: 'it is reopened',
};
const TYPING_MS = 250;
const MINUTE = 60_000;

/** A made-up ticket on the targets above, before anybody depends on them: what happens when, and what each clock says. */
@Component({
  selector: 'dl-try-out',
  imports: [AsyncPipe, DateInput, ClockStrip, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let asked = story | async;
    @let tried = tried$ | async;
    <section class="panel" aria-label="Try it out">
      <h2>Try it out</h2>
      <div class="two">
        <div>
          @for (event of asked?.events; track $index) {
            <p class="event">
              <dl-date
                [timed]="true"
                [label]="'When, step ' + ($index + 1)"
                [value]="wall(event.at)"
                (changed)="set($index, { at: moment($event, event.at) })"
              />
              <select
                #selectBox
                class="in"
                [attr.aria-label]="'What, step ' + ($index + 1)"
                (change)="set($index, { is: picked(events, selectBox.value) })"
              >
                @for (what of events; track what) {
                  <option [value]="what" [selected]="what === event.is">{{ words[what] }}</option>
                }
              </select>
              @if (event.is === 'priority') {
                <select
                  #selectBox2
                  class="in short"
                  aria-label="Priority"
                  (change)="set($index, { priority: picked(priorities, selectBox2.value) })"
                >
                  @for (p of priorities; track p) {
                    <option [selected]="p === event.priority">{{ p }}</option>
                  }
                </select>
              }
              @if (event.is === 'held') {
                <select #selectBox3 class="in" aria-label="On hold for" (change)="set($index, { reason: selectBox3.value })">
                  @for (r of reasons; track r) {
                    <option [selected]="r === event.reason">{{ r }}</option>
                  }
                </select>
              }
              @if ($index > 0) {
                <button type="button" class="btn-link small" (click)="remove($index)">
                  out<span class="visually-hidden"> step {{ $index + 1 }}</span>
                </button>
              }
            </p>
          }
          <p class="event">
            <button type="button" class="btn-plain" (click)="add()">Something else happens</button>
            <span
              >seen at <dl-date [timed]="true" label="seen at" [value]="wall(asked!.now)" (changed)="see(moment($event, asked!.now))"
            /></span>
          </p>
        </div>
        <div>
          @if (tried && tried.is !== 'there') {
            <dl-state-note [state]="tried" (again)="again.next(again.value + 1)" />
          } @else if (tried) {
            @for (c of tried.value.clocks; track c.clock.clock) {
              <div class="clock">
                <span>{{ name(c.clock) }}</span><span class="small" [class.late]="c.clock.missedAt" [class.met]="c.clock.state === 'met'"
                  >{{ said(c.clock, asked!.now) }} <dl-why [explanation]="c.clock.why" [of]="name(c.clock)"
                /></span>
                <dl-clock-strip [clock]="c.clock" />
              </div>
            }
          }
        </div>
      </div>
    </section>
  `,
  styles: `
    section {
      padding: 14px 16px;
      margin-top: 20px;
    }
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 32px;
      margin-top: 8px;
    }
    .event {
      display: flex;
      gap: 8px;
      align-items: center;
      margin-bottom: 6px;
    }
    .event .in {
      width: auto;
      min-width: 0;
    }
    .event dl-date {
      flex: 0 0 auto;
      width: 200px;
    }
    .event select {
      flex: 1 1 0;
    }
    .event .short {
      flex: none;
      width: 80px;
    }
    .event label {
      display: flex;
      gap: 8px;
      align-items: center;
      margin-left: auto;
      white-space: nowrap;
    }
    .clock {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 0 10px;
      padding: 6px 0;
    }
    .clock > .small {
      text-align: right;
    }
    .clock dl-clock-strip {
      grid-column: 1 / -1;
    }
  `,
})
export class TryOut {
  readonly targets = input.required<PromiseTargets>();
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly again = new BehaviorSubject(0);
  protected readonly picked = picked;
  protected readonly events = TRY_EVENTS;
  protected readonly words = WORDS;
  protected readonly priorities = PRIORITIES;
  protected readonly reasons = ['client', 'supplier', 'change window'];
  protected readonly story = new BehaviorSubject(this.opening());
  protected readonly tried$ = loading(
    combineLatest([toObservable(this.targets), this.story, this.again]).pipe(debounceTime(TYPING_MS)),
    ([targets, { events, now }]) => this.api.call(promiseRoutes.tryPromise, { body: { targets, clientId: null, events, now } }),
  ).pipe(switchMap((state) => [state]));

  /** A morning's ticket: received two hours before now, routed, answered and put on hold for a while. */
  private opening(): { readonly events: TryEvent[]; readonly now: string } {
    const now = Math.floor(this.session.now() / MINUTE) * MINUTE;
    const at = (minutes: number) => new Date(now - minutes * MINUTE).toISOString().replace('.000', '');
    const event = (minutes: number, is: TryEvent['is'], more: Partial<TryEvent> = {}): TryEvent => ({
      at: at(minutes),
      is,
      priority: null,
      reason: null,
      ...more,
    });
    return {
      events: [
        event(120, 'received'),
        event(110, 'routed'),
        event(110, 'priority', { priority: 'P2' }),
        event(75, 'public-contact'),
        event(60, 'held', { reason: 'client' }),
        event(30, 'runs'),
      ],
      now: at(0),
    };
  }

  protected wall(at: string): string {
    return wallText(Date.parse(at), this.session.zone);
  }

  protected moment(wall: string, was: string): string {
    return wall ? momentOf(wall, this.session.zone) : was;
  }

  protected name(clock: ClockWire): string {
    return clockName(clock);
  }

  protected said(clock: ClockWire, now: string): string {
    return clockWords(clock, Date.parse(now), this.session.zone);
  }

  protected set(index: number, part: Partial<TryEvent>): void {
    const { events, now } = this.story.value;
    this.story.next({ now, events: events.map((e, i) => (i === index ? { ...e, ...part } : e)) });
  }

  protected add(): void {
    const { events, now } = this.story.value;
    this.story.next({ now, events: [...events, { at: now, is: 'resolved', priority: null, reason: null }] });
  }

  protected remove(index: number): void {
    const { events, now } = this.story.value;
    this.story.next({ now, events: events.filter((_, i) => i !== index) });
  }

  protected see(now: string): void {
    this.story.next({ ...this.story.value, now });
  }
}
