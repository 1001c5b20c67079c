import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { mixed, object, string } from 'yup';
import type { BookingWire, DispatchDayWire } from '@core/dispatch';
import { durationTyped } from '@core/routes';
import { formatInstant, instantAt, parseMinutes, type LocalDate } from '@core/time';
import { Session } from '../shell/session';
import { Field, type Option } from '../ui/field';
import { FormState } from '../ui/form-state';
import { DispatchState } from './dispatch.state';

export interface Wanted {
  readonly title: string;
  readonly ticketId: string;
  readonly number: number;
  readonly booking?: BookingWire;
  readonly personId: string;
  readonly start: string;
  readonly duration: string;
}

const schema = object({
  personId: mixed<string>().nullable(),
  start: string()
    .required('a time of day')
    .matches(/^([01]?\d|2[0-3]):[0-5]\d$/, 'a time of day such as 14:30'),
  duration: durationTyped(),
});

/** Books or moves by typing: what dragging does, for the keyboard. */
@Component({
  selector: 'dl-book-form',
  imports: [AsyncPipe, Field, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state.view$ | async;
    <form class="panel" (submit)="save($event)" novalidate [attr.aria-label]="wanted().booking ? 'Move the booking' : 'Book'">
      <p class="head">
        <b class="clip">{{ wanted().title }}</b> <a [routerLink]="['/tickets', wanted().ticketId]">open</a>
      </p>
      <dl-field
        label="Technician"
        kind="choice"
        none="no technician yet"
        [options]="people()"
        [value]="form?.values?.['personId']"
        (changed)="state.set('personId', $event)"
      />
      <dl-field label="From" [value]="form?.values?.['start']" [error]="form?.errors?.['start']" (changed)="state.set('start', $event)" />
      <dl-field
        label="For"
        kind="duration"
        [value]="form?.values?.['duration']"
        [error]="form?.errors?.['duration']"
        (changed)="state.set('duration', $event)"
      />
      <p class="buttons">
        <button class="btn-main">{{ wanted().booking ? 'Move' : 'Book' }}</button>
        @if (wanted().booking; as booking) {
          <button type="button" class="btn-plain" (click)="dispatch.finish(booking); closed.emit()">Done</button>
          <button type="button" class="btn-link" (click)="dispatch.cancel(booking); closed.emit()">Cancel it</button>
        }
        <button type="button" class="btn-link" (click)="closed.emit()">Close</button>
      </p>
    </form>
  `,
  styles: `
    form {
      position: absolute;
      right: 24px;
      bottom: 20px;
      width: 520px;
      padding: 14px 16px;
      border-color: var(--brass);
      box-shadow: var(--shadow);
      display: grid;
      grid-template-columns: 1.4fr 0.8fr 1fr;
      gap: 10px;
      z-index: 20;
    }
    .head,
    .buttons {
      grid-column: 1 / -1;
      display: flex;
      gap: 12px;
      align-items: center;
      min-width: 0;
    }
  `,
})
export class BookForm {
  readonly wanted = input.required<Wanted>();
  readonly day = input.required<DispatchDayWire>();
  readonly closed = output<void>();
  protected readonly dispatch = inject(DispatchState);
  private readonly session = inject(Session);
  protected readonly state = new FormState(schema, {});
  protected readonly people = computed((): Option[] =>
    this.day()
      .lanes.filter((l) => l.name !== 'no technician')
      .map((l) => ({ value: l.personId, label: l.name })),
  );

  constructor() {
    effect(() => {
      const { personId, start, duration } = this.wanted();
      for (const [name, value] of Object.entries({ personId, start, duration })) this.state.set(name, value);
    });
  }

  protected save(event: Event): void {
    event.preventDefault();
    const values = this.state.check();
    if (!values) return;
    const [hour, minute] = values.start.split(':').map(Number);
    const startsAt = formatInstant(instantAt(this.day().day as LocalDate, hour! * 60 + minute!, this.session.zone));
    const slot = { personId: values.personId || null, startsAt, minutes: parseMinutes(values.duration)! };
    const { booking, ticketId, number } = this.wanted();
    if (booking) this.dispatch.move(booking, slot);
    else this.dispatch.book(ticketId, number, slot);
    this.closed.emit();
  }
}
