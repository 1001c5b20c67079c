import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, map, startWith, Subject } from 'rxjs';
import { catalogueRoutes, clientPriceFormSchema, type ClientPriceWire } from '@core/goods';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { everyPage } from '../../ui/every-page';
import { loading } from '../../ui/loading';
import { UnitPricePipe } from '../../ui/pipes';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';

/** What a client pays for items where that is not the catalogue's price. */
@Component({
  selector: 'dl-client-prices',
  imports: [AsyncPipe, RecordFormPanel, StateNote, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = prices$ | async;
    <h2>
      Own prices
      @if (session.may('catalogue.edit')) {
        <button type="button" class="btn-link small" (click)="open()">add one</button>
      }
    </h2>
    @if (form(); as f) {
      <dl-record-form [form]="f.form" [lines]="f.lines" (saved)="done()" (closed)="done()" />
    }
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="again.next()" />
    } @else if (now) {
      @for (p of now.value; track p.itemId) {
        <p class="line">
          <span class="mono small">{{ p.number }}</span> <span>{{ p.name }}</span>
          <span class="grow"></span>
          <span class="mono">{{ p.net | unitPrice: p.currency }}</span>
          <span class="soft small">instead of {{ p.catalogueNet | unitPrice: p.currency }}</span>
          @if (session.may('catalogue.edit')) {
            <button type="button" class="btn-link small" (click)="remove(p)">
              take away<span class="visually-hidden"> the price of {{ p.name }}</span>
            </button>
          }
        </p>
      } @empty {
        <p class="soft small">They pay what the catalogue says.</p>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 20px;
    }
    h2 {
      display: flex;
      justify-content: space-between;
    }
    .line {
      display: flex;
      gap: 8px;
      align-items: baseline;
    }
  `,
})
export class ClientPrices {
  readonly clientId = input.required<Id<'client'>>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly form = signal<{ readonly form: RecordForm; readonly lines: readonly Line[] } | undefined>(undefined);
  protected readonly prices$ = loading(combineLatest([toObservable(this.clientId), this.again.pipe(startWith(undefined))]), ([clientId]) =>
    this.api.call(catalogueRoutes.listClientPrices, { params: { clientId } }).pipe(map((a) => a.prices)),
  );

  protected open(): void {
    everyPage((page) => this.api.call(catalogueRoutes.listItems, { query: page })).subscribe({
      next: ({ rows }) =>
        this.form.set({
          lines: [
            { name: 'itemId', label: 'Item', kind: 'choice', options: rows.map((i) => ({ value: i.id, label: `${i.number} ${i.name}` })) },
            { name: 'price', label: 'They pay', kind: 'money' },
            {
              name: 'basis',
              label: 'That is',
              kind: 'choice',
              options: [
                { value: 'net', label: 'without tax' },
                { value: 'gross', label: 'with tax' },
              ],
            },
          ],
          form: {
            schema: clientPriceFormSchema,
            initial: { itemId: '', price: '', basis: 'net' },
            draft: `client-price.${this.clientId()}`,
            does: 'Let it hold from now on',
            save: (body) => this.api.call(catalogueRoutes.setClientPrice, { params: { clientId: this.clientId() }, body }),
          },
        }),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected remove(p: ClientPriceWire): void {
    this.api.call(catalogueRoutes.removeClientPrice, { params: { clientId: this.clientId(), itemId: p.itemId } }).subscribe({
      next: () => {
        this.toasts.done(`They pay the catalogue's price for ${p.name} again`, () => this.putBack(p));
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private putBack({ itemId, price, basis }: ClientPriceWire): void {
    const body = { itemId, price, basis };
    this.api
      .call(catalogueRoutes.setClientPrice, { params: { clientId: this.clientId() }, body })
      .subscribe({ next: () => this.again.next(), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  protected done(): void {
    this.form.set(undefined);
    this.again.next();
  }
}
