import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { map, startWith, Subject } from 'rxjs';
import { calendarFormSchema, calendarRoutes, type CalendarForm, type CalendarWire } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DateInput } from '../../ui/date-input';
import { Field } from '../../ui/field';
import { FormState, type FormView } from '../../ui/form-state';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';
import { HolidayFinder } from './holiday-finder';
import { SetupPart } from '../../ui/setup-part';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

interface Draft {
  readonly calendar: CalendarWire | undefined;
  /** What is typed; kept until it is saved or left on purpose. */
  readonly state: FormState<typeof calendarFormSchema>;
}

/** When work is done: the hours of the week, holidays, closures and other hours. A change holds from now on. */
@Component({
  selector: 'dl-calendars-page',
  imports: [SetupPart, AsyncPipe, DateInput, Field, HolidayFinder, StateNote],
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
    const initial = { name, zone, week: [...week], dates: dates.map((d) => ({ ...d })) };
    const state = new FormState(calendarFormSchema, initial, { draft: `calendar.${calendar?.id ?? 'new'}`, version: calendar?.version });
    this.draft.set({ calendar, state });
  }

  /** The form as it stands. */
  protected formOf(view: FormView): CalendarForm {
    return view.values as unknown as CalendarForm;
  }

  /** What is wrong with the dates, as a whole or in one of them. */
  protected wrongDates(view: FormView): string {
    return Object.entries(view.errors)
      .filter(([place]) => place.startsWith('dates'))
      .map(([, what]) => what)
      .join('; ');
  }

  protected patch(part: Partial<CalendarForm>): void {
    for (const [name, value] of Object.entries(part)) this.draft()!.state.set(name, value);
  }

  protected leave(): void {
    this.draft()!.state.forget();
    this.draft.set(undefined);
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
    const { calendar, state } = this.draft()!;
    const body = state.check();
    if (!body) return;
    state.busy(true);
    const command = calendar
      ? this.api.call(calendarRoutes.editCalendar, { params: { calendarId: calendar.id }, version: state.version!, body })
      : this.api.call(calendarRoutes.addCalendar, { body });
    command.subscribe({
      next: () => {
        state.saved();
        this.toasts.done(`${body.name} holds from now on; what falls due is computed again`);
        this.draft.set(undefined);
        this.again.next();
      },
      error: (fault: unknown) => {
        state.refused(fault);
        this.toasts.trouble(fault);
      },
    });
  }
}
