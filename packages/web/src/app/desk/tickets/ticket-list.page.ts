import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { catchError, map, of, shareReplay, startWith, switchMap } from 'rxjs';
import { accessRoutes, houseRoutes } from '@core/house';
import { type ClockWire, PRIORITIES, type Status, type TicketFilter, ticketRoutes, type TicketRowWire } from '@core/desk';
import { formatSeconds, type Id } from '@core/ground';
import { ViewMenu } from '../../house';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { ClockStrip } from '../../ui/clock-strip';
import { EmptyNote } from '../../ui/empty-note';
import { actOnMany } from '../../ui/list/act-on-many';
import type { Column } from '../../ui/list/column';
import { FilterChoice, FilterWords } from '../../ui/list/filters';
import { Cell, List } from '../../ui/list/list';
import { ListHead } from '../../ui/list/list-head';
import { ListState } from '../../ui/list/list-state';
import { AtPipe } from '../../ui/pipes';
import { UnderUmbrella } from '../umbrellas/under-umbrella';
import { NewTicket } from './new-ticket';
import { StatusColumns } from './status-columns';
import { picked } from '../../ui/picked';

const COLUMNS: readonly Column<TicketRowWire>[] = [
  { key: 'number', head: 'No.', text: (t) => String(t.number), kind: 'figure', width: '66px' },
  { key: 'priority', head: 'P', text: (t) => t.priority ?? '', kind: 'code', width: '42px' },
  { key: 'subject', head: 'Subject', text: (t) => t.subject, link: (t) => `/tickets/${t.id}` },
  { key: 'client', head: 'Client', text: (t) => t.client ?? '', width: '160px' },
  { key: 'contact', head: 'Contact', text: (t) => t.contact ?? '', width: '140px', shown: false },
  { key: 'kind', head: 'Kind', text: (t) => t.ownKind ?? t.kind, width: '110px', shown: false },
  { key: 'desk', head: 'Desk', text: (t) => t.desk ?? '', width: '90px', shown: false },
  { key: 'status', head: 'Status', text: (t) => t.ownStatus ?? t.status, width: '86px' },
  { key: 'assignee', head: 'With', text: (t) => t.assignee ?? '', width: '128px' },
  { key: 'received', head: 'Received', text: (t) => t.receivedAt, width: '140px', sort: '-received', shown: false },
  { key: 'changed', head: 'Changed', text: (t) => t.changedAt, width: '140px', sort: '-changed', shown: false },
  {
    key: 'waits',
    head: 'Waits',
    text: (t) => (t.owedWorkingSeconds === null ? '' : formatSeconds(t.owedWorkingSeconds)),
    width: '96px',
    sort: 'owed',
    shown: false,
  },
  { key: 'promise', head: 'Promise', text: (t) => t.clocks.map((c) => `${c.clock} ${c.state}`).join(', '), width: '110px' },
  { key: 'due', head: 'Due', text: (t) => t.dueAt ?? '', sort: 'due', width: '158px' },
];

/** Every view of the work. The filters stand in the address, so a view can be kept and shared. */
@Component({
  selector: 'dl-ticket-list-page',
  imports: [
    AsyncPipe,
    RouterLink,
    AtPipe,
    Cell,
    ClockStrip,
    EmptyNote,
    FilterChoice,
    FilterWords,
    List,
    ListHead,
    NewTicket,
    StatusColumns,
    UnderUmbrella,
    ViewMenu,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ticket-list.page.html',
  styleUrl: './ticket-list.page.css',
})
export class TicketListPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly columns = COLUMNS;
  protected readonly nameOf = (row: TicketRowWire): string => String(row.number);
  protected opening = false;
  protected joining: readonly TicketRowWire[] | undefined;
  protected readonly list = new ListState<TicketRowWire>({
    name: 'tickets',
    topics: ['ticket'],
    ownWords: ['as'],
    load: (query, page) => this.api.call(ticketRoutes.listTickets, { query: { ...(query as Partial<TicketFilter>), ...page } }),
  });
  protected readonly desks$ = this.api.call(houseRoutes.getHouse, {}).pipe(
    map((h) => h.desks.map((d) => ({ value: d.id, label: d.name }))),
    shareReplay(1),
  );
  protected readonly owed$ = inject(Live)
    .about('ticket')
    .pipe(
      startWith(undefined),
      switchMap(() => this.api.call(ticketRoutes.getOwed, {}).pipe(catchError(() => of(undefined)))),
      shareReplay({ bufferSize: 1, refCount: true }),
    );
  protected readonly priorities = PRIORITIES.map((p) => ({ value: p, label: p }));
  protected readonly dues = [
    { value: '0', label: 'missed' },
    { value: '30', label: 'in 30 min' },
    { value: '60', label: 'in 1 h' },
    { value: '240', label: 'in 4 h' },
  ];
  protected readonly people$ = this.api.call(accessRoutes.listPeople, {}).pipe(
    map((a) => a.people.filter((p) => p.technician)),
    shareReplay(1),
  );

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: 'o', what: 'open a ticket for a caller' },
      { keys: 'g', what: 'put the chosen under an umbrella' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      if ((event.key !== 'o' && event.key !== 'g') || !this.session.may('tickets.work')) return;
      event.preventDefault();
      if (event.key === 'o') this.opening = true;
      else this.joining = this.chosenToJoin();
      this.list.retry();
    });
  }

  /** Assigns all that are chosen; undo gives each back to whom it had. */
  protected assign(personId: Id<'person'> | null, name: string): void {
    const assign = (ticketId: Id<'ticket'>, version: number, to: string | null) =>
      this.api.call(ticketRoutes.assignTicket, { params: { ticketId }, version, body: { personId: to } });
    actOnMany({
      rows: this.list.chosenRows,
      act: (row) => assign(row.id, row.version, personId),
      undo: (row, version) => assign(row.id, version, row.assigneeId),
      words: (n) => `${n} assigned to ${name}`,
      toasts: this.toasts,
      after: () => this.list.retry(),
    });
    this.list.chooseAll(false);
  }

  /** Moves all that are chosen; what stands in the way of one stays, and is said. Undo moves each back. */
  protected readonly picked = picked;
  protected readonly moves = ['queued', 'underway', 'resolved'] as const;

  protected move(status: Status): void {
    const body = { status, holdReason: null, ownStatusId: null, override: null };
    actOnMany({
      rows: this.list.chosenRows,
      act: ({ id: ticketId, version }) => this.api.call(ticketRoutes.setTicketStatus, { params: { ticketId }, version, body }),
      undo: ({ id: ticketId }, version) => this.api.call(ticketRoutes.undoTicketMove, { params: { ticketId }, version }),
      words: (n) => `${n} ${status}`,
      toasts: this.toasts,
      after: () => this.list.retry(),
    });
    this.list.chooseAll(false);
  }

  /** The chosen, in the order of the list; undefined where none is. */
  protected chosenToJoin(): readonly TicketRowWire[] | undefined {
    return this.list.chosenRows.length ? this.list.chosenRows : undefined;
  }

  protected joined(umbrellaId: Id<'ticket'>): void {
    this.joining = undefined;
    this.list.chooseAll(false);
    void this.router.navigate(['/tickets', umbrellaId]);
  }

  /** The clock that decides when the ticket is due, else the resolution. */
  protected main(row: TicketRowWire): ClockWire | undefined {
    return (
      row.clocks.find((c) => (c.dueAt ?? (c.state === 'missed and running' ? c.missedAt : null)) === row.dueAt && row.dueAt) ??
      row.clocks.find((c) => c.clock === 'resolution')
    );
  }

  protected missed(row: TicketRowWire): boolean {
    return this.main(row)?.state === 'missed and running';
  }

  protected opened(ticketId: Id<'ticket'>): void {
    this.opening = false;
    void this.router.navigate(['/tickets', ticketId]);
  }
}
