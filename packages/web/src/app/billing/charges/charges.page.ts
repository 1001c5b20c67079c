import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { combineLatest, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { chargeRoutes, decideSchema, type ChargeDecision, type ChargeWire } from '@core/billing';
import { money, plainMoney, type Currency, type Money } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Shortcuts } from '../../shell/shortcuts';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { downloadCsv } from '../../ui/csv';
import { EmptyNote } from '../../ui/empty-note';
import { Field } from '../../ui/field';
import { FormState } from '../../ui/form-state';
import { loading } from '../../ui/loading';
import { DatePipe, MoneyPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';
import { howMuch } from './how-much';

interface Group {
  readonly clientId: string;
  readonly client: string;
  readonly charges: readonly ChargeWire[];
  readonly total: Money;
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
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  private readonly again = new Subject<void>();
  private shown: readonly ChargeWire[] = [];
  protected readonly deciding = signal<{ charge: ChargeWire; decision: 'waive' | 'adjust' } | undefined>(undefined);
  protected form = new FormState(decideSchema, {});
  protected readonly state$ = inject(ActivatedRoute).queryParams.pipe(
    map((q) => String(q['state'] ?? 'proposed') as ChargeWire['state']),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  protected readonly list$ = loading(
    combineLatest([this.state$, merge(inject(Live).about('charge', 'invoice'), this.again).pipe(startWith(undefined))]),
    ([state]) => this.api.call(chargeRoutes.listCharges, { query: { state } }).pipe(map((a) => a.charges)),
  ).pipe(
    tap((l) => l.is === 'there' && (this.shown = l.value)),
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
        this.decide([charge], 'approve');
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

  protected groups(charges: readonly ChargeWire[]): Group[] {
    const by = new Map<string, ChargeWire[]>();
    for (const c of charges) by.set(c.clientId, [...(by.get(c.clientId) ?? []), c]);
    return [...by.values()].map((list) => ({
      clientId: list[0]!.clientId,
      client: list[0]!.client,
      charges: list,
      total: money(
        list.reduce((a, c) => a + c.net.minor, 0),
        list[0]!.net.currency as Currency,
      ),
    }));
  }

  protected amount(c: ChargeWire): string {
    return howMuch(c, c.net.currency);
  }

  protected set(state: string): void {
    void this.router.navigate([], { queryParams: { state } });
  }

  protected retry(): void {
    this.again.next();
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
          asked.decision === 'waive' ? () => this.reopen([{ id: asked.charge.id, version: done.version }]) : undefined,
        );
        this.again.next();
      },
      error: (fault: unknown) => (this.form.refused(fault), this.toasts.trouble(fault)),
    });
  }

  protected decide(charges: readonly ChargeWire[], decision: Extract<ChargeDecision, 'approve' | 'reopen'>): void {
    const done: { id: string; version: number }[] = [];
    let left = charges.length;
    for (const c of charges)
      this.api
        .call(chargeRoutes.decideCharge, {
          params: { chargeId: c.id },
          version: c.version,
          body: { decision, reason: null, quantity: null, unitPrice: null },
        })
        .subscribe({
          next: (d) => {
            done.push(d);
            if (--left === 0)
              this.toasts.done(
                decision === 'approve' ? `${done.length} approved` : 'Decision taken back',
                decision === 'approve' ? () => this.reopen(done) : undefined,
              );
          },
          error: (fault: unknown) => (left--, this.toasts.trouble(fault)),
        });
  }

  private reopen(charges: readonly { id: string; version: number }[]): void {
    for (const c of charges)
      this.api
        .call(chargeRoutes.decideCharge, {
          params: { chargeId: c.id },
          version: c.version,
          body: { decision: 'reopen', reason: null, quantity: null, unitPrice: null },
        })
        .subscribe({ error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  protected export(charges: readonly ChargeWire[]): void {
    downloadCsv(
      'charges.csv',
      ['date', 'client', 'ticket', 'person', 'description', 'quantity', 'unit', 'unit price', 'net', 'state'],
      charges.map((c) => [
        c.on,
        c.client,
        String(c.ticketNumber ?? ''),
        c.person ?? '',
        c.description,
        c.quantity,
        c.unit,
        c.unitPrice,
        plainMoney(c.net),
        c.state,
      ]),
    );
  }
}
