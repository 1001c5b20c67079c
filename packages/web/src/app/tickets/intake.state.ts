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
import { assetRoutes, type AssetRowWire } from '@core/assets';
import { clientRoutes } from '@core/clients';
import { houseRoutes } from '@core/house';
import { MOST_ROWS } from '@core/routes';
import { PAD, type Impact, type Urgency } from '@core/priority';
import { ticketRoutes, type Kind, type TicketRowWire, type TicketWire, SORTED_KINDS } from '@core/tickets';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Toasts } from '../shell/toasts';
import { loading } from '../ui/loading';

export interface Choice {
  readonly impact?: Impact;
  readonly urgency?: Urgency;
  readonly kind: Exclude<Kind, 'unsorted'>;
  readonly clientId: string | null;
  readonly assetId: string | null;
}

const FRESH: Choice = { kind: 'incident', clientId: null, assetId: null };

/** Intake: one message at a time, and what was chosen for it so far. */
@Injectable()
export class IntakeState {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly live = inject(Live);
  private readonly selected = new BehaviorSubject<string | undefined>(undefined);
  private readonly choice = new BehaviorSubject<Choice>(FRESH);
  private readonly again = new Subject<void>();
  private rows: readonly TicketRowWire[] = [];
  private busy = false;
  /** The last command was refused: perhaps somebody else sorted the message, and the next should come up. */
  private refused = false;
  readonly selected$ = this.selected.asObservable();
  readonly choice$ = this.choice.asObservable();

  readonly list$ = loading(merge(this.live.about('ticket'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(ticketRoutes.listTickets, { query: { state: 'unsorted', sort: 'due' } }),
  ).pipe(
    tap((list) => list.is === 'there' && this.keepSelection(list.value.rows)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  private readonly which$ = combineLatest([
    this.selected.pipe(distinctUntilChanged()),
    merge(this.live.about('ticket'), this.again).pipe(startWith(undefined)),
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
  readonly house$ = this.api.call(houseRoutes.getHouse, {}).pipe(shareReplay(1));
  readonly clients$ = this.api.call(clientRoutes.listClients, { query: { most: MOST_ROWS } }).pipe(
    map((a) => a.rows),
    catchError(() => of([])),
    shareReplay(1),
  );
  readonly assets$ = this.choice.pipe(
    map((c) => c.clientId),
    distinctUntilChanged(),
    switchMap((clientId) =>
      clientId
        ? this.api.call(assetRoutes.listAssets, { query: { clientId, most: MOST_ROWS } }).pipe(
            map((a) => a.rows),
            catchError(() => of([] as AssetRowWire[])),
          )
        : of([] as AssetRowWire[]),
    ),
    tap((assets) => this.findAsset(assets)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  private adopted: TicketWire | undefined;

  select(id: string): void {
    if (id === this.selected.value) return;
    this.choice.next(FRESH);
    this.adopted = undefined;
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
    this.choice.next({ ...this.choice.value, ...part });
  }

  nextKind(): void {
    const at = SORTED_KINDS.indexOf(this.choice.value.kind);
    this.choose({ kind: SORTED_KINDS[(at + 1) % SORTED_KINDS.length]! });
  }

  takeProposedClient(): void {
    if (this.adopted?.proposedClient) this.choose({ clientId: this.adopted.proposedClient.id });
  }

  retry(): void {
    this.again.next();
  }

  /** Routes the message to a desk; the next one comes up. */
  route(desk: { id: string; name: string }): void {
    const [ticket, { impact, urgency, kind, clientId, assetId }] = [this.adopted, this.choice.value];
    if (!ticket || this.busy) return;
    if (!impact || !urgency) return this.toasts.trouble('Say first who is hit and how badly: press a digit from 1 to 9.');
    if (!clientId) return this.toasts.trouble('Say first whose ticket this is.');
    this.busy = true;
    this.api
      .call(ticketRoutes.triageTicket, {
        params: { ticketId: ticket.id },
        version: ticket.version,
        body: { impact, urgency, kind, deskId: desk.id, clientId, contactId: ticket.contactId, assetId, assigneeId: null },
      })
      .subscribe({
        next: (done) =>
          this.finished(ticket, `#${ticket.number} routed to ${desk.name}`, () => this.undo('untriageTicket', ticket.id, done.version)),
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

  private undo(by: 'untriageTicket' | 'restoreTicket', ticketId: string, version: number): void {
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
    else this.selected.next(undefined);
    this.again.next();
  }

  private failed(fault: unknown): void {
    this.busy = false;
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
    if (first && ticket.clientId) this.choose({ clientId: ticket.clientId });
  }

  /** An asset whose number stands in the message is taken, until another is chosen. */
  private findAsset(assets: readonly AssetRowWire[]): void {
    const text = `${this.adopted?.subject ?? ''} ${this.adopted?.messages.map((m) => m.text).join(' ') ?? ''}`;
    const named = assets.find((a) => text.includes(a.number));
    if (named && !this.choice.value.assetId) this.choose({ assetId: named.id });
  }
}
