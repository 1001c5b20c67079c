import { inject, Injectable } from '@angular/core';
import {
  BehaviorSubject,
  catchError,
  combineLatest,
  distinctUntilChanged,
  filter,
  map,
  merge,
  of,
  shareReplay,
  startWith,
  Subject,
  switchMap,
  tap,
} from 'rxjs';
import {
  intakeRoutes,
  type Kind,
  type Line,
  PAD,
  type Proposals,
  ticketRoutes,
  type TicketRowWire,
  type TicketWire,
  umbrellaRoutes,
} from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import type { Joining } from '../umbrellas/under-umbrella';
import { joiningOf } from './joining-of';
import { loading } from '../../ui/loading';
import { IntakeChoice, type Choice } from './intake-choice';
import { IntakeChoices } from './intake-choices';
import { triageOf } from './triage-of';

/** So many presses are kept while the next message comes up. */
const MOST_AHEAD = 12;

/** Intake: one message at a time, and what was chosen for it so far. */
@Injectable()
export class IntakeState {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly live = inject(Live);
  readonly choices = inject(IntakeChoices);
  private readonly selected = new BehaviorSubject<string | undefined>(undefined);
  private readonly choice = new IntakeChoice();
  private readonly again = new Subject<void>();
  private rows: readonly TicketRowWire[] = [];
  private busy = false;
  /** The last command was refused: perhaps somebody else sorted the message, and the next should come up. */
  private refused = false;
  readonly selected$ = this.selected.asObservable();
  readonly choice$ = this.choice.choice$;

  readonly list$ = loading(merge(this.live.about('ticket'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(ticketRoutes.listTickets, { query: { state: 'unsorted', sort: 'due' } }),
  ).pipe(
    tap((list) => list.is === 'there' && this.keepSelection(list.value.rows)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  private readonly which$ = combineLatest([
    this.selected.pipe(distinctUntilChanged()),
    merge(
      this.live.of(['ticket'], () => this.selected.value),
      this.again,
    ).pipe(startWith(undefined)),
  ]).pipe(
    map(([id]) => id),
    filter((id): id is string => id !== undefined),
  );
  readonly ticket$ = loading(this.which$, (ticketId) => this.api.call(ticketRoutes.getTicket, { params: { ticketId } })).pipe(
    tap((t) => t.is === 'there' && this.adopt(t.value)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  readonly pad$ = this.which$.pipe(
    switchMap((ticketId) => this.api.call(ticketRoutes.getTicketPad, { params: { ticketId } }).pipe(catchError(() => of({ cells: [] })))),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  readonly assets$ = this.choice.choice$.pipe(
    map((c) => c.clientId),
    distinctUntilChanged(),
    switchMap((clientId) => this.choices.assetsOf(clientId)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  /** What Drumline thinks of the message; what it is sure of is taken where nothing was chosen yet. */
  readonly proposals$ = this.which$.pipe(
    switchMap((ticketId) =>
      this.api.call(intakeRoutes.getProposals, { params: { ticketId } }).pipe(
        map((proposals) => ({ ticketId, proposals })),
        catchError(() => of(undefined)),
      ),
    ),
    filter((found) => !found || found.ticketId === this.selected.value),
    map((found) => found?.proposals),
    tap((proposals) => this.think(proposals)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  private adopted: TicketWire | undefined;
  private thought: Proposals | undefined;
  /** What Drumline thinks has come, or could not be had. */
  private thoughtKnown = false;
  /** Presses that came while the next message was coming up; they are carried out on it, in order. */
  private ahead: (() => void)[] = [];

  /** Carries a press out on the message, now or as soon as it is up; no press of a fast hand is lost. */
  whenReady(press: () => void): void {
    if (this.ahead.length < MOST_AHEAD) this.ahead.push(press);
    this.goOn();
  }

  private goOn(): void {
    while (this.ahead.length && !this.busy && this.thoughtKnown && this.adopted?.id === this.selected.value) this.ahead.shift()!();
  }

  select(id: Id<'ticket'>): void {
    if (id === this.selected.value) return;
    this.choice.reset();
    this.adopted = undefined;
    this.thought = undefined;
    this.thoughtKnown = false;
    this.selected.next(id);
  }

  /** Moves to the next or the one before. */
  step(by: number): void {
    const at = this.rows.findIndex((r) => r.id === this.selected.value);
    const next = this.rows[Math.min(this.rows.length - 1, Math.max(0, at + by))];
    if (next) this.select(next.id);
  }

  press(digit: string): void {
    const cell = PAD[digit];
    if (cell) this.choose(cell);
  }

  choose(part: Partial<Choice>): void {
    this.choice.choose(part);
  }

  nextKind(kinds: readonly Exclude<Kind, 'unsorted'>[]): void {
    const next = kinds[(kinds.indexOf(this.choice.value.kind) + 1) % kinds.length];
    if (next) this.choose({ kind: next, ownKindId: null });
  }

  /** Takes the client that is proposed, and who of their people signed. */
  takeClient(): void {
    const { client, contact, asset } = this.thought ?? {};
    if (client) this.choose({ clientId: client.value });
    if (contact && !this.adopted?.contactId) this.choose({ contactId: contact.value });
    if (asset?.sure) this.choice.fill({ assetId: asset.value });
  }

  takeCategory(): void {
    if (this.thought?.category) this.choose({ categoryId: this.thought.category.value });
  }

  /** Routes to the desk that like tickets went to. */
  routeAsBefore(): void {
    const { desk } = this.thought ?? {};
    if (desk) this.route({ id: desk.value, name: desk.label }, 'first');
  }

  takeSubject(): void {
    const [ticket, subject] = [this.adopted, this.thought?.subject?.value];
    if (!ticket || !subject || this.busy) return;
    const give = (to: string, version: number) =>
      this.api.call(intakeRoutes.setSubject, { params: { ticketId: ticket.id }, version, body: { subject: to } });
    give(subject, ticket.version).subscribe({
      next: (done) => {
        this.toasts.done('It has a clearer subject', () => give(ticket.subject, done.version).subscribe(() => this.again.next()));
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  sameCause(): readonly Joining[] | undefined {
    return this.adopted && this.thought && joiningOf(this.adopted, this.thought, this.choice.value);
  }

  /** Joins the umbrella that others of the cause are under, with one press. */
  joinCause(umbrellaId: Id<'ticket'>): void {
    const ticket = this.adopted;
    if (!ticket || this.busy) return;
    this.busy = true;
    this.api
      .call(umbrellaRoutes.joinUmbrella, { params: { ticketId: umbrellaId }, body: { memberIds: [ticket.id], tell: true, moveWork: true } })
      .subscribe({
        next: () => this.finished(ticket, `#${ticket.number} is under the umbrella`, () => this.leaveCause(ticket.id)),
        error: (fault: unknown) => this.failed(fault),
      });
  }

  joinedCause(): void {
    const ticket = this.adopted;
    // Those that joined with it are no longer to be sorted either.
    const joined = new Set(this.thought?.sameCause?.reports.map((r) => r.id));
    this.rows = this.rows.filter((r) => !joined.has(r.id));
    if (ticket) this.finished(ticket, `#${ticket.number} is under an umbrella`, () => this.leaveCause(ticket.id));
  }

  private leaveCause(ticketId: Id<'ticket'>): void {
    this.api
      .call(umbrellaRoutes.detachMember, { params: { ticketId } })
      .subscribe({ next: () => (this.select(ticketId), this.again.next()), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  retry(): void {
    this.again.next();
  }

  /** Routes the message to a desk; the next one comes up. */
  route(desk: { id: Id<'desk'>; name: string }, line: Line): void {
    const ticket = this.adopted;
    if (!ticket || this.busy) return;
    const body = triageOf({ choice: this.choice.value, ticket, deskId: desk.id, line });
    if (typeof body === 'string') return this.toasts.trouble(body);
    this.busy = true;
    this.api.call(ticketRoutes.triageTicket, { params: { ticketId: ticket.id }, version: ticket.version, body }).subscribe({
      next: (done) =>
        this.finished(ticket, `#${ticket.number} routed to ${desk.name}${done.assignee ? ', to ' + done.assignee : ''}`, () =>
          this.undo('untriageTicket', ticket.id, done.version),
        ),
      error: (fault: unknown) => this.failed(fault),
    });
  }

  notWork(): void {
    const ticket = this.adopted;
    if (!ticket || this.busy) return;
    this.busy = true;
    this.api.call(ticketRoutes.markNotWork, { params: { ticketId: ticket.id }, version: ticket.version }).subscribe({
      next: (done) => this.finished(ticket, `#${ticket.number} is not work`, () => this.undo('restoreTicket', ticket.id, done.version)),
      error: (fault: unknown) => this.failed(fault),
    });
  }

  private undo(by: 'untriageTicket' | 'restoreTicket', ticketId: Id<'ticket'>, version: number): void {
    this.api
      .call(ticketRoutes[by], { params: { ticketId }, version })
      .subscribe({ next: () => (this.select(ticketId), this.again.next()), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  private finished(ticket: TicketRowWire, words: string, undo: () => void): void {
    this.busy = false;
    this.toasts.done(words, undo);
    const at = this.rows.findIndex((r) => r.id === ticket.id);
    const next = this.rows[at + 1] ?? this.rows[at - 1];
    this.rows = this.rows.filter((r) => r.id !== ticket.id);
    if (next) this.select(next.id);
    else {
      this.selected.next(undefined);
      this.ahead = [];
    }
    this.again.next();
  }

  private failed(fault: unknown): void {
    this.busy = false;
    this.ahead = [];
    this.refused = true;
    this.toasts.trouble(fault);
    this.again.next();
  }

  /** What is under the person's hands stays there, though a list that was asked for earlier does not have it. */
  private keepSelection(rows: readonly TicketRowWire[]): void {
    this.rows = rows;
    const gone = this.refused && !rows.some((r) => r.id === this.selected.value);
    this.refused = false;
    if ((gone || !this.selected.value) && rows[0]) this.select(rows[0].id);
  }

  /** What is known of the message fills what was not chosen yet. */
  private adopt(ticket: TicketWire): void {
    const first = this.adopted?.id !== ticket.id;
    this.adopted = ticket;
    if (first && ticket.clientId) this.choice.fill({ clientId: ticket.clientId });
    if (first && this.thought) this.choice.takeSure(this.thought);
    this.goOn();
  }

  private think(proposals: Proposals | undefined): void {
    this.thought = proposals;
    this.thoughtKnown = true;
    if (proposals) this.choice.takeSure(proposals);
    this.goOn();
  }
}
