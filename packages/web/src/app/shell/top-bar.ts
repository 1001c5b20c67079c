import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { NgbDropdown, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { catchError, combineLatest, map, of, startWith, switchMap, timer } from 'rxjs';
import { accessRoutes, noticeRoutes, type NoticeWire } from '@core/house';
import { timeRoutes } from '@core/time';
import { BeatStrip } from '../ui/beat-strip';
import { AtPipe } from '../ui/pipes';
import { WorkLink } from '../ui/work-link';
import { Api } from './api';
import { Live } from './live';
import { SearchBox } from './search-box';
import { Session } from './session';
import { Shortcuts } from './shortcuts';
import { Timers } from './timers';
import { Theme } from './theme';

@Component({
  selector: 'dl-top-bar',
  host: { role: 'banner' },
  imports: [
    AsyncPipe,
    AtPipe,
    RouterLink,
    WorkLink,
    SearchBox,
    BeatStrip,
    NgbDropdown,
    NgbDropdownToggle,
    NgbDropdownMenu,
    NgbDropdownItem,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-search-box />
    <span class="grow"></span>
    @if ((live.connected$ | async) === false) {
      <span class="lost" role="status">Connection lost. What you see may be old; it catches up by itself.</span>
    }
    @let news = notices$ | async;
    @if (ringing(news?.notices); as ring) {
      <span class="rings" role="alert"
        ><a class="ring" [routerLink]="ring.ticketId ? ['/tickets', ring.ticketId] : []" (click)="seen(1)"
          ><b>Rings you</b> <span class="clip">{{ ring.text }}</span></a
        ></span
      >
    }
    @if (timer$ | async; as running) {
      <span class="timer">
        <i aria-hidden="true"></i><span class="mono">{{ running.shown }}</span>
        <dl-work-link [work]="running" />
        <button type="button" class="btn-link" (click)="timers.pause(running.id)">pause</button>
      </span>
    }
    @if (day$ | async; as day) {
      <a class="today" routerLink="/my-time" aria-label="Today, my time"
        ><span class="soft small">today</span><dl-beat-strip [beats]="day.beats" [nowAt]="day.nowAt"
      /></a>
    }
    @if (news) {
      <div ngbDropdown class="news" placement="bottom-end" (openChange)="$event || seen(news.unseen)">
        <button type="button" class="person" ngbDropdownToggle>
          What is new
          @if (news.unseen) {
            <b class="late">{{ news.unseen }}</b>
          }
        </button>
        <div ngbDropdownMenu class="news-list">
          @for (n of news.notices; track n.id) {
            <a ngbDropdownItem [routerLink]="n.ticketId ? ['/tickets', n.ticketId] : []" [class.fresh]="!n.seen"
              ><span class="mono small soft">{{ n.at | at }}</span> {{ n.text }}</a
            >
          } @empty {
            <p class="soft small who">Nothing yet: warnings before a promise is missed come up here.</p>
          }
        </div>
      </div>
    }
    <div ngbDropdown class="me">
      <button type="button" class="person" ngbDropdownToggle>{{ session.current?.person?.name?.split(' ')?.[0] }}</button>
      <div ngbDropdownMenu>
        <p class="soft small who">{{ session.current?.person?.name }}, {{ session.current?.person?.role }}</p>
        <a ngbDropdownItem routerLink="/account">Your account</a>
        <button ngbDropdownItem type="button" (click)="theme.toggle()">{{ theme.dark ? 'Light' : 'Dark' }} colours</button>
        <button ngbDropdownItem type="button" (click)="keys.on = !keys.on">Single-key shortcuts: {{ keys.on ? 'on' : 'off' }}</button>
        @if (session.current?.demo) {
          <button ngbDropdownItem type="button" (click)="leave()">Enter as somebody else</button>
        } @else {
          <button ngbDropdownItem type="button" (click)="leave()">Sign out</button>
        }
      </div>
    </div>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 16px;
      height: 48px;
      padding: 0 16px;
      border-bottom: 1px solid var(--rule);
      flex: none;
    }
    .lost {
      color: var(--late);
      font-size: 12.5px;
    }
    .ring {
      display: flex;
      align-items: center;
      gap: 8px;
      min-width: 0;
      max-width: 420px;
      height: 32px;
      padding: 0 10px;
      border: 1px solid var(--late);
      border-radius: 4px;
      background: var(--late-wash);
      color: var(--late);
      text-decoration: none;
      white-space: nowrap;
    }
    /* While it rings, the strip gives its room. */
    .rings ~ .today {
      display: none;
    }
    .timer {
      display: flex;
      align-items: center;
      gap: 8px;
      border: 1px solid var(--run);
      background: var(--run-wash);
      border-radius: 4px;
      height: 32px;
      padding: 0 10px;
      max-width: 340px;
    }
    .timer i {
      width: 8px;
      height: 8px;
      border-radius: 50%;
      background: var(--run);
      flex: none;
    }
    .timer .mono {
      font-weight: 700;
    }
    .today {
      display: flex;
      gap: 8px;
      align-items: center;
      text-decoration: none;
      width: 240px;
    }
    .today dl-beat-strip {
      flex: 1;
      height: 16px;
    }
    .person {
      background: none;
      border: 0;
      font: inherit;
      font-weight: 700;
      color: var(--ink);
      padding: 4px 2px;
    }
    @media (max-width: 760px) {
      :host {
        flex-wrap: wrap;
        gap: 6px 12px;
        height: auto;
        min-height: 48px;
        padding: 4px 12px;
      }
      /* What runs or rings has a line of its own. */
      .timer,
      .rings {
        order: 1;
        flex: 1 1 100%;
        min-width: 0;
        max-width: 100%;
      }
      .ring {
        max-width: 100%;
      }
      .today {
        display: none;
      }
      dl-search-box {
        flex: 1;
        min-width: 0;
      }
    }
    .news .person {
      font-weight: 400;
    }
    .news-list {
      width: 420px;
      max-height: 70vh;
      overflow: auto;
    }
    .news-list a {
      white-space: normal;
    }
    .fresh {
      font-weight: 600;
    }
    @media (max-width: 900px) {
      .news {
        display: none;
      }
    }
    .who {
      padding: 4px 12px;
    }
  `,
})
export class TopBar {
  protected readonly session = inject(Session);
  protected readonly live = inject(Live);
  protected readonly timers = inject(Timers);
  protected readonly theme = inject(Theme);
  protected readonly keys = inject(Shortcuts);
  private readonly api = inject(Api);
  private readonly router = inject(Router);

  protected readonly timer$ = combineLatest([this.timers.timers$, timer(0, 1000)]).pipe(
    map(([{ timers }]) => {
      const running = timers.find((t) => t.runningSince);
      if (!running) return undefined;
      const seconds = running.seconds + Math.floor((Date.now() - this.timers.readAt) / 1000);
      return {
        ...running,
        shown: `${Math.floor(seconds / 3600)}:${String(Math.floor(seconds / 60) % 60).padStart(2, '0')}:${String(seconds % 60).padStart(2, '0')}`,
      };
    }),
  );
  protected readonly notices$ = this.live.mine(['notice']).pipe(
    startWith(undefined),
    switchMap(() => this.api.call(noticeRoutes.listNotices, {}).pipe(catchError(() => of(undefined)))),
  );

  /** The newest ring that the person has not seen: it stands on every page until they have. */
  protected ringing(notices: readonly NoticeWire[] | undefined): NoticeWire | undefined {
    return notices?.find((n) => n.urgent && !n.seen);
  }

  /** What was looked at is not new any more. */
  protected seen(unseen: number): void {
    if (unseen) this.api.call(noticeRoutes.seeNotices, {}).subscribe({ error: () => undefined });
  }

  protected readonly day$ = this.live.mine(['entry', 'booking']).pipe(
    startWith(undefined),
    switchMap(() =>
      this.session.may('time.own') ? this.api.call(timeRoutes.getDaySheet, {}).pipe(catchError(() => of(undefined))) : of(undefined),
    ),
    map((day) => day && { beats: day.beats, nowAt: this.place(day.from, day.to) }),
  );

  private place(from: string, to: string): number | undefined {
    const at = ((this.session.now() - Date.parse(from)) / (Date.parse(to) - Date.parse(from))) * 100;
    return at >= 0 && at <= 100 ? at : undefined;
  }

  protected leave(): void {
    this.api
      .call(accessRoutes.signOut, {})
      .pipe(catchError(() => of({})))
      .subscribe(() => {
        this.live.stop();
        this.session.forget();
        void this.router.navigateByUrl('/enter');
      });
  }
}
