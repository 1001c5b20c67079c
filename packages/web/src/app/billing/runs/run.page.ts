import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { LEFT_TO_ISSUE, type RunInvoiceRowWire, runRoutes, sayPart, type RunWire } from '@core/billing';
import { formatMoney, type Id, money, plural, sumMoney } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { EmptyNote } from '../../ui/empty-note';
import { ListState } from '../../ui/list/list-state';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { showRecord } from '../../ui/shown-record';
import { StateNote } from '../../ui/state-note';
import { RunInvoicePanel } from './run-invoice';
import { INVOICE_STATE_WORDS, sayDiffers, sayReasons } from './run-words';

/** As many reasons as a row has place for. */
const MOST_REASONS = 3;

/** A run: each invoice beside the last one and why it differs; hold some, issue some or all. */
@Component({
  selector: 'dl-run-page',
  imports: [ArrowRows, AsyncPipe, DatePipe, EmptyNote, MoneyPipe, RouterLink, RunInvoicePanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run.page.html',
  styleUrl: './run.page.css',
})
export class RunPage {
  readonly runId = input.required<Id<'billing_run'>>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly busy = signal(false);
  protected readonly selected = signal<Id<'billing_run_invoice'> | undefined>(undefined);
  protected readonly stateWords = INVOICE_STATE_WORDS;
  protected readonly differs = sayDiffers;
  protected readonly part = ({ part }: RunInvoiceRowWire) => sayPart(part);
  protected readonly run = showRecord<RunWire>({
    id: this.runId,
    read: (runId) => this.api.call(runRoutes.getRun, { params: { runId } }),
    topics: ['run'],
  });
  protected readonly list = new ListState<RunInvoiceRowWire>({
    name: 'run invoices',
    topics: ['run'],
    load: (query, page) => this.api.call(runRoutes.listRunInvoices, { params: { runId: this.runId() }, query: { ...query, ...page } }),
  });

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [
      { keys: '↑ ↓', what: 'move among invoices' },
      { keys: 'x', what: 'choose the invoice' },
      { keys: 'h', what: 'hold the invoice' },
      { keys: 'Esc', what: 'close its lines' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      const id = (document.activeElement as HTMLElement | null)?.closest('[data-invoice]')?.getAttribute('data-invoice');
      if (event.key === 'Escape') this.selected.set(undefined);
      if (!id) return;
      if (event.key === 'x') this.list.toggle(id);
      else if (event.key === 'h' && this.session.may('invoices.issue')) this.hold([id]);
      else return;
      event.preventDefault();
    });
  }

  protected select(id: Id<'billing_run_invoice'>): void {
    this.selected.set(this.selected() === id ? undefined : id);
  }

  protected headWords(r: RunWire): string {
    if (r.state === 'preparing') return '';
    if (r.state === 'done') return `done: ${r.issued} of ${plural(r.invoices, 'invoice')} issued`;
    const { invoices, net, differs } = r.toIssue;
    const than =
      differs.minor === 0
        ? 'as much as'
        : `${formatMoney(money(Math.abs(differs.minor), differs.currency))} ${differs.minor > 0 ? 'more' : 'less'} than`;
    return `${plural(invoices, 'invoice')} to issue, ${formatMoney(net)} before tax, ${than} the last ones${r.issued ? `; ${r.issued} issued` : ''}`;
  }

  protected reasons(i: RunInvoiceRowWire): string {
    return i.charges ? sayReasons(i, MOST_REASONS) : 'all of its lines are held';
  }

  /** Its part of the largest difference that is shown, from 0 to 1. */
  protected share({ differs }: RunInvoiceRowWire, rows: readonly RunInvoiceRowWire[]): number {
    const most = Math.max(1, ...rows.map((r) => Math.abs(r.differs.minor)));
    return Math.abs(differs.minor) / most;
  }

  protected holdChosen(): void {
    this.hold(this.list.chosenRows.map((r) => r.id));
  }

  private hold(ids: Id<'billing_run_invoice'>[]): void {
    const asked = { params: { runId: this.runId() }, body: { ids } };
    this.send(this.api.call(runRoutes.holdRunInvoices, asked), ({ changed }) => {
      this.list.chooseAll(false);
      if (!changed) return this.toasts.trouble('What is issued or held already cannot be held.');
      this.toasts.done(`${plural(changed, 'invoice')} held for the next run`, () =>
        this.send(this.api.call(runRoutes.releaseRunInvoices, asked), () => undefined),
      );
    });
  }

  protected issueChosen(): void {
    const rows = this.list.chosenRows.filter((r) => LEFT_TO_ISSUE.includes(r.state) && r.charges > 0);
    if (rows.length) this.issue(rows);
    else this.toasts.trouble('None of the chosen can be issued: they are held, empty or issued already.');
  }

  protected issue(rows: readonly Pick<RunInvoiceRowWire, 'id' | 'net'>[]): void {
    const net = sumMoney(
      rows.map((r) => r.net),
      rows[0]!.net.currency,
    );
    this.ask({ ids: rows.map((r) => r.id), invoices: rows.length, net });
  }

  protected issueAll({ toIssue }: RunWire): void {
    this.ask({ ids: null, ...toIssue });
  }

  private ask({ ids, invoices, net }: { ids: Id<'billing_run_invoice'>[] | null; invoices: number; net: RunWire['net'] }): void {
    const what = plural(invoices, 'invoice');
    if (
      !confirm(
        `Issue ${what} over ${formatMoney(net)} before tax? What is issued is mailed at once and never changes; only a credit note corrects it.`,
      )
    )
      return;
    const asked = { params: { runId: this.runId() }, body: { ids, invoices, netMinor: net.minor } };
    this.send(this.api.call(runRoutes.issueRun, asked), () => {
      this.list.chooseAll(false);
      this.toasts.done(`${what} on ${invoices === 1 ? 'its' : 'their'} way`);
    });
  }

  protected putAway(r: RunWire): void {
    const left = r.toIssue.invoices
      ? ` ${plural(r.toIssue.invoices, 'invoice')} of it will not be issued; what is due comes up in the next run.`
      : '';
    if (!confirm(`End the run for ${r.on}?${left}`)) return;
    this.send(this.api.call(runRoutes.putRunAway, { params: { runId: this.runId() } }), () => this.toasts.done('The run is ended'));
  }

  private send<T>(command: Observable<T>, then: (answer: T) => void): void {
    this.busy.set(true);
    command.subscribe({
      next: (answer) => {
        this.busy.set(false);
        then(answer);
        this.again();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
        this.again();
      },
    });
  }

  private again(): void {
    this.run.again();
    this.list.retry();
  }
}
