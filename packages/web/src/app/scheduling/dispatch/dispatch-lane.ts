import { CdkDrag, CdkDragPreview, CdkDropList, type CdkDragEnd, type CdkDragMove } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { NgbDropdown, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import type { BookingWire, LaneWire } from '@core/scheduling';
import { formatMinutes, type Id, sayWork, sayWorkShortly } from '@core/ground';
import { Session } from '../../shell/session';
import { BeatStrip } from '../../ui/beat-strip';
import { MinutesPipe } from '../../ui/pipes';
import { clockTime } from '../../ui/time-format';
import type { BoardScale } from './board-scale';
import { minutesOf } from './dispatch.state';

/** Where a drop would go, with what stands against it. */
export interface Ghost {
  readonly personId: Id<'person'> | null;
  readonly left: number;
  readonly width: number;
  readonly words: string;
  readonly trouble: boolean;
}
export interface Gap {
  readonly from: string;
  readonly to: string;
}
const SHORTEST_GAP = 15;
/** A gap or booking narrower than this, in percent of the board, has no room for words. */
const WORDS_FROM = 3.2;
const PRESSED_FROM = 3.5;

/** A technician's row: figures beside it, bookings with their ways, what is free, and the beat strip under it. */
@Component({
  selector: 'dl-dispatch-lane',
  imports: [
    BeatStrip,
    CdkDrag,
    CdkDragPreview,
    CdkDropList,
    MinutesPipe,
    NgbDropdown,
    NgbDropdownItem,
    NgbDropdownMenu,
    NgbDropdownToggle,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dispatch-lane.html',
  styleUrl: './dispatch-lane.css',
})
export class DispatchLane {
  readonly lane = input.required<LaneWire>();
  readonly scale = input.required<BoardScale>();
  readonly ghost = input<Ghost | undefined>();
  readonly nowAt = input<number | undefined>();
  readonly hideDone = input(false);
  readonly chosen = input<string | undefined>();
  /** Somebody called in ill. */
  readonly away = output<void>();
  readonly gapChosen = output<Gap>();
  readonly bookingChosen = output<BookingWire>();
  readonly peeked = output<BookingWire>();
  readonly dragMoved = output<CdkDragMove<{ booking: BookingWire }>>();
  readonly dragEnded = output<CdkDragEnd<{ booking: BookingWire }>>();
  readonly stretched = output<{ booking: BookingWire; minutes: number }>();
  protected readonly session = inject(Session);
  protected readonly say = sayWork;
  protected readonly total = computed(() => {
    const sum = (f: (d: LaneWire['days'][number]) => number) => this.lane().days.reduce((a, d) => a + f(d), 0);
    const [available, booked] = [sum((d) => d.availableMinutes), sum((d) => d.bookedMinutes)];
    return { available, booked, free: sum((d) => d.freeMinutes), load: available ? Math.floor((booked * 100) / available) : 0 };
  });
  protected readonly bookings = computed(() => this.lane().bookings.filter((b) => !this.hideDone() || b.state !== 'done'));
  /** Free from now on, as far as it is long enough for work. */
  protected readonly gaps = computed(() => this.lane().days.flatMap((d) => d.gaps.filter((g) => this.minutes(g) >= SHORTEST_GAP)));
  protected readonly aways = computed(() => this.lane().days.flatMap((d) => d.away));
  protected readonly holidays = computed(() =>
    this.lane().days.flatMap((d, i) =>
      d.holiday ? [{ name: d.holiday, left: (i / this.scale().count) * 100, width: 100 / this.scale().count }] : [],
    ),
  );

  protected left(at: string): number {
    return this.scale().share(Date.parse(at));
  }

  protected width(from: string, to: string): number {
    return this.scale().width(Date.parse(from), Date.parse(to));
  }

  protected hasRoom(from: string, to: string): boolean {
    return this.width(from, to) > WORDS_FROM;
  }

  /** What is narrower than a finger is no button. */
  protected canPress(gap: Gap): boolean {
    return this.width(gap.from, gap.to) > PRESSED_FROM;
  }

  protected minutes(gap: Gap): number {
    return Math.floor((Date.parse(gap.to) - Date.parse(gap.from)) / 60_000);
  }

  protected before(b: BookingWire): string {
    return new Date(Date.parse(b.startsAt) - b.travelBefore * 60_000).toISOString();
  }

  protected after(b: BookingWire): string {
    return new Date(Date.parse(b.endsAt) + b.travelAfter * 60_000).toISOString();
  }

  /** Why a booking cannot stand as it is; what is over cannot be put right any more. */
  protected conflict(b: BookingWire): string {
    if (b.state === 'done' || b.state === 'cancelled') return '';
    return this.lane()
      .conflicts.filter((c) => c.bookingId === b.id)
      .map((c) => c.why)
      .join(', ');
  }

  /** Whether a booking that is done took another span than was planned. */
  protected tookOther(b: BookingWire): boolean {
    return b.state === 'done' && (b.startsAt !== b.plannedStartsAt || b.endsAt !== b.plannedEndsAt);
  }

  protected label(b: BookingWire): string {
    const planned = this.tookOther(b) ? `, planned ${this.fromTo(b.plannedStartsAt, b.plannedEndsAt)}` : '';
    const more = [
      b.held ? `held for the client until ${clockTime(Date.parse(b.held.until), this.session.zone)}` : b.tentative ? 'tentative' : '',
      b.fixed ? 'fixed' : '',
      b.crewId ? 'several technicians' : '',
      this.conflict(b),
    ];
    return [`${sayWorkShortly(b)}, ${this.fromTo(b.startsAt, b.endsAt)}, ${b.state}${planned}`, ...more.filter(Boolean)].join(', ');
  }

  protected fromTo(from: string, to: string): string {
    return `${clockTime(Date.parse(from), this.session.zone)} to ${clockTime(Date.parse(to), this.session.zone)}`;
  }

  protected gapWords(gap: Gap): string {
    return `${formatMinutes(this.minutes(gap))} free, ${this.fromTo(gap.from, gap.to)}: what fits`;
  }

  protected mayMove(b: BookingWire): boolean {
    return (b.state === 'planned' || b.state === 'underway') && this.session.may('dispatch.book');
  }

  /** The right edge is dragged in steps of five minutes. */
  protected stretch(event: PointerEvent, b: BookingWire): void {
    event.preventDefault();
    event.stopPropagation();
    const handle = event.target as HTMLElement;
    const track = handle.closest<HTMLElement>('.track')!;
    const block = handle.closest<HTMLElement>('.booking')!;
    const [startX, was, box] = [event.clientX, minutesOf(b), track.getBoundingClientRect()];
    const end = this.left(b.endsAt);
    const minutesAt = (x: number) => {
      const to = this.scale().at(end + ((x - startX) / box.width) * 100);
      return Math.max(5, Math.round((to - Date.parse(b.startsAt)) / 300_000) * 5);
    };
    const move = (e: PointerEvent) => {
      const to = new Date(Date.parse(b.startsAt) + minutesAt(e.clientX) * 60_000).toISOString();
      block.style.width = `${this.width(b.startsAt, to)}%`;
    };
    const up = (e: PointerEvent) => {
      handle.removeEventListener('pointermove', move);
      const minutes = minutesAt(e.clientX);
      if (minutes !== was) this.stretched.emit({ booking: b, minutes });
    };
    handle.setPointerCapture(event.pointerId);
    handle.addEventListener('pointermove', move);
    handle.addEventListener('pointerup', up, { once: true });
  }
}
