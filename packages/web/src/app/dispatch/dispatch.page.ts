import { CdkDrag, CdkDragPreview, CdkDropList, CdkDropListGroup, type CdkDragEnd, type CdkDragMove } from '@angular/cdk/drag-drop';
import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { slotTrouble, type BookingWire, type DispatchDayWire, type LaneWire, type UnbookedWire } from '@core/dispatch';
import { formatInstant, formatMinutes, instantOfMillis, plusDays, type Instant, type Interval, type LocalDate } from '@core/time';
import { Session } from '../shell/session';
import { Shortcuts } from '../shell/shortcuts';
import { ArrowRows } from '../ui/arrow-rows';
import { BeatStrip } from '../ui/beat-strip';
import { ClockStrip } from '../ui/clock-strip';
import { AtPipe, MinutesPipe } from '../ui/pipes';
import { StateNote } from '../ui/state-note';
import { clockTime, longDay } from '../ui/time-format';
import { BookForm, type Wanted } from './book-form';
import { DispatchState, type Slot } from './dispatch.state';
import type { ClockWire } from '@core/clocks';

const NOBODY = '00000000-0000-0000-0000-000000000000';
const STEP_MS = 5 * 60_000;

interface Ghost {
  readonly personId: string;
  readonly left: number;
  readonly width: number;
  readonly words: string;
  readonly trouble: boolean;
}
type Dragged = { readonly unbooked: UnbookedWire } | { readonly booking: BookingWire };

/** A day of lanes, and beside it the work that nobody is booked for. */
@Component({
  selector: 'dl-dispatch-page',
  imports: [
    AsyncPipe,
    CdkDrag,
    CdkDragPreview,
    CdkDropList,
    CdkDropListGroup,
    ArrowRows,
    BeatStrip,
    ClockStrip,
    AtPipe,
    MinutesPipe,
    StateNote,
    BookForm,
  ],
  providers: [DispatchState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dispatch.page.html',
  styleUrl: './dispatch.page.css',
})
export class DispatchPage {
  readonly day = input<string>();
  readonly team = input<string>();
  protected readonly state = inject(DispatchState);
  protected readonly session = inject(Session);
  private readonly router = inject(Router);
  protected readonly ghost = signal<Ghost | undefined>(undefined);
  protected readonly wanted = signal<Wanted | undefined>(undefined);
  protected readonly hours = [8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18];

  constructor() {
    effect(() => this.state.show({ ...(this.day() ? { day: this.day()! } : {}), ...(this.team() ? { teamId: this.team()! } : {}) }));
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '← →', what: 'the day before, the day after' },
      { keys: '.', what: 'today' },
      { keys: '↑ ↓ Enter', what: 'choose work and book it' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      if (event.key === 'ArrowLeft') this.go(-1);
      if (event.key === 'ArrowRight') this.go(1);
      if (event.key === '.') this.set({ day: undefined });
      if (event.key === 'Escape') this.wanted.set(undefined);
    });
  }

  protected set(queryParams: Record<string, string | undefined>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  protected go(days: number): void {
    if (this.state.now) this.set({ day: plusDays(this.state.now.day as LocalDate, days) });
  }

  protected title(day: string): string {
    return longDay(Date.parse(`${day}T12:00:00Z`), 'UTC');
  }

  protected total(d: DispatchDayWire): string {
    const people = d.lanes.filter((l) => l.personId !== NOBODY);
    const sum = (f: (l: LaneWire) => number) => people.reduce((a, l) => a + f(l), 0);
    return `${people.filter((l) => l.availableMinutes > 0).length} of ${people.length} here · ${formatMinutes(sum((l) => l.availableMinutes))} there · ${formatMinutes(sum((l) => l.bookedMinutes))} booked`;
  }

  protected free(d: DispatchDayWire): number {
    return d.lanes.reduce((a, l) => a + l.freeMinutes, 0);
  }

  protected share(d: DispatchDayWire, instant: string | number): number {
    const at = typeof instant === 'number' ? instant : Date.parse(instant);
    return Math.max(0, Math.min(100, ((at - Date.parse(d.from)) / (Date.parse(d.to) - Date.parse(d.from))) * 100));
  }

  protected width(d: DispatchDayWire, from: string, to: string): number {
    return this.share(d, to) - this.share(d, from);
  }

  protected nowShare(d: DispatchDayWire): number | undefined {
    const at = Date.parse(d.now);
    return at > Date.parse(d.from) && at < Date.parse(d.to) ? this.share(d, at) : undefined;
  }

  protected hourAt(d: DispatchDayWire, hour: number): number {
    return this.share(d, Date.parse(d.from) + (hour - 7) * 3_600_000);
  }

  protected conflict(lane: LaneWire, booking: BookingWire): string {
    return lane.conflicts
      .filter((c) => c.bookingId === booking.id)
      .map((c) => c.why)
      .join(', ');
  }

  protected pressing(clocks: readonly ClockWire[]): ClockWire | undefined {
    return clocks.find((c) => c.clock === 'resolution');
  }

  protected gapMinutes(gap: { from: string; to: string }): number {
    return Math.floor((Date.parse(gap.to) - Date.parse(gap.from)) / 60_000);
  }

  protected label(booking: BookingWire): string {
    const planned = this.tookOther(booking) ? `, planned ${this.fromTo(booking.plannedStartsAt, booking.plannedEndsAt)}` : '';
    return `#${booking.number}, ${this.fromTo(booking.startsAt, booking.endsAt)}, ${booking.state}${planned}`;
  }

  private fromTo(from: string, to: string): string {
    return `${clockTime(Date.parse(from), this.session.zone)} to ${clockTime(Date.parse(to), this.session.zone)}`;
  }

  /** Whether a booking that is done took another span than was planned. */
  protected tookOther(b: BookingWire): boolean {
    return b.state === 'done' && (b.startsAt !== b.plannedStartsAt || b.endsAt !== b.plannedEndsAt);
  }

  /** Shows what a drop here would do, before the drop. */
  protected moved(d: DispatchDayWire, event: CdkDragMove<Dragged>): void {
    const place = this.placeAt(d, event.source.data, event.pointerPosition, event.distance.x);
    if (!place) return this.ghost.set(undefined);
    const [from, to] = [Date.parse(place.slot.startsAt), Date.parse(place.slot.startsAt) + place.slot.minutes * 60_000];
    const trouble = this.troubleOf(place.lane, from, to, 'booking' in event.source.data ? event.source.data.booking.id : undefined);
    const words = `${clockTime(from, this.session.zone)} to ${clockTime(to, this.session.zone)}${trouble ? `: ${trouble}` : ''}`;
    this.ghost.set({
      personId: place.lane.personId,
      left: this.share(d, from),
      width: this.share(d, to) - this.share(d, from),
      words,
      trouble: Boolean(trouble),
    });
  }

  protected dropped(d: DispatchDayWire, { source, dropPoint, distance }: CdkDragEnd<Dragged>): void {
    this.ghost.set(undefined);
    const { data } = source;
    const place = this.placeAt(d, data, dropPoint, distance.x);
    if (!place) return;
    if ('unbooked' in data) this.state.book(data.unbooked.ticketId, data.unbooked.number, place.slot);
    else this.state.move(data.booking, place.slot);
  }

  private placeAt(
    d: DispatchDayWire,
    data: Dragged,
    point: { x: number; y: number },
    dragged: number,
  ): { lane: LaneWire; slot: Slot } | undefined {
    const track = document.elementsFromPoint(point.x, point.y).find((e) => e.hasAttribute('data-lane'));
    const lane = d.lanes.find((l) => l.personId === track?.getAttribute('data-lane'));
    if (!track || !lane) return undefined;
    const box = track.getBoundingClientRect();
    const perPixel = (Date.parse(d.to) - Date.parse(d.from)) / box.width;
    const raw =
      'unbooked' in data ? Date.parse(d.from) + (point.x - box.left) * perPixel : Date.parse(data.booking.startsAt) + dragged * perPixel;
    const minutes =
      'unbooked' in data ? data.unbooked.estimateMinutes : (Date.parse(data.booking.endsAt) - Date.parse(data.booking.startsAt)) / 60_000;
    const startsAt = formatInstant(((Math.round(raw / STEP_MS) * STEP_MS) / 1000) as Instant);
    return { lane, slot: { personId: lane.personId === NOBODY ? null : lane.personId, startsAt, minutes } };
  }

  private troubleOf(lane: LaneWire, from: number, to: number, itself: string | undefined): string {
    const interval = (i: { from: string; to: string }): Interval => ({
      from: instantOfMillis(Date.parse(i.from)),
      to: instantOfMillis(Date.parse(i.to)),
    });
    const judged = {
      working: lane.working.map(interval),
      timeOff: lane.timeOff.map(interval),
      bookings: lane.bookings.map((b) => ({ id: b.id, ...interval({ from: b.startsAt, to: b.endsAt }) })),
      hasTechnician: lane.personId !== NOBODY,
    };
    return slotTrouble(judged, { from: instantOfMillis(from), to: instantOfMillis(to) }, instantOfMillis(this.session.now()), itself) ?? '';
  }

  protected choose(d: DispatchDayWire, work: UnbookedWire): void {
    const first = d.lanes.find((l) => l.gaps.some((g) => this.gapMinutes(g) >= work.estimateMinutes));
    const gap = first?.gaps.find((g) => this.gapMinutes(g) >= work.estimateMinutes);
    const start = gap ? Math.ceil(Date.parse(gap.from) / STEP_MS) * STEP_MS : this.session.now();
    this.wanted.set({
      title: `#${work.number} ${work.subject}`,
      ticketId: work.ticketId,
      number: work.number,
      personId: first?.personId ?? '',
      start: clockTime(start, this.session.zone),
      duration: String(work.estimateMinutes),
    });
  }

  protected edit(booking: BookingWire): void {
    if (booking.state === 'done') return void this.router.navigate(['/tickets', booking.ticketId]);
    this.wanted.set({
      title: `#${booking.number} ${booking.subject}`,
      ticketId: booking.ticketId,
      number: booking.number,
      booking,
      personId: booking.personId ?? '',
      start: clockTime(Date.parse(booking.startsAt), this.session.zone),
      duration: String((Date.parse(booking.endsAt) - Date.parse(booking.startsAt)) / 60_000),
    });
  }
}
