import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { BehaviorSubject, combineLatest, filter, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { accessRoutes } from '@core/access';
import type { ClockWire } from '@core/clocks';
import { houseRoutes } from '@core/house';
import { ticketRoutes, type TicketFilter, type TicketRowWire } from '@core/tickets';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Session } from '../shell/session';
import { Shortcuts } from '../shell/shortcuts';
import { Toasts } from '../shell/toasts';
import { ArrowRows } from '../ui/arrow-rows';
import { ClockStrip } from '../ui/clock-strip';
import { EmptyNote } from '../ui/empty-note';
import { loading } from '../ui/loading';
import { AtPipe } from '../ui/pipes';
import { StateNote } from '../ui/state-note';
import { downloadCsv } from '../ui/csv';
import { NewTicket } from './new-ticket';

type Query = Readonly<Record<string, string | undefined>>;

/** Every view of the work. The filters stand in the address, so a view can be kept and shared. */
@Component({
  selector: 'dl-ticket-list-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, ClockStrip, EmptyNote, StateNote, AtPipe, NewTicket],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ticket-list.page.html',
  styleUrl: './ticket-list.page.css',
})
export class TicketListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly route = inject(ActivatedRoute);
  private readonly live = inject(Live);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  private readonly again = new Subject<void>();
  private readonly hovered = new BehaviorSubject(false);
  private readonly more = new BehaviorSubject<readonly TicketRowWire[]>([]);
  protected readonly waiting = new BehaviorSubject(0);
  protected readonly chosen = new BehaviorSubject<ReadonlySet<string>>(new Set());
  protected opening = false;
  private next: string | null = null;

  protected readonly query$ = this.route.queryParams.pipe(
    map((q) => q as Query),
    tap(() => (this.more.next([]), this.chosen.next(new Set()))),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  /** Live changes wait while the pointer is on the list, so that nothing moves under it. */
  private readonly changes$ = merge(
    this.live.about('ticket').pipe(
      tap(() => this.hovered.value && this.waiting.next(this.waiting.value + 1)),
      filter(() => !this.hovered.value),
    ),
    this.hovered.pipe(filter((on) => !on && this.waiting.value > 0)),
    this.again,
  ).pipe(
    tap(() => this.waiting.next(0)),
    startWith(undefined),
  );
  protected readonly list$ = loading(combineLatest([this.query$, this.changes$]), ([query]) =>
    this.api.call(ticketRoutes.listTickets, { query: query as Partial<TicketFilter> }),
  ).pipe(
    tap((l) => l.is === 'there' && this.more.value.length === 0 && (this.next = l.value.next)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  protected readonly rows$ = combineLatest([this.list$, this.more]).pipe(
    map(([list, more]) =>
      list.is === 'there' ? [...list.value.tickets, ...more.filter((m) => !list.value.tickets.some((t) => t.id === m.id))] : [],
    ),
  );
  protected readonly house$ = this.api.call(houseRoutes.getHouse, {}).pipe(shareReplay(1));
  protected readonly people$ = this.api.call(accessRoutes.listPeople, {}).pipe(
    map((a) => a.people.filter((p) => p.technician)),
    shareReplay(1),
  );

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '↑ ↓ Enter', what: 'move in the list and open' },
      { keys: 'x', what: 'choose the row, to act on many' },
      { keys: 'o', what: 'open a ticket for a caller' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      const row = (document.activeElement as HTMLElement | null)?.closest('[data-id]')?.getAttribute('data-id');
      if (event.key === 'x' && row) this.toggle(row);
      if (event.key === 'o' && this.session.may('tickets.work')) {
        event.preventDefault();
        this.opening = true;
        this.again.next();
      }
    });
  }

  protected set(part: Query): void {
    void this.router.navigate([], { queryParams: part, queryParamsHandling: 'merge' });
  }

  protected hover(on: boolean): void {
    this.hovered.next(on);
  }

  protected retry(): void {
    this.again.next();
  }

  protected toggle(id: string): void {
    const set = new Set(this.chosen.value);
    if (!set.delete(id)) set.add(id);
    this.chosen.next(set);
  }

  /** The page behind this one, when the end of the list comes near. */
  protected scrolled(event: Event, query: Query): void {
    const box = event.target as HTMLElement;
    if (!this.next || box.scrollTop + box.clientHeight < box.scrollHeight - 600) return;
    const after = this.next;
    this.next = null;
    this.api.call(ticketRoutes.listTickets, { query: { ...(query as Partial<TicketFilter>), after } }).subscribe({
      next: (page) => {
        this.more.next([...this.more.value, ...page.tickets]);
        this.next = page.next;
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** Assigns all that are chosen; undo gives each back to whom it had. */
  protected assign(rows: readonly TicketRowWire[], personId: string | null, name: string): void {
    const chosen = rows.filter((r) => this.chosen.value.has(r.id));
    let left = chosen.length;
    const undo: { id: string; version: number; was: string | null }[] = [];
    for (const row of chosen)
      this.api.call(ticketRoutes.assignTicket, { params: { ticketId: row.id }, version: row.version, body: { personId } }).subscribe({
        next: (done) => {
          undo.push({ id: row.id, version: done.version, was: row.assigneeId });
          if (--left === 0)
            this.toasts.done(`${undo.length} assigned to ${name}`, () =>
              undo.forEach((u) =>
                this.api
                  .call(ticketRoutes.assignTicket, { params: { ticketId: u.id }, version: u.version, body: { personId: u.was } })
                  .subscribe({ error: (f: unknown) => this.toasts.trouble(f) }),
              ),
            );
        },
        error: (fault: unknown) => (left--, this.toasts.trouble(fault)),
      });
    this.chosen.next(new Set());
  }

  protected export(rows: readonly TicketRowWire[]): void {
    downloadCsv(
      'tickets.csv',
      ['number', 'subject', 'client', 'contact', 'status', 'priority', 'desk', 'assignee', 'received', 'due'],
      rows.map((r) => [
        String(r.number),
        r.subject,
        r.client ?? '',
        r.contact ?? '',
        r.status,
        r.priority ?? '',
        r.desk ?? '',
        r.assignee ?? '',
        r.receivedAt,
        r.dueAt ?? '',
      ]),
    );
  }

  protected main(row: TicketRowWire): ClockWire | undefined {
    return (
      row.clocks.find((c) => c.clock === 'response' && (c.state === 'running' || c.state === 'missed and running')) ??
      row.clocks.find((c) => c.clock === 'resolution')
    );
  }

  protected missed(row: TicketRowWire): boolean {
    return this.main(row)?.state === 'missed and running';
  }

  protected opened(ticketId: string): void {
    this.opening = false;
    void this.router.navigate(['/tickets', ticketId]);
  }
}
