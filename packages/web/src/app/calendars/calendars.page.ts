import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { map, startWith, Subject } from 'rxjs';
import { calendarRoutes, type CalendarForm, type CalendarWire } from '@core/calendars';
import { Api } from '../shell/api';
import { problemOf } from '../shell/problem';
import { Session } from '../shell/session';
import { Toasts } from '../shell/toasts';
import { Field } from '../ui/field';
import { loading } from '../ui/loading';
import { StateNote } from '../ui/state-note';
import { HolidayFinder } from './holiday-finder';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

interface Draft {
  readonly calendar: CalendarWire | undefined;
  readonly form: CalendarForm;
}

/** When work is done: the hours of the week, holidays, closures and other hours. A change holds from now on. */
@Component({
  selector: 'dl-calendars-page',
  imports: [AsyncPipe, Field, HolidayFinder, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './calendars.page.html',
  styleUrl: './calendars.page.css',
})
export class CalendarsPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly days = DAYS;
  protected readonly draft = signal<Draft | undefined>(undefined);
  protected readonly wrong = signal<Readonly<Record<string, string>>>({});
  protected readonly busy = signal(false);
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () =>
    this.api.call(calendarRoutes.listCalendars, {}).pipe(map((a) => a.calendars)),
  );

  protected open(calendar: CalendarWire | undefined): void {
    const { name, zone, week, dates } = calendar ?? {
      name: '',
      zone: this.session.zone,
      week: DAYS.map((_, i) => (i < 5 ? '08:30-17:30' : '')),
      dates: [],
    };
    this.wrong.set({});
    this.draft.set({ calendar, form: { name, zone, week: [...week], dates: dates.map((d) => ({ ...d })) } });
  }

  protected patch(part: Partial<CalendarForm>): void {
    this.draft.update((d) => d && { ...d, form: { ...d.form, ...part } });
  }

  protected setDay(form: CalendarForm, day: number, hours: string): void {
    this.patch({ week: form.week.map((h, i) => (i === day ? hours : h)) });
  }

  protected setDate(form: CalendarForm, at: number, part: Partial<CalendarForm['dates'][number]>): void {
    this.patch({ dates: form.dates.map((d, i) => (i === at ? { ...d, ...part } : d)) });
  }

  protected removeDate(form: CalendarForm, at: number): void {
    this.patch({ dates: form.dates.filter((_, i) => i !== at) });
  }

  /** Holidays that are put in; a date that stands already keeps its hours. */
  protected add(form: CalendarForm, days: readonly { readonly date: string; readonly name: string }[]): void {
    const known = new Set(form.dates.map((d) => d.date));
    const fresh = days.filter((d) => !known.has(d.date)).map((d) => ({ ...d, hours: '' }));
    this.patch({ dates: [...form.dates, ...fresh].sort((a, b) => (a.date < b.date ? -1 : 1)) });
    this.toasts.done(`${fresh.length} dates are put in; save to let them hold`);
  }

  protected words(c: CalendarWire): string {
    const uses = [...(c.isProviders ? ['ours'] : []), ...c.clients];
    return `${c.zone}; ${uses.length ? uses.join(', ') : 'nobody counts on it yet'}; ${c.dates.length} dates of their own`;
  }

  protected save(event: Event): void {
    event.preventDefault();
    const { calendar, form } = this.draft()!;
    this.busy.set(true);
    const command = calendar
      ? this.api.call(calendarRoutes.editCalendar, { params: { calendarId: calendar.id }, version: calendar.version, body: form })
      : this.api.call(calendarRoutes.addCalendar, { body: form });
    command.subscribe({
      next: () => {
        this.busy.set(false);
        this.toasts.done(`${form.name} holds from now on; what falls due is computed again`);
        this.draft.set(undefined);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.wrong.set(problemOf(fault).fields ?? {});
        this.toasts.trouble(fault);
      },
    });
  }
}
