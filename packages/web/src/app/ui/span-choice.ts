import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Session } from '../shell/session';
import { DateInput } from './date-input';
import { namedSpans, type DateSpan } from './spans';
import { isoDay } from './time-format';

/** A span of dates, both included: typed, or one of those that reports offer by name. An end before its beginning takes the other along. */
@Component({
  selector: 'dl-span-choice',
  imports: [DateInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="one">{{ words() }} <dl-date [label]="words()" [value]="span().from" (changed)="set('from', $event)" /></span>
    <span class="one">to <dl-date [label]="words() + ' … to'" [value]="span().to" (changed)="set('to', $event)" /></span>
    @for (s of named(); track s.name) {
      <button type="button" class="btn-link" (click)="chosen.emit({ from: s.from, to: s.to })">{{ s.name }}</button>
    }
    <ng-content />
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 16px;
      align-items: center;
      margin-bottom: 8px;
    }
    dl-date {
      width: 150px;
    }
    .one {
      display: flex;
      gap: 8px;
      align-items: center;
    }
  `,
})
export class SpanChoice {
  readonly span = input.required<DateSpan>();
  readonly words = input('From');
  /** Whether spans are offered by name. */
  readonly offers = input(true);
  readonly chosen = output<DateSpan>();
  private readonly session = inject(Session);
  protected readonly named = computed(() => (this.offers() ? namedSpans(isoDay(this.session.now(), this.session.zone)) : []));

  protected set(which: 'from' | 'to', day: string): void {
    if (!day) return;
    const span = { ...this.span(), [which]: day };
    this.chosen.emit(span.from <= span.to ? span : { from: day, to: day });
  }
}
