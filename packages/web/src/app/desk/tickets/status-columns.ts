import { CdkDrag, CdkDropList, CdkDropListGroup, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { combineLatest, forkJoin, map, merge, startWith, Subject } from 'rxjs';
import { STATUS_MOVES, ticketRoutes, type Status, type TicketFilter, type TicketRowWire } from '@core/desk';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { AtPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import type { Query } from '../../ui/list/list-state';

const COLUMNS: readonly Status[] = ['queued', 'booked', 'underway', 'on hold', 'resolved'];
const SHOWN = 50;

interface StatusColumn {
  readonly status: Status;
  readonly rows: readonly TicketRowWire[];
  readonly count: number;
  readonly capped: boolean;
}

/** The tickets of a view by where they stand, each moved by dragging it or by its own menu. */
@Component({
  selector: 'dl-status-columns',
  imports: [AsyncPipe, AtPipe, CdkDrag, CdkDropList, CdkDropListGroup, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = columns$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now) {
      <div class="columns" cdkDropListGroup>
        @for (c of now.value; track c.status) {
          <section [attr.aria-label]="c.status">
            <h2>
              {{ c.status }} <span class="soft small">{{ c.capped ? '1,000+' : c.count }}</span>
            </h2>
            <div class="stack" cdkDropList [cdkDropListData]="c.status" (cdkDropListDropped)="drop($event)">
              @for (t of c.rows; track t.id) {
                <article class="panel" cdkDrag [cdkDragData]="t" [cdkDragDisabled]="!session.may('tickets.work')">
                  <p class="line">
                    <b class="mono">{{ t.priority }}</b> <span class="mono soft small">#{{ t.number }}</span>
                    <span class="grow"></span>
                    <span class="mono small" [class.late]="missed(t)">{{ t.dueAt | at }}</span>
                  </p>
                  <a class="ink-link" data-row [routerLink]="['/tickets', t.id]">{{ t.subject }}</a>
                  <p class="soft small clip">{{ t.client }}</p>
                  @if (t.ownStatus || t.replyOwedSince) {
                    <p>
                      @if (t.ownStatus) {
                        <span class="tag">{{ t.ownStatus }}</span>
                      }
                      @if (t.replyOwedSince) {
                        <span class="owed small">reply owed</span>
                      }
                    </p>
                  }
                  <p class="line foot">
                    <span class="small clip">{{ t.assignee ?? 'nobody' }}</span>
                    <span class="grow"></span>
                    @if (session.may('tickets.work') && moves(t).length) {
                      <select
                        #selectBox
                        class="small"
                        [attr.aria-label]="'Move #' + t.number + ' to'"
                        (change)="move(t, selectBox.value); selectBox.selectedIndex = 0"
                      >
                        <option>move to …</option>
                        @for (to of moves(t); track to) {
                          <option [value]="to">{{ to }}</option>
                        }
                      </select>
                    }
                  </p>
                </article>
              } @empty {
                <p class="soft small none">none</p>
              }
              @if (c.rows.length < c.count) {
                <p class="soft small none">the {{ c.rows.length }} that are due first; narrow the view for the rest</p>
              }
            </div>
          </section>
        }
      </div>
    }
  `,
  styleUrl: './status-columns.css',
})
export class StatusColumns {
  /** The filters of the view, as they stand in the address. */
  readonly query = input.required<Query>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  private readonly filter = computed(() => {
    const { as: _as, columns: _columns, sort: _sort, status: _status, state: _state, ...filter } = this.query();
    return filter as Partial<TicketFilter>;
  });
  protected readonly columns$ = loading(
    combineLatest([toObservable(this.filter), merge(inject(Live).about('ticket'), this.again).pipe(startWith(undefined))]),
    ([filter]) => forkJoin(COLUMNS.map((status) => this.column(filter, status))),
  );

  private column(filter: Partial<TicketFilter>, status: Status) {
    const query = { ...filter, status, state: status === 'resolved' ? 'ended' : 'open', sort: 'due', most: SHOWN } as const;
    return this.api
      .call(ticketRoutes.listTickets, { query })
      .pipe(map((p): StatusColumn => ({ status, rows: p.rows, count: p.count, capped: p.countCapped })));
  }

  /** Where it can be moved from here; putting on hold asks for whom, on its own page. */
  protected moves(t: TicketRowWire): readonly Status[] {
    return t.umbrella ? [] : STATUS_MOVES[t.status].filter((s) => COLUMNS.includes(s));
  }

  protected missed(t: TicketRowWire): boolean {
    return t.clocks.some((c) => c.state === 'missed and running');
  }

  protected drop(event: CdkDragDrop<Status, Status, TicketRowWire>): void {
    if (event.container.data !== event.previousContainer.data) this.move(event.item.data, event.container.data);
  }

  /** A hold by dragging waits for the client; what stands in the way is said, and the ticket stays. */
  protected move(t: TicketRowWire, to: string): void {
    const status = COLUMNS.find((s) => s === to);
    if (!status) return;
    const params = { ticketId: t.id };
    const body = { status, holdReason: status === 'on hold' ? ('client' as const) : null, ownStatusId: null, override: null };
    this.api.call(ticketRoutes.setTicketStatus, { params, version: t.version, body }).subscribe({
      next: (done) => {
        const undo = () => this.api.call(ticketRoutes.undoTicketMove, { params, version: done.version });
        this.toasts.done(`#${t.number} is ${status}${status === 'on hold' ? ', waiting for the client' : ''}`, () =>
          undo().subscribe({ next: () => this.again.next(), error: (fault: unknown) => this.toasts.trouble(fault) }),
        );
        this.again.next();
      },
      error: (fault: unknown) => {
        this.toasts.trouble(fault);
        this.again.next();
      },
    });
  }
}
