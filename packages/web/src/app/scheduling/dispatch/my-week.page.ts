import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, effect, inject, input } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { BehaviorSubject, combineLatest, map, merge, startWith, Subject, tap } from 'rxjs';
import { dispatchRoutes, type MyWeekWire } from '@core/scheduling';
import { plusDays, type LocalDate, sayWork } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { saySpan, shortDay } from '../../ui/time-format';
import { sideBySide, type Placed } from './side-by-side';

type Day = MyWeekWire['days'][number];
interface Block {
  readonly from: number;
  readonly to: number;
  readonly what: 'booking' | 'away' | 'outside';
  readonly state: string;
  readonly title: string;
  readonly more: string;
  readonly link: readonly string[] | null;
}

/** One's own week as a calendar: bookings, time off, appointments from elsewhere, and what is recorded beside them. */
@Component({
  selector: 'dl-my-week-page',
  imports: [AsyncPipe, AtPipe, MinutesPipe, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './my-week.page.html',
  styleUrl: './my-week.page.css',
})
export class MyWeekPage {
  readonly day = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  private readonly which = new BehaviorSubject<string | undefined>(undefined);
  private readonly again = new Subject<void>();
  private now: MyWeekWire | undefined;
  protected readonly week$ = loading(
    combineLatest([
      this.which,
      merge(
        inject(Live).mine(['entry', 'booking', 'ticket', 'outside-calendar'], () => this.now),
        this.again,
      ).pipe(startWith(undefined)),
    ]).pipe(map(([day]) => day)),
    (day) => this.api.call(dispatchRoutes.getMyWeek, { query: day ? { day } : {} }),
  ).pipe(tap((w) => w.is === 'there' && (this.now = w.value)));

  constructor() {
    effect(() => this.which.next(this.day()));
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '← →', what: 'the week before, the week after' },
      { keys: '.', what: 'this week' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe(({ key }) => {
      if (key === 'ArrowLeft' || key === 'ArrowRight') this.go(key === 'ArrowLeft' ? -7 : 7);
      if (key === '.') this.show(undefined);
    });
  }

  protected go(days: number): void {
    if (this.now) this.show(plusDays(this.now.days[0]!.day as LocalDate, days));
  }

  protected show(day: string | undefined): void {
    void this.router.navigate([], { queryParams: { day } });
  }

  protected retry(): void {
    this.again.next();
  }

  /** Weekends only where there is something in them. */
  protected shown(w: MyWeekWire): Day[] {
    return w.days.filter((d, n) => n < 5 || w.lane.days[n]!.working.length > 0 || this.blocks(w, d).length > 0);
  }

  protected title(w: MyWeekWire): string {
    return saySpan(w.days[0]!.day, w.days[6]!.day);
  }

  protected readonly dayName = shortDay;

  protected figures(w: MyWeekWire, d: Day) {
    return w.lane.days.find((l) => l.day === d.day)!;
  }

  protected isToday(w: MyWeekWire, d: Day): boolean {
    return d.from.slice(0, 10) === w.now.slice(0, 10);
  }

  /** Share of the day's height, cut to what is shown. */
  protected top(d: Day, at: number): number {
    const [from, to] = [Date.parse(d.from), Date.parse(d.to)];
    return Math.min(100, Math.max(0, ((at - from) / (to - from)) * 100));
  }

  protected nowAt(w: MyWeekWire, d: Day): number | undefined {
    const at = this.session.now();
    return this.isToday(w, d) && at >= Date.parse(d.from) && at < Date.parse(d.to) ? this.top(d, at) : undefined;
  }

  protected hours(w: MyWeekWire): { readonly at: string; readonly top: number }[] {
    const d = w.days[0]!;
    const count = Math.round((Date.parse(d.to) - Date.parse(d.from)) / 3_600_000);
    return Array.from({ length: count }, (_, n) => ({
      at: new Date(Date.parse(d.from) + n * 3_600_000).toISOString(),
      top: (n / count) * 100,
    }));
  }

  protected within(d: Day, spans: readonly { readonly from: string; readonly to: string }[]): { from: number; to: number }[] {
    return spans
      .map((s) => ({ from: Date.parse(s.from), to: Date.parse(s.to) }))
      .filter((s) => s.from < Date.parse(d.to) && Date.parse(d.from) < s.to);
  }

  protected blocks(w: MyWeekWire, d: Day): Placed<Block>[] {
    const bookings = w.lane.bookings.map((b): Block => ({
      from: Date.parse(b.startsAt),
      to: Date.parse(b.endsAt),
      what: 'booking',
      state: b.tentative ? `${b.state} tentative` : b.state,
      title: sayWork(b),
      more: [b.client, b.onSite ? b.site : null, b.bring ? `bring ${b.bring}` : null].filter(Boolean).join(', '),
      link: b.workKind === 'ticket' ? ['/tickets', b.workId] : null,
    }));
    const plain = ({
      what,
      from,
      to,
      title,
      more = '',
    }: {
      readonly what: 'away' | 'outside';
      readonly from: string;
      readonly to: string;
      readonly title: string;
      readonly more?: string;
    }): Block => ({
      from: Date.parse(from),
      to: Date.parse(to),
      what,
      state: '',
      title,
      more,
      link: null,
    });
    const away = this.figures(w, d)
      .away.filter((a) => !w.outside.some((o) => o.from === a.from && o.to === a.to))
      .map((a) => plain({ what: 'away', from: a.from, to: a.to, title: a.what }));
    const outside = w.outside.map((o) => plain({ what: 'outside', from: o.from, to: o.to, title: o.summary, more: o.calendar }));
    const inDay = (b: Block) => b.from < Date.parse(d.to) && Date.parse(d.from) < b.to;
    return sideBySide([...bookings, ...away, ...outside].filter(inDay));
  }

  protected iso(at: number): string {
    return new Date(at).toISOString();
  }
}
