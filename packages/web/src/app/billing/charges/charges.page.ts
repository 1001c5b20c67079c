import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { combineLatest, filter, map, type Observable, shareReplay, tap } from 'rxjs';
import { chargeRoutes, decideSchema, type ChargeClientWire, type ChargeDecision, type ChargeView, type ChargeWire } from '@core/billing';
import { plainMoney, type Money } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { Field } from '../../ui/field';
import { everyPage } from '../../ui/every-page';
import { FormState } from '../../ui/form-state';
import { ListState, type Query } from '../../ui/list/list-state';
import { loading, type Loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';
import { howMuch } from './how-much';

const TOPICS = ['charge', 'invoice'];
const VIEWS: readonly { readonly state: ChargeView; readonly words: string; readonly none: string }[] = [
  { state: 'proposed', words: 'To review', none: 'Nothing to review' },
  { state: 'approved', words: 'To bill', none: 'Nothing waits for an invoice' },
  { state: 'billed', words: 'Billed', none: 'Nothing is billed' },
  { state: 'waived', words: 'Waived', none: 'Nothing is waived' },
];

interface Filter {
  readonly state: ChargeView;
  readonly odd?: true;
}
const filterOf = (query: Query): Filter => ({
  state: VIEWS.find((v) => v.state === query['state'])?.state ?? 'proposed',
  ...(query['odd'] === 'true' ? { odd: true } : {}),
});

interface Sums {
  readonly charges: number;
  readonly net: Money;
  readonly clients: readonly ChargeClientWire[];
}

/** A client's charges on the screen; the sums are of all. */
interface Group {
  readonly sum: ChargeClientWire;
  readonly charges: readonly ChargeWire[];
}

interface Shown {
  readonly rows: readonly ChargeWire[];
  readonly groups: readonly Group[];
  readonly sums: Sums;
}

function pageOf(list: Loading<unknown>, rows: readonly ChargeWire[], sums: Loading<Sums>): Loading<Shown> {
  if (list.is !== 'there') return list;
  if (sums.is !== 'there') return sums;
  const by = new Map<string, ChargeWire[]>();
  for (const c of rows) by.set(c.clientId, [...(by.get(c.clientId) ?? []), c]);
  const groups = [...by].flatMap(([clientId, charges]) => {
    const sum = sums.value.clients.find((s) => s.clientId === clientId);
    return sum ? [{ sum, charges }] : [];
  });
  return { is: 'there', value: { rows, groups, sums: sums.value } };
}

/** Charge review, client by client: approve, waive, adjust, with what is odd about each. */
@Component({
  selector: 'dl-charges-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, EmptyNote, Field, DatePipe, MoneyPipe, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './charges.page.html',
  styleUrl: './charges.page.css',
})
export class ChargesPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  private shown: readonly ChargeWire[] = [];
  protected readonly deciding = signal<{ charge: ChargeWire; decision: 'waive' | 'adjust' } | undefined>(undefined);
  protected readonly approving = signal(false);
  protected form = new FormState(decideSchema, {});
  protected readonly views = VIEWS;
  protected readonly list = new ListState<ChargeWire>({
    name: 'charges',
    topics: TOPICS,
    load: (query, page) => this.api.call(chargeRoutes.listCharges, { query: { ...filterOf(query), ...page } }),
  });
  protected readonly state$ = this.list.query$.pipe(map((q) => filterOf(q).state));
  /** What the charges of each client come to, over all of them and not only those on the screen. */
  private readonly sums$ = loading(
    combineLatest([this.list.query$.pipe(map(filterOf)), this.list.list$.pipe(filter((list) => list.is === 'there'))]),
    ([wanted]) => this.sums(wanted),
  );
  protected readonly page$ = combineLatest([this.list.list$, this.list.rows$, this.sums$]).pipe(
    map(([list, rows, sums]) => pageOf(list, rows, sums)),
    tap((page) => page.is === 'there' && (this.shown = page.value.rows)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '↑ ↓', what: 'move among charges' },
      { keys: 'a', what: 'approve' },
      { keys: 'w', what: 'waive' },
      { keys: 'e', what: 'adjust' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      const id = (document.activeElement as HTMLElement | null)?.closest('[data-charge]')?.getAttribute('data-charge');
      const charge = this.shown.find((c) => c.id === id);
      if (event.key === 'Escape') this.deciding.set(undefined);
      if (!charge || charge.state !== 'proposed' || !this.session.may('charges.decide')) return;
      if (event.key === 'a') {
        this.focusNext(event);
        this.decide(charge, 'approve');
      } else if (event.key === 'w' || event.key === 'e') this.ask(charge, event.key === 'w' ? 'waive' : 'adjust');
      else return;
      event.preventDefault();
    });
  }

  private focusNext(event: KeyboardEvent): void {
    const rows = [...document.querySelectorAll<HTMLElement>('[data-charge]')];
    const at = rows.indexOf((event.target as HTMLElement).closest<HTMLElement>('[data-charge]')!);
    (rows[at + 1] ?? rows[at - 1])?.focus();
  }

  protected noneWords(state: ChargeView | null): string {
    return VIEWS.find((v) => v.state === state)?.none ?? '';
  }

  /** Who decided what last, and why; of one that is to review again, why alone. */
  protected decidedWords({ state, decidedBy, reason }: ChargeWire): string {
    if (!decidedBy || (state === 'proposed' && !reason)) return '';
    const what = state === 'proposed' ? decidedBy : `${state === 'waived' ? 'waived' : 'approved'} by ${decidedBy}`;
    return reason ? `${what}: ${reason}` : what;
  }

  protected amount(c: ChargeWire): string {
    return howMuch(c, c.net.currency);
  }

  private sums(wanted: Filter): Observable<Sums> {
    return everyPage((page) => this.api.call(chargeRoutes.listChargeClients, { query: { ...wanted, ...page } })).pipe(
      map(({ charges, net, rows }) => ({ charges, net, clients: rows })),
    );
  }

  protected ask(charge: ChargeWire, decision: 'waive' | 'adjust'): void {
    this.form = new FormState(decideSchema, {
      decision,
      reason: null,
      quantity: decision === 'adjust' ? charge.quantity : null,
      unitPrice: decision === 'adjust' ? charge.unitPrice : null,
    });
    this.deciding.set({ charge, decision });
  }

  protected confirm(event: Event): void {
    event.preventDefault();
    const asked = this.deciding();
    if (!asked) return;
    // What was left as it is keeps its exact value, which may have more places than a person types.
    for (const name of ['quantity', 'unitPrice'] as const) if (this.form.values[name] === asked.charge[name]) this.form.set(name, null);
    const body = this.form.check();
    if (!body) return;
    this.api.call(chargeRoutes.decideCharge, { params: { chargeId: asked.charge.id }, version: asked.charge.version, body }).subscribe({
      next: (done) => {
        this.deciding.set(undefined);
        this.toasts.done(
          asked.decision === 'waive' ? 'Waived' : 'Adjusted',
          asked.decision === 'waive' ? () => this.reopen(asked.charge, done.version) : undefined,
        );
        this.list.retry();
      },
      error: (fault: unknown) => (this.form.refused(fault), this.toasts.trouble(fault)),
    });
  }

  protected decide(charge: ChargeWire, decision: Extract<ChargeDecision, 'approve' | 'reopen'>): void {
    this.send(charge, charge.version, decision).subscribe({
      next: ({ version }) =>
        this.toasts.done(
          decision === 'approve' ? '1 approved' : 'Decision taken back',
          decision === 'approve' ? () => this.reopen(charge, version) : undefined,
        ),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  /** All of a client that wait, whether they are on the screen or not; where others came meanwhile, none. */
  protected approveAll({ clientId, charges, net }: ChargeClientWire, odd: boolean): void {
    this.approving.set(true);
    this.api.call(chargeRoutes.approveAll, { body: { clientId, odd, charges, netMinor: net.minor } }).subscribe({
      next: (done) => {
        this.approving.set(false);
        this.toasts.done(`${done.charges} approved`, () => this.undoApproval(done.id));
        this.list.retry();
      },
      error: (fault: unknown) => {
        this.approving.set(false);
        this.toasts.trouble(fault);
        this.list.retry();
      },
    });
  }

  private undoApproval(approvalId: string): void {
    this.api.call(chargeRoutes.undoApproval, { params: { approvalId } }).subscribe({
      next: () => this.list.retry(),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private reopen(charge: ChargeWire, version: number): void {
    this.send(charge, version, 'reopen').subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  private send(charge: ChargeWire, version: number, decision: Extract<ChargeDecision, 'approve' | 'reopen'>) {
    const body = { decision, reason: null, quantity: null, unitPrice: null };
    return this.api.call(chargeRoutes.decideCharge, { params: { chargeId: charge.id }, version, body });
  }

  /** Every charge that fits, with the view that names them. */
  protected export(): void {
    this.list.all().subscribe({
      next: (charges) => downloadCsv('charges.csv', CSV_HEAD, charges.map(csvRow)),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}

const CSV_HEAD = ['date', 'client', 'ticket', 'person', 'description', 'quantity', 'unit', 'unit price', 'net', 'state'];

function csvRow(c: ChargeWire): string[] {
  const ticket = String(c.ticketNumber ?? '');
  return [c.on, c.client, ticket, c.person ?? '', c.description, c.quantity, c.unit, c.unitPrice, plainMoney(c.net), c.state];
}
