import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { merge, startWith, Subject } from 'rxjs';
import type { Id } from '@core/ground';
import { addOutsideCalendarSchema, outsideCalendarRoutes } from '@core/scheduling';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import { Field } from '../../ui/field';
import { FormState } from '../../ui/form-state';
import { loading } from '../../ui/loading';
import { AtPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';

/** One's own calendars from elsewhere: dispatch sees that one is busy then, and not with what. */
@Component({
  selector: 'dl-outside-calendars',
  imports: [AsyncPipe, AtPipe, Field, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './outside-calendars.html',
  styleUrl: './outside-calendars.css',
})
export class OutsideCalendars {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly again = new Subject<void>();
  protected readonly state = new FormState(addOutsideCalendarSchema, { name: '', address: null, file: null });
  protected readonly adding = signal(false);
  protected readonly fileName = signal('');
  protected readonly calendars$ = loading(merge(inject(Live).about('outside-calendar'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(outsideCalendarRoutes.listOutsideCalendars, {}),
  );

  protected retry(): void {
    this.again.next();
  }

  protected async chooseFile(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    if (!file) return;
    this.fileName.set(file.name);
    this.state.set('file', await file.text());
    if (!this.state.values['name']) this.state.set('name', file.name.replace(/\.ics$/i, ''));
  }

  protected forgetFile(): void {
    this.fileName.set('');
    this.state.set('file', null);
  }

  protected add(event: Event): void {
    event.preventDefault();
    const body = this.state.check();
    if (!body) return;
    this.api.call(outsideCalendarRoutes.addOutsideCalendar, { body: { ...body, address: body.address || null } }).subscribe({
      next: () => {
        this.toasts.done(body.file ? `${body.name} is read in` : `${body.name} is being read; its appointments show as busy`);
        this.adding.set(false);
        this.forgetFile();
        for (const name of ['name', 'address']) this.state.set(name, name === 'name' ? '' : null);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.state.refused(fault);
        this.toasts.trouble(fault);
      },
    });
  }

  protected read(outsideCalendarId: Id<'outside_calendar'>): void {
    this.api.call(outsideCalendarRoutes.readOutsideCalendar, { params: { outsideCalendarId } }).subscribe({
      next: () => this.toasts.done('It is being read again'),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected remove(outsideCalendarId: Id<'outside_calendar'>, name: string): void {
    this.api.call(outsideCalendarRoutes.removeOutsideCalendar, { params: { outsideCalendarId } }).subscribe({
      next: () => (this.toasts.done(`${name} is read no more`), this.again.next()),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
