import { ChangeDetectionStrategy, Component, computed, effect, inject, Injectable, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NgbCalendar, NgbCalendarGregorian, NgbDate, NgbDatepicker } from '@ng-bootstrap/ng-bootstrap/datepicker';
import { NgbPopover } from '@ng-bootstrap/ng-bootstrap/popover';
import { isDateText, parseLocalDate, plusDays, readDate, readWall, type LocalDate } from '@core/ground';
import { Session } from '../shell/session';
import { isoDay, plainDate } from './time-format';

/** Whose today is the provider's, whatever the browser's clock and zone say. */
@Injectable()
class ProviderCalendar extends NgbCalendarGregorian {
  private readonly session = inject(Session);

  override getToday(): NgbDate {
    const { year, month, day } = partsOf(isoDay(this.session.now(), this.session.zone))!;
    return new NgbDate(year, month, day);
  }
}

const WALL = /^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2})$/;
const MORNING = '09:00';
const SUCH_AS = { day: 'a day such as 24 Nov, 1.12., fri, tomorrow or +3', moment: 'a day and a time such as 24 Nov 16:30' } as const;

/**
 * A date, or a date and time on the wall clock, shown as everywhere and typed as people do; arrow keys go a day on or back,
 * and a month is there to choose from. What cannot be read stays, and is said.
 */
@Component({
  selector: 'dl-date',
  imports: [FormsModule, NgbDatepicker, NgbPopover],
  providers: [{ provide: NgbCalendar, useClass: ProviderCalendar }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="both">
      <input
        #textBox
        class="in"
        type="text"
        autocomplete="off"
        [id]="inputId()"
        [attr.aria-label]="label() || null"
        [attr.aria-invalid]="wrong() || invalid()"
        [attr.aria-describedby]="describedBy() || null"
        [class.wrong]="wrong() || invalid()"
        [value]="shown()"
        (change)="read(textBox)"
        (keydown)="step($event)"
      />
      <button
        #pop="ngbPopover"
        type="button"
        class="open"
        [attr.aria-label]="'Choose a day' + (label() ? ': ' + label() : '')"
        [ngbPopover]="month"
        container="body"
        autoClose="outside"
        placement="bottom-end bottom-start top-end"
        popoverClass="month-pop"
      >
        ▾
      </button>
      <ng-template #month>
        <ngb-datepicker
          [ngModel]="parts()"
          [startDate]="parts() ?? todayParts()"
          [firstDayOfWeek]="1"
          navigation="arrows"
          (dateSelect)="choose($event); pop.close()"
        />
      </ng-template>
    </span>
    @if (wrong()) {
      <span class="says" role="alert">{{ wrong() }}</span>
    }
  `,
  styles: `
    :host {
      display: inline-grid;
      gap: 3px;
    }
    .both {
      display: flex;
    }
    .in {
      width: 100%;
      min-width: 0;
      border-top-right-radius: 0;
      border-bottom-right-radius: 0;
    }
    .open {
      border: 1px solid var(--ink-soft);
      border-left: 0;
      border-radius: 0 4px 4px 0;
      background: var(--panel);
      color: var(--brass);
      width: 32px;
      flex: none;
      cursor: pointer;
    }
    .says {
      color: var(--late);
      font-size: 12.5px;
    }
  `,
})
export class DateInput {
  /** YYYY-MM-DD, or of a moment YYYY-MM-DDTHH:MM; empty where there is none. */
  readonly value = input.required<string>();
  readonly timed = input(false);
  /** For who hears the screen, where no label stands beside it. */
  readonly label = input('');
  readonly inputId = input('');
  readonly describedBy = input('');
  readonly invalid = input(false);
  /** In the form of its value; empty where it was emptied. */
  readonly changed = output<string>();
  /** What was typed and cannot be read. */
  readonly unread = output<string>();
  private readonly session = inject(Session);
  private readonly typed = signal<string | undefined>(undefined);
  private readonly today = (): LocalDate => parseLocalDate(isoDay(this.session.now(), this.session.zone));
  private readonly day = computed(() =>
    this.timed() ? WALL.exec(this.value())?.[1] : isDateText(this.value()) ? this.value() : undefined,
  );
  protected readonly shown = computed(() => this.typed() ?? this.words());
  protected readonly wrong = computed(() => (this.typed() === undefined ? '' : SUCH_AS[this.timed() ? 'moment' : 'day']));
  protected readonly parts = computed(() => partsOf(this.day()));

  constructor() {
    effect(() => {
      if (this.day() || !this.value()) this.typed.set(undefined);
    });
  }

  protected todayParts() {
    return partsOf(this.today())!;
  }

  private words(): string {
    return this.day() ? sayWall(this.value()) : this.value();
  }

  protected read(input: HTMLInputElement): void {
    const text = input.value;
    const known = text.trim() === '' ? '' : this.timed() ? readWall(text, this.wall(), this.today()) : readDate(text, this.today());
    this.typed.set(known === undefined ? text : undefined);
    if (known === undefined) return this.unread.emit(text);
    // It may be the day that stood there already, in other words.
    input.value = sayWall(known);
    this.changed.emit(known);
  }

  protected choose({ year, month, day }: NgbDate): void {
    const date = `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
    this.typed.set(undefined);
    this.changed.emit(this.timed() ? `${date}T${this.wall().slice(-5)}` : date);
  }

  /** A day on, or back. */
  protected step(event: KeyboardEvent): void {
    const days = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (!days) return;
    event.preventDefault();
    event.stopPropagation();
    const day = plusDays((this.day() as LocalDate | undefined) ?? this.today(), this.day() ? days : 0);
    this.typed.set(undefined);
    this.changed.emit(this.timed() ? `${day}T${this.wall().slice(-5)}` : day);
  }

  private wall(): string {
    return WALL.test(this.value()) ? this.value() : `${this.today()}T${MORNING}`;
  }
}

/** A date, or a date and time, as it is shown everywhere. */
function sayWall(wall: string): string {
  const [day, time] = wall.split('T');
  return day ? [plainDate(day), time].filter(Boolean).join(', ') : '';
}

function partsOf(date: string | undefined) {
  if (!date) return null;
  const [year, month, day] = date.split('-').map(Number) as [number, number, number];
  return { year, month, day };
}
