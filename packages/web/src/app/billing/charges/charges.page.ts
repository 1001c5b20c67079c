import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { combineLatest, filter, map, type Observable, shareReplay, tap } from 'rxjs';
import {
  chargeRoutes,
  ODDITY_NAMES,
  type ChargeClientWire,
  type ChargeDecision,
  type ChargeView,
  type ChargeWire,
  type OddityName,
} from '@core/billing';
import { parseLocalDate, plural, type Id, type Money } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { everyPage } from '../../ui/every-page';
import { isoDay } from '../../ui/time-format';
import { ListState, type Query } from '../../ui/list/list-state';
import { loading, type Loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';
import { ApprovalRules } from '../approval-rules/approval-rules';
import { ChargeQuestions } from './charge-questions';
import { NeverCharged } from '../never-charged/never-charged';
import { decideForm, DONE, linesOf, type Worded } from './decide-form';
import { CSV_HEAD, csvRow, decidedWords, originalWords, sayOdd } from './charge-words';
import { howMuch } from './how-much';

const TOPICS = ['charge', 'invoice'];
const VIEWS: readonly { readonly state: ChargeView; readonly words: string; readonly none: string }[] = [
  { state: 'proposed', words: 'To review', none: 'Nothing to review' },
  { state: 'held', words: 'Held', none: 'Nothing is held' },
  { state: 'approved', words: 'To bill', none: 'Nothing waits for an invoice' },
  { state: 'billed', words: 'Billed', none: 'Nothing is billed' },
  { state: 'waived', words: 'Waived', none: 'Nothing is waived' },
];

interface Filter {
  readonly state: ChargeView;
  readonly odd?: true;
  readonly oddIs?: OddityName;
}
function filterOf(query: Query): Filter {
  const state = VIEWS.find((v) => v.state === query['state'])?.state ?? 'proposed';
  const oddIs = ODDITY_NAMES.find((name) => name === query['odd']);
  return { state, ...(oddIs ? { oddIs } : query['odd'] === 'true' ? { odd: true } : {}) };
}

interface Sums {
  readonly charges: number;
  readonly net: Money;
  readonly notOdd: { readonly charges: number; readonly net: Money };
  readonly oddities: readonly { readonly is: OddityName; readonly charges: number }[];
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

/** Charge review, client by client: approve, waive, adjust, hold for later, with what is odd about each. */
@Component({
  selector: 'dl-charges-page',
  imports: [
    ApprovalRules,
    ChargeQuestions,
    AsyncPipe,
    RouterLink,
    ArrowRows,
    EmptyNote,
    DatePipe,
    MoneyPipe,
    NeverCharged,
    RecordFormPanel,
    StateNote,
    Why,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './charges.page.html',
  styleUrl: './charges.page.css',
})
export class ChargesPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  private shown: readonly ChargeWire[] = [];
  private sumsNow: Sums | undefined;
  private state: ChargeView = 'proposed';
  protected readonly deciding = signal<
    { readonly charge: ChargeWire; readonly decision: Worded; readonly form: RecordForm; readonly lines: readonly Line[] } | undefined
  >(undefined);
  protected readonly approving = signal(false);
  /** The charge that a question is noted of. */
  protected readonly asking = signal<string | undefined>(undefined);
  protected readonly views = VIEWS;
  protected readonly list = new ListState<ChargeWire>({
    name: 'charges',
    topics: TOPICS,
    load: (query, page) => this.api.call(chargeRoutes.listCharges, { query: { ...filterOf(query), ...page } }),
  });
  protected readonly state$ = this.list.query$.pipe(
    map((q) => filterOf(q).state),
    tap((state) => (this.state = state)),
  );
  /** What the charges of each client come to, over all of them and not only those on the screen. */
  private readonly sums$ = loading(
    combineLatest([this.list.query$.pipe(map(filterOf)), this.list.list$.pipe(filter((list) => list.is === 'there'))]),
    ([wanted]) => this.sums(wanted),
  );
  protected readonly page$ = combineLatest([this.list.list$, this.list.rows$, this.sums$]).pipe(
    map(([list, rows, sums]) => pageOf(list, rows, sums)),
    tap((page) => page.is === 'there' && ((this.shown = page.value.rows), (this.sumsNow = page.value.sums))),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '↑ ↓', what: 'move among charges' },
      { keys: 'a', what: 'approve' },
      { keys: 'w', what: 'waive' },
      { keys: 'e', what: 'adjust' },
      { keys: 'h', what: 'hold for later' },
      { keys: 'Shift A', what: 'approve all that is not odd' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      const id = (document.activeElement as HTMLElement | null)?.closest('[data-charge]')?.getAttribute('data-charge');
      const charge = this.shown.find((c) => c.id === id);
      if (event.key === 'Escape') this.deciding.set(undefined);
      if (event.key === 'A' && this.sumsNow && this.state === 'proposed') return (event.preventDefault(), this.approveNotOdd(this.sumsNow));
      if (!charge || charge.state !== 'proposed' || charge.heldUntil || !this.session.may('charges.decide')) return;
      if (event.key === 'a') {
        this.focusNext(event);
        this.decide(charge, 'approve');
      } else if (KEYED[event.key]) this.ask(charge, KEYED[event.key]!);
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

  protected readonly plural = plural;
  protected readonly decidedWords = decidedWords;
  protected readonly originalWords = originalWords;
  protected readonly say = sayOdd;

  protected amount(c: ChargeWire): string {
    return howMuch(c, c.net.currency);
  }

  private sums(wanted: Filter): Observable<Sums> {
    return everyPage((page) => this.api.call(chargeRoutes.listChargeClients, { query: { ...wanted, ...page } })).pipe(
      map(({ rows, ...sums }) => ({ ...sums, clients: rows })),
    );
  }

  /** Opens what stands above the charges, or closes it. */
  protected also(what: 'rules' | 'never', query: Query | null): void {
    this.list.set({ also: query?.['also'] === what ? undefined : what });
  }

  protected ask(charge: ChargeWire, decision: Worded): void {
    const form = decideForm(this.api, { charge, decision, today: parseLocalDate(isoDay(this.session.now(), this.session.zone)) });
    this.deciding.set({ charge, decision, form, lines: linesOf(decision, charge) });
  }

  protected decided({ charge, decision }: { readonly charge: ChargeWire; readonly decision: Worded }): void {
    this.deciding.set(undefined);
    this.toasts.done(DONE[decision], decision === 'adjust' ? undefined : () => this.takeBack(charge, decision));
    this.list.retry();
  }

  private takeBack(charge: ChargeWire, decision: Worded): void {
    this.api.call(chargeRoutes.getCharge, { params: { chargeId: charge.id } }).subscribe({
      next: ({ version }) => (decision === 'hold' ? this.giveBack({ ...charge, version }) : this.reopen(charge, version)),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected giveBack(charge: ChargeWire): void {
    this.send(charge, charge.version, 'give back').subscribe({
      next: () => (this.toasts.done('Waits again'), this.list.retry()),
      error: (fault: unknown) => this.toasts.trouble(fault),
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
  protected approveAll({ clientId, charges, net }: ChargeClientWire): void {
    this.approve({ clientId, odd: true, charges, net });
  }

  /** Over all clients; what is odd waits for a person. */
  protected approveNotOdd({ notOdd }: Sums): void {
    if (notOdd.charges) this.approve({ clientId: null, odd: false, ...notOdd });
  }

  private approve(of: {
    readonly clientId: Id<'client'> | null;
    readonly odd: boolean;
    readonly charges: number;
    readonly net: Money;
  }): void {
    const { clientId, odd, charges, net } = of;
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

  private send(charge: ChargeWire, version: number, decision: Exclude<ChargeDecision, Worded>) {
    const body = { decision, reason: null, quantity: null, unitPrice: null, description: null, until: null };
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

const KEYED: Readonly<Record<string, Worded>> = { w: 'waive', e: 'adjust', h: 'hold' };
