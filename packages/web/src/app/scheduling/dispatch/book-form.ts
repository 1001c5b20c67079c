import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import { bookSchema, REPEATS, type BookingWire, type DispatchWire, type Repeat } from '@core/scheduling';
import { durationTyped, parseMinutes, sayWork, ticketIdOf } from '@core/ground';
import { messageRoutes, type CallOutcome } from '@core/desk';
import { TimeForm } from '../../desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { Field, type Option } from '../../ui/field';
import { FormState } from '../../ui/form-state';
import { AtPipe } from '../../ui/pipes';
import type { Line } from '../../ui/record-form';
import { closesWhat } from './closing';
import { DispatchState } from './dispatch.state';
import { WorkFits } from './work-fits';
import type { Wanted } from './wanted';

/** What the route takes, with the length as people type it. */
const schema = bookSchema.omit(['workId', 'minutes']).shape({ duration: durationTyped() });
const REPEAT_WORDS: Readonly<Record<Repeat, string>> = {
  no: 'once',
  day: 'every day',
  weekday: 'Monday to Friday',
  week: 'every week',
  'two weeks': 'every two weeks',
  month: 'every month',
};

const TICKET_LINES: readonly Line[] = [
  { name: 'onSite', label: 'on site', kind: 'yes' },
  { name: 'tellClient', label: 'tell the client, with .ics', kind: 'yes' },
];

const REPEAT_LINES: readonly Line[] = [
  { name: 'repeat', label: 'Repeat', kind: 'choice', options: REPEATS.map((value) => ({ value, label: REPEAT_WORDS[value] })) },
  { name: 'times', label: 'How often', kind: 'number', when: ({ repeat }) => repeat !== 'no' },
];

/** Books or changes by typing: what dragging does, for the keyboard, and all that dragging cannot say. */
@Component({
  selector: 'dl-book-form',
  imports: [AsyncPipe, AtPipe, Field, RouterLink, TimeForm, WorkFits],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './book-form.html',
  styleUrl: './book-form.css',
})
export class BookForm {
  readonly wanted = input.required<Wanted>();
  readonly view = input.required<DispatchWire>();
  readonly closed = output<void>();
  /** It is pressing: a plan that moves as little as possible is to find it a place. */
  readonly makeRoom = output<string>();
  protected readonly dispatch = inject(DispatchState);
  protected readonly session = inject(Session);
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly state = new FormState(schema, {});
  protected readonly adding = signal<'log' | 'call' | 'cancel' | undefined>(undefined);
  protected readonly people = computed((): Option[] =>
    this.view().lanes.flatMap((l) => (l.personId ? [{ value: l.personId, label: l.name }] : [])),
  );
  protected readonly isTicket = computed(() => this.wanted().work.workKind === 'ticket');
  protected readonly say = sayWork;
  protected readonly lines = computed((): Line[] => [
    { name: 'personId', label: 'Technician', kind: 'choice', none: 'no technician yet', options: this.people() },
    { name: 'startsAt', label: 'From', kind: 'moment' },
    { name: 'duration', label: 'For', kind: 'duration' },
    ...(this.isTicket() ? TICKET_LINES : []),
    { name: 'tentative', label: 'tentative', kind: 'yes' },
    { name: 'fixed', label: 'fixed: plans leave it where it is', kind: 'yes', wide: true },
    { name: 'bring', label: 'Bring', placeholder: 'spare switch, long ladder' },
    ...(this.wanted().booking ? [] : REPEAT_LINES),
  ]);
  private readonly closeThis = closesWhat(this.wanted, this.closed);
  private shownFor = '';

  constructor() {
    effect(() => {
      const w = this.wanted();
      const key = `${w.work.workId} ${w.booking?.id} ${w.booking?.version}`;
      if (key === this.shownFor) return;
      this.shownFor = key;
      const values = {
        personId: w.personId,
        startsAt: w.startsAt,
        duration: w.duration,
        onSite: w.onSite,
        tentative: w.booking?.tentative ?? false,
        fixed: w.booking?.fixed ?? false,
        tellClient: false,
        bring: w.booking?.bring ?? null,
        withIds: [],
        repeat: 'no',
        times: '4',
      };
      for (const [name, value] of Object.entries(values)) this.state.set(name, value);
      untracked(() => this.adding.set(undefined));
    });
  }

  protected save(event: Event): void {
    event.preventDefault();
    const values = this.state.check();
    if (!values) return;
    const { duration, withIds, repeat, times, ...rest } = values;
    const slot = { ...rest, minutes: parseMinutes(duration)! };
    const { booking } = this.wanted();
    if (booking) this.dispatch.move(booking, slot, this.closeThis());
    else this.dispatch.book(this.wanted().work, { ...slot, withIds, repeat, times }, this.closeThis());
  }

  protected keepEstimate(): void {
    const minutes = parseMinutes(String(this.state.values['duration'] ?? ''));
    if (minutes) this.dispatch.setEstimate(this.wanted().work, minutes);
    else this.state.check();
  }

  protected keepVisit(): void {
    this.dispatch.setVisit(this.wanted().work, !this.wanted().onSite);
    this.closed.emit();
  }

  protected cancel(booking: BookingWire, { reason, ...how }: { reason: string; series: boolean; tellClient: boolean }): void {
    this.dispatch.cancel(booking, { reason: reason.trim() || null, ...how }, this.closeThis());
  }

  protected writeCall(text: string, outcome: string): void {
    if (!text.trim()) return this.toasts.trouble('Say in a few words what the call was about.');
    const body = { way: 'out' as const, outcome: outcome as CallOutcome, text, at: null, callBackAt: null };
    this.api.call(messageRoutes.writeCall, { params: { ticketId: ticketIdOf(this.wanted().work.workId) }, body }).subscribe({
      next: () => (this.toasts.done('The call is written down'), this.adding.set(undefined)),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
