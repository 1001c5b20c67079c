import { inject, Injectable } from '@angular/core';
import {
  BehaviorSubject,
  catchError,
  combineLatest,
  filter,
  map,
  merge,
  of,
  shareReplay,
  startWith,
  Subject,
  tap,
  type Observable,
} from 'rxjs';
import { accessRoutes } from '@core/house';
import {
  intakeRoutes,
  type Kind,
  type Status,
  statusRoutes,
  ticketRoutes,
  type TicketRowWire,
  type TicketWire,
  type TimedAction,
  deskSettingsRoutes,
  umbrellaRoutes,
} from '@core/desk';
import { type Id, idsIn, type Interest } from '@core/ground';
import { categoryGroups } from '../intake/category-groups';
import type { ChosenKind } from '../kinds/kind-choice';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { PageAddress } from '../../shell/page-address';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { beforeAll, EarlierTalk, hasEarlier } from './earlier-talk';
import type { Moving, ShownElsewhere, TicketCommand } from './ticket-command';

/** One ticket: what it is, and the commands on it. */
@Injectable()
export class TicketState {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly session = inject(Session);
  private readonly address = inject(PageAddress);
  private readonly id = new BehaviorSubject<string | undefined>(undefined);
  private readonly again = new Subject<void>();
  private readonly conflict = new BehaviorSubject<string | undefined>(undefined);
  private now: TicketWire | undefined;
  readonly conflict$ = this.conflict.asObservable();
  private readonly live = inject(Live);
  private readonly changes$ = combineLatest([
    this.id,
    merge(
      this.live.touching(() => this.interest()),
      this.again,
    ).pipe(startWith(undefined)),
  ]).pipe(
    map(([id]) => id),
    filter((id): id is string => !!id),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  private readonly earlier = new EarlierTalk();
  private readonly grew = new Subject<void>();
  private readonly read$ = loading(this.changes$, (ticketId) => this.api.call(ticketRoutes.getTicket, { params: { ticketId } }));
  readonly ticket$ = combineLatest([this.read$, this.grew.pipe(startWith(undefined))]).pipe(
    map(([t]) => (t.is === 'there' ? { ...t, value: this.earlier.with(t.value) } : t)),
    tap((t) => t.is === 'there' && this.take(t.value)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  readonly people$ = this.api.call(accessRoutes.listPeople, {}).pipe(
    map((a) => a.people.filter((p) => p.technician)),
    shareReplay(1),
  );
  readonly categories$ = this.api.call(intakeRoutes.listCategories, {}).pipe(
    map((a) => categoryGroups(a.categories)),
    catchError(() => of([])),
    shareReplay(1),
  );
  readonly statuses$ = this.api.call(statusRoutes.listOwnStatuses, {}).pipe(
    map((a) => a.statuses),
    catchError(() => of([])),
    shareReplay(1),
  );
  readonly settings$ = this.api.call(deskSettingsRoutes.getDeskSettings, {}).pipe(shareReplay(1));

  /** The ticket with all that it names; of an umbrella every ticket, as its members stand on its page. */
  private interest(): Interest {
    const topics = ['ticket', 'booking', 'charge', 'entry'];
    return this.now?.isUmbrella ? { topics } : { topics, records: idsIn([this.id.value, this.now]) };
  }

  private take(ticket: TicketWire): void {
    this.now = ticket;
    this.address.show({ under: '/tickets', param: 'ticketId', number: String(ticket.number), name: `#${ticket.number} ${ticket.subject}` });
  }

  /** The ticket as it was read last. */
  get current(): TicketWire | undefined {
    return this.now;
  }

  open(id: Id<'ticket'>): void {
    this.id.next(id);
  }

  retry(): void {
    this.conflict.next(undefined);
    this.again.next();
  }

  /** Reads on before the first message that is shown. */
  showEarlier(): void {
    const t = this.now;
    if (!t || !hasEarlier(t)) return;
    this.api.call(ticketRoutes.getEarlier, { params: { ticketId: t.id }, query: beforeAll(t) }).subscribe({
      next: (part) => {
        if (this.now?.id !== t.id) return;
        this.earlier.add(part);
        this.grew.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** Whether a kind of work on this ticket asks for its time, of somebody who records any. */
  asksTime(action: TimedAction): Observable<boolean> {
    const records = !!this.session.current?.person.gradeId;
    return this.settings$.pipe(map((s) => records && s.kinds.some((k) => k.kind === this.now?.kind && k.asksTime.includes(action))));
  }

  setStatus(
    status: Status,
    { holdReason = null, override = null, ownStatusId = null, time = null }: Moving = {},
    elsewhere: ShownElsewhere = () => true,
  ): void {
    const was = this.now!;
    this.run({
      command: this.api.call(ticketRoutes.setTicketStatus, {
        params: { ticketId: was.id },
        version: was.version,
        body: { status, holdReason, override, ownStatusId, time },
      }),
      words: `#${was.number} is ${status}`,
      undo: (done) =>
        this.run({
          command: this.api.call(ticketRoutes.undoTicketMove, { params: { ticketId: was.id }, version: done.version }),
          words: `#${was.number} is ${was.status} again`,
        }),
      elsewhere,
    });
  }

  assign(personId: Id<'person'> | null, name: string): void {
    const was = this.now!;
    const to = (whom: string | null, version: number) =>
      this.api.call(ticketRoutes.assignTicket, { params: { ticketId: was.id }, version, body: { personId: whom } });
    this.run({
      command: to(personId, was.version),
      words: `#${was.number} assigned to ${name}`,
      undo: (done) =>
        this.run({ command: to(was.assigneeId, done.version), words: `#${was.number} assigned to ${was.assignee ?? 'nobody'} again` }),
    });
  }

  edit(part: Partial<TicketWire>, words: string): void {
    const t = this.now!;
    const body = (of: TicketWire) => ({
      subject: of.subject,
      clientId: of.clientId,
      contactId: of.contactId,
      assetId: of.assetId,
      categoryId: of.categoryId,
      impact: of.impact,
      urgency: of.urgency,
    });
    this.run({
      command: this.api.call(ticketRoutes.editTicket, { params: { ticketId: t.id }, version: t.version, body: body({ ...t, ...part }) }),
      words,
      undo: (done) =>
        this.run({
          command: this.api.call(ticketRoutes.editTicket, { params: { ticketId: t.id }, version: done.version, body: body(t) }),
          words: 'taken back',
        }),
    });
  }

  /** The client's other open tickets. */
  others(t: TicketWire): Observable<readonly TicketRowWire[]> {
    const query = t.clientId ? { clientId: t.clientId, state: 'open' as const, most: 200 } : { state: 'open' as const, most: 200 };
    return this.api.call(ticketRoutes.listTickets, { query: { ...query, sort: '-changed' } }).pipe(
      map((page) => page.rows),
      catchError((fault: unknown) => {
        this.toasts.trouble(fault);
        return of([]);
      }),
    );
  }

  changeKind({ kind, ownKindId, name }: ChosenKind): void {
    const was = this.now!;
    const change = (to: Exclude<Kind, 'unsorted'>, own: string | null, version: number) =>
      this.api.call(intakeRoutes.changeKind, { params: { ticketId: was.id }, version, body: { kind: to, ownKindId: own } });
    this.run({
      command: change(kind, ownKindId, was.version),
      words: `#${was.number} is ${name} now; its promises, closing checks and billing hold`,
      undo: (done) => {
        if (was.kind !== 'unsorted')
          this.run({ command: change(was.kind, was.ownKindId, done.version), words: `#${was.number} is ${was.ownKind ?? was.kind} again` });
      },
    });
  }

  unmerge(): void {
    this.run({
      command: this.api.call(intakeRoutes.unmergeTicket, { params: { ticketId: this.now!.id } }),
      words: 'It stands by itself again',
    });
  }

  /** Makes a message of the client a ticket of its own. */
  split(messageId: Id<'message'>): void {
    this.run({
      command: this.api.call(intakeRoutes.splitMessage, { params: { messageId } }),
      words: 'It is a ticket of its own now, unsorted in intake',
    });
  }

  addItem(text: string): void {
    this.run({
      command: this.api.call(ticketRoutes.addChecklistItem, {
        params: { ticketId: this.now!.id },
        body: { text, ownerId: null, dueAt: null },
      }),
      words: 'Added to the checklist',
    });
  }

  /** Takes a member from its umbrella; undo puts it back there. */
  detach(): void {
    const { id: ticketId, umbrella, number } = this.now!;
    if (!umbrella) return;
    this.run({
      command: this.api.call(umbrellaRoutes.detachMember, { params: { ticketId } }),
      words: `#${number} stands by itself again`,
      undo: () =>
        this.run({
          command: this.api.call(umbrellaRoutes.joinUmbrella, {
            params: { ticketId: umbrella.id },
            body: { memberIds: [ticketId], tell: false, moveWork: false },
          }),
          words: `#${number} is a member again`,
        }),
    });
  }

  /** Takes a waiver back: the reply is owed again, and after thanks the ticket reopens. */
  unwaive(): void {
    this.run({
      command: this.api.call(ticketRoutes.unwaiveReply, { params: { ticketId: this.now!.id } }),
      words: 'The reply is owed again',
    });
  }

  answerItem(checklistItemId: Id<'checklist_item'>, answer: 'done' | 'not needed' | 'moved' | null): void {
    this.run({
      command: this.api.call(ticketRoutes.answerChecklistItem, { params: { checklistItemId }, body: { answer } }),
      words: undefined,
    });
  }

  /** A change by somebody else meanwhile is shown beside what was wanted. */
  private run<T>({ command, words, undo, elsewhere = () => true }: TicketCommand<T>): void {
    command.subscribe({
      next: (done) => {
        if (words) this.toasts.done(words, undo && (() => undo(done)));
        this.again.next();
      },
      error: (fault: unknown) => {
        const problem = problemOf(fault);
        if (problem.status === 412) {
          this.conflict.next(problem.detail);
          this.again.next();
        } else if (elsewhere(problem.fields)) this.toasts.trouble(fault);
      },
    });
  }
}
