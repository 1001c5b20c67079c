import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import {
  type BankFilter,
  BANK_LINE_STATES,
  type BankLineState,
  type BankLineWire,
  bankRoutes,
  leaveOutSchema,
  type MatchWire,
} from '@core/billing';
import { type Id, type Money, type Page, plural } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { EmptyNote } from '../../ui/empty-note';
import { Field } from '../../ui/field';
import { FilterWords } from '../../ui/list/filters';
import { ListState, type Query } from '../../ui/list/list-state';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { BANK_VIEWS, nameLine, sayBecause, sayRest } from './bank-words';
import { MatchForm } from './match-form';
import { ReadBankFile } from './read-bank-file';

interface Sure {
  readonly lines: number;
  readonly amount: Money;
}
type Lines = Page<BankLineWire> & { readonly sure?: Sure };

/** Lines of bank statements beside what each may be for: match, say otherwise, leave out; all that is sure in one press. */
@Component({
  selector: 'dl-bank-lines',
  imports: [ArrowRows, AsyncPipe, DatePipe, EmptyNote, Field, FilterWords, MatchForm, MoneyPipe, ReadBankFile, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bank-lines.html',
  styleUrl: './bank-lines.css',
})
export class BankLines {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly views = BANK_VIEWS;
  protected readonly because = sayBecause;
  protected readonly rest = sayRest;
  protected readonly busy = signal(false);
  protected readonly open = signal<{ readonly id: string; readonly does: 'match' | 'leave' } | undefined>(undefined);
  protected readonly reason = signal('');
  protected readonly wrong = signal<string | undefined>(undefined);
  private shown: readonly BankLineWire[] = [];
  protected readonly list = new ListState<BankLineWire>({
    name: 'bank-lines',
    topics: ['statement', 'payment', 'invoice'],
    ownWords: ['show'],
    load: (query, page): Observable<Lines> => this.api.call(bankRoutes.listBankLines, { query: { ...filterOf(query), ...page } }),
  });

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    this.list.rows$.pipe(takeUntilDestroyed(destroyed)).subscribe((rows) => (this.shown = rows));
    keys.register(this, [
      { keys: '↑ ↓', what: 'move among lines' },
      { keys: 'm', what: 'match' },
      { keys: 'o', what: 'match otherwise' },
      { keys: 'x', what: 'leave out' },
    ]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => this.press(event));
  }

  private press(event: KeyboardEvent): void {
    if (event.key === 'Escape') return this.open.set(undefined);
    const row = (document.activeElement as HTMLElement | null)?.closest('[data-line]');
    const line = this.shown.find((l) => l.id === row?.getAttribute('data-line'));
    if (!line || line.state !== 'open' || !this.session.may('invoices.issue')) return;
    const [first] = line.matches;
    if (event.key === 'm' && first) {
      ((row?.nextElementSibling ?? row?.previousElementSibling) as HTMLElement | null)?.focus();
      this.match(line, first);
    } else if (event.key === 'm' || event.key === 'o') this.toggle(line, 'match');
    else if (event.key === 'x') this.toggle(line, 'leave');
    else return;
    event.preventDefault();
  }

  protected stateOf(query: Query | null): BankLineState {
    return query ? (filterOf(query).state as BankLineState) : 'open';
  }

  protected sure(page: Lines): Sure | undefined {
    return page.sure?.lines ? page.sure : undefined;
  }

  protected noneWords(state: BankLineState): string {
    return BANK_VIEWS.find((v) => v.state === state)!.none;
  }

  protected others({ matches: [first, ...rest] }: BankLineWire): string {
    const names = [...new Set(rest.map((m) => m.client))].filter((name) => name !== first?.client);
    return names.length ? names.join(', ') : `otherwise for ${first?.client}`;
  }

  protected toggle(line: BankLineWire, does: 'match' | 'leave'): void {
    const now = this.open();
    this.reason.set('');
    this.wrong.set(undefined);
    this.open.set(now?.id === line.id && now.does === does ? undefined : { id: line.id, does });
  }

  protected match(line: BankLineWire, { clientId, settles, paymentId }: MatchWire): void {
    const body = { lineId: line.id, clientId, settles: settles.map((s) => ({ invoiceId: s.invoiceId, minor: s.amount.minor })), paymentId };
    this.send(this.api.call(bankRoutes.matchBankLine, { body }), () =>
      this.toasts.done(`${nameLine(line)} matched`, () => this.takeBack([line.id])),
    );
  }

  protected matched(id: string): void {
    this.open.set(undefined);
    this.list.retry();
    this.toasts.done('Matched', () => this.takeBack([id as Id<'bank_line'>]));
  }

  protected matchSure({ lines, amount }: Sure): void {
    this.send(this.api.call(bankRoutes.matchSure, { body: { lines, minor: amount.minor } }), ({ ids }) =>
      this.toasts.done(`${plural(ids.length, 'line')} matched`, () => this.takeBack(ids)),
    );
  }

  protected takeBack(ids: readonly Id<'bank_line'>[]): void {
    this.send(this.api.call(bankRoutes.takeMatchesBack, { body: { ids: [...ids] } }), ({ lines }) =>
      this.toasts.done(`${plural(lines, 'match', 'matches')} taken back; what was settled is owed again`),
    );
  }

  protected leaveOut(line: BankLineWire): void {
    const reason = this.reason().trim();
    if (!leaveOutSchema.isValidSync({ reason })) return this.wrong.set('say why, in at most 300 characters');
    const params = { bankLineId: line.id };
    this.send(this.api.call(bankRoutes.leaveLineOut, { params, body: { reason } }), () => {
      this.open.set(undefined);
      this.toasts.done('Left out', () => this.putBack(line));
    });
  }

  protected putBack(line: BankLineWire): void {
    this.send(this.api.call(bankRoutes.putLineBack, { params: { bankLineId: line.id } }), () => this.toasts.done('Put back'));
  }

  private send<T>(command: Observable<T>, then: (answer: T) => void): void {
    this.busy.set(true);
    command.subscribe({
      next: (answer) => {
        this.busy.set(false);
        this.list.retry();
        then(answer);
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.list.retry();
        this.toasts.trouble(fault);
      },
    });
  }
}

/** The other lists of this page narrow by states of their own. */
function filterOf(query: Query): Partial<BankFilter> {
  const state = BANK_LINE_STATES.find((s) => s === query['state']) ?? 'open';
  return { state, ...(query['q'] ? { q: query['q'] } : {}) };
}
