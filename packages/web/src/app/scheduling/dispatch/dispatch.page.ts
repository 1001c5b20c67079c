import { CdkDrag, CdkDragPreview, CdkDropList, CdkDropListGroup, type CdkDragEnd, type CdkDragMove } from '@angular/cdk/drag-drop';
import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal, viewChild } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { NgbDropdown, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import type { ClockWire } from '@core/desk';
import { type BookingWire, type DispatchWire, type LaneWire, planningRoutes, type UnbookedWire } from '@core/scheduling';
import { formatMinutes, type Id, type LocalDate, type NamedWork, plusDays, sayWork, sayWorkShortly } from '@core/ground';
import { ViewMenu } from '../../house';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { ClockStrip } from '../../ui/clock-strip';
import type { Loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { nearTime } from '../../ui/time-format';
import { BoardScale } from './board-scale';
import { aboutBooking, aboutWork, boardLoad, boardMarks, boardTitle, boardTotal } from './board-words';
import { BookForm } from './book-form';
import { DispatchLane, type Gap, type Ghost } from './dispatch-lane';
import { DispatchState, minutesOf, type Clash, type Slot } from './dispatch.state';
import { dropPlace, ghostOf, troublesOf, type Dragged } from './drop-place';
import { GapFits } from './gap-fits';
import { OtherWork } from './other-work';
import { OverrunNote } from './overrun-note';
import { PlanPanel } from './plan-panel';
import { UnbookedChoice } from './unbooked-choice';
import { unbookedFilter } from './unbooked-filter';
import { type Wanted, wantedBooking, wantedUnbooked, wantedWork } from './wanted';

type Dock =
  | { readonly is: 'gap'; readonly lane: LaneWire; readonly gap: Gap }
  | { readonly is: 'book'; readonly wanted: Wanted }
  | { readonly is: 'find' }
  | { readonly is: 'plan'; readonly planId: string };
type Found = Loading<{ work: UnbookedWire[]; count: number; countCapped: boolean }> | null;

/** Lanes of one or more days, beside them the work that nobody is booked for, under them what is being done. */
@Component({
  selector: 'dl-dispatch-page',
  imports: [
    AsyncPipe,
    RouterLink,
    CdkDrag,
    CdkDragPreview,
    CdkDropList,
    CdkDropListGroup,
    NgbDropdown,
    NgbDropdownMenu,
    NgbDropdownToggle,
    ArrowRows,
    ClockStrip,
    AtPipe,
    MinutesPipe,
    StateNote,
    ViewMenu,
    BookForm,
    DispatchLane,
    GapFits,
    OtherWork,
    OverrunNote,
    UnbookedChoice,
    PlanPanel,
  ],
  providers: [DispatchState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './dispatch.page.html',
  styleUrl: './dispatch.page.css',
})
export class DispatchPage {
  readonly day = input<string>();
  readonly days = input<string>();
  readonly teams = input<string>();
  readonly cancelled = input<string>();
  readonly done = input<string>();
  readonly only = input<string>();
  readonly q = input<string>();
  protected readonly state = inject(DispatchState);
  protected readonly session = inject(Session);
  protected readonly say = sayWork;
  protected readonly shortly = sayWorkShortly;
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly fits = viewChild<GapFits>('fits');
  protected readonly ghost = signal<Ghost | undefined>(undefined);
  protected readonly dock = signal<Dock | undefined>(undefined);
  protected readonly peek = signal<BookingWire | undefined>(undefined);
  protected readonly wanted = computed(() => {
    const dock = this.dock();
    return dock?.is === 'book' ? dock.wanted : undefined;
  });
  protected readonly teamIds = computed(() => (this.teams() ? this.teams()!.split(',') : []));
  protected readonly spans = [
    { days: '1', words: 'Day' },
    { days: '3', words: '3 days' },
    { days: '5', words: 'Week' },
  ];

  constructor() {
    effect(() => {
      const asked = { day: this.day(), days: this.days(), teams: this.teams(), cancelled: this.cancelled() };
      this.state.show(Object.fromEntries(Object.entries(asked).filter((e): e is [string, string] => Boolean(e[1]))));
    });
    effect(() => this.state.narrow(unbookedFilter({ only: this.only(), q: this.q(), now: this.session.now(), zone: this.session.zone })));
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '← →', what: 'earlier, later' },
      { keys: '.', what: 'today' },
      { keys: 'd w', what: 'a day, a week' },
      { keys: '↑ ↓ Enter', what: 'choose work, see who can and when, and book it' },
      { keys: '1 to 9', what: 'take what fits the chosen gap' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      if (event.key === 'ArrowLeft') this.go(-1);
      if (event.key === 'ArrowRight') this.go(1);
      if (event.key === '.') this.set({ day: undefined });
      if (event.key === 'd') this.set({ days: undefined });
      if (event.key === 'w') this.set({ days: '5' });
      if (event.key === 'Escape') this.dock.set(undefined);
      if (/^[1-9]$/.test(event.key)) this.fits()?.takeNth(Number(event.key));
    });
  }

  protected set(queryParams: Record<string, string | undefined>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  protected go(way: number): void {
    const first = this.state.now?.days[0]?.day;
    const step = { '3': 3, '5': 7, '7': 7 }[this.days() ?? ''] ?? 1;
    if (first) this.set({ day: plusDays(first as LocalDate, way * step) });
  }

  /** Bookings still to come that cannot be done as they stand. */
  protected conflicts(d: DispatchWire): number {
    const open = d.lanes.flatMap((l) => l.bookings.filter((b) => b.state === 'planned' && b.startsAt > d.now).map((b) => b.id));
    return new Set(d.lanes.flatMap((l) => l.conflicts.map((c) => c.bookingId)).filter((id) => open.includes(id))).size;
  }

  protected isSpan(days: string): boolean {
    const shown = this.days() ?? '1';
    return shown === days || (shown === '7' && days === '5');
  }

  protected flip(name: string, was: string | undefined): void {
    this.set({ [name]: was === 'yes' ? undefined : 'yes' });
  }

  protected switchTeam(id: Id<'team'>): void {
    const ids = this.teamIds().includes(id) ? this.teamIds().filter((t) => t !== id) : [...this.teamIds(), id];
    this.set({ teams: ids.join(',') || undefined });
  }

  protected teamWords(d: DispatchWire): string {
    return (
      d.teams
        .filter((t) => this.teamIds().includes(t.id))
        .map((t) => t.name)
        .join(', ') || 'Every team'
    );
  }

  protected readonly title = boardTitle;

  protected scaleOf = memo((d: DispatchWire) => new BoardScale(d));

  protected marks(d: DispatchWire) {
    return boardMarks(d, this.scaleOf(d), this.session.zone);
  }

  protected readonly total = boardTotal;

  protected readonly load = boardLoad;

  protected readonly about = aboutWork;

  protected free(d: DispatchWire): number {
    return d.lanes.reduce((a, l) => a + l.days.reduce((b, x) => b + x.freeMinutes, 0), 0);
  }

  protected nowShare(d: DispatchWire, scale: BoardScale): number | undefined {
    const at = Date.parse(d.now);
    return scale.shows(at) ? scale.share(at) : undefined;
  }

  protected workOf(un: Found): readonly UnbookedWire[] {
    return un?.is === 'there' ? un.value.work : [];
  }

  protected count(un: Found): string {
    return un?.is === 'there' ? `${un.value.count}${un.value.countCapped ? '+' : ''}` : '';
  }

  protected pressing(clocks: readonly ClockWire[]): ClockWire | undefined {
    return clocks.find((c) => c.clock === 'resolution');
  }

  protected chosen(lane: LaneWire): string | undefined {
    const dock = this.dock();
    if (dock?.is === 'gap') return dock.lane.personId === lane.personId ? dock.gap.from : undefined;
    return dock?.is === 'book' ? dock.wanted.booking?.id : undefined;
  }

  protected peekWords(b: BookingWire): string {
    return aboutBooking(b, this.session.now(), this.session.zone);
  }

  protected moved(d: DispatchWire, event: CdkDragMove<Dragged>): void {
    const scale = this.scaleOf(d);
    const place = dropPlace({ d, scale, data: event.source.data, point: event.pointerPosition, dragged: event.distance.x });
    this.ghost.set(
      place &&
        ghostOf({
          scale,
          place,
          troubles: troublesOf({ d, place, data: event.source.data, now: this.session.now() }),
          zone: this.session.zone,
        }),
    );
  }

  protected dropped(d: DispatchWire, { source, dropPoint, distance }: CdkDragEnd<Dragged>): void {
    this.ghost.set(undefined);
    const place = dropPlace({ d, scale: this.scaleOf(d), data: source.data, point: dropPoint, dragged: distance.x });
    if (!place) return;
    if ('unbooked' in source.data) this.state.book(source.data.unbooked, { ...place.slot, onSite: source.data.unbooked.needsVisit });
    else this.state.move(source.data.booking, place.slot);
  }

  protected openGap(lane: LaneWire, gap: Gap): void {
    this.dock.set({ is: 'gap', lane, gap });
  }

  /** The list never hides the lane it speaks of. */
  protected bringUp(lane: LaneWire): void {
    document.querySelector(`[data-lane="${lane.personId}"]`)?.closest('dl-dispatch-lane')?.scrollIntoView({ block: 'nearest' });
  }

  protected choose(d: DispatchWire, work: UnbookedWire): void {
    this.dock.set({ is: 'book', wanted: wantedUnbooked(d, work, this.session.now()) });
  }

  protected chooseOther(d: DispatchWire, work: NamedWork): void {
    this.dock.set({ is: 'book', wanted: wantedWork(d, work, this.session.now()) });
  }

  protected edit(booking: BookingWire): void {
    if (booking.state === 'cancelled') return this.state.restore(booking, booking.version, `${sayWorkShortly(booking)} is booked again`);
    if (booking.state !== 'done') this.dock.set({ is: 'book', wanted: wantedBooking(booking) });
    else if (booking.workKind === 'ticket') void this.router.navigate(['/tickets', booking.workId]);
  }

  /** @param workIds what has to find a place, whatever else does */
  protected plan(d: DispatchWire, onlyRepair: boolean, workIds: readonly Id<'work'>[] = []): void {
    const body = { teamIds: this.teamIds(), day: d.days[0]!.day, days: d.days.length, onlyRepair, workIds: [...workIds] };
    this.api.call(planningRoutes.askForPlan, { body }).subscribe({
      next: ({ id }) => this.dock.set({ is: 'plan', planId: id }),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected theirs(d: DispatchWire, bookingId: Id<'booking'>): string {
    const lane = d.lanes.find((l) => l.bookings.some((b) => b.id === bookingId));
    const b = lane?.bookings.find((x) => x.id === bookingId);
    return b ? this.says({ personId: b.personId, startsAt: b.startsAt, minutes: minutesOf(b) }) : 'no longer on these lanes';
  }

  protected says(slot: Slot): string {
    return `${this.state.who(slot.personId)}, ${nearTime(Date.parse(slot.startsAt), this.session.now(), this.session.zone)}, ${formatMinutes(slot.minutes)}`;
  }

  protected mine(d: DispatchWire, { booking, wanted }: Clash): void {
    this.state.clash.set(undefined);
    const current = d.lanes.flatMap((l) => l.bookings).find((b) => b.id === booking.id);
    if (current) this.state.move(current, wanted);
    else this.toasts.trouble('It is no longer on these lanes; look for it on its ticket.');
  }
}

/** Keeps the answer for the same argument. */
function memo<A, R>(make: (a: A) => R): (a: A) => R {
  let last: { a: A; r: R } | undefined;
  return (a) => (last?.a === a ? last : (last = { a, r: make(a) })).r;
}
