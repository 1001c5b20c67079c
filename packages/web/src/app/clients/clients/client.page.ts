import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { catchError, map, of, switchMap, tap } from 'rxjs';
import { assetRoutes, clientFormSchema, clientRoutes, type ClientWire, siteFormSchema } from '@core/clients';
import { invoiceRoutes } from '@core/billing';
import { ticketRoutes } from '@core/desk';
import type { Id } from '@core/ground';
import { OwnValuePipe } from '../../desk';
import { PriceRules } from '../../goods';
import { Api } from '../../shell/api';
import { PageAddress } from '../../shell/page-address';
import { Session } from '../../shell/session';
import { ArrowRows } from '../../ui/arrow-rows';
import { showRecord } from '../../ui/shown-record';
import { AtPipe, DatePipe, MoneyPipe } from '../../ui/pipes';
import { RecordFormPanel, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { Story } from '../../ui/story';
import { Together } from '../../ui/together';
import { clientForms } from './client-form';
import { ClientPromise } from './client-promise';
import { ClientTerms } from './client-terms';
import { ClientContacts } from './client-contacts';
import { SITE_LINES, siteForms } from './site-form';

/** Who they are, what is open, what they have and what they were billed. */
@Component({
  selector: 'dl-client-page',
  imports: [
    AsyncPipe,
    ClientContacts,
    PriceRules,
    ClientPromise,
    ClientTerms,
    RouterLink,
    ArrowRows,
    AtPipe,
    DatePipe,
    MoneyPipe,
    RecordFormPanel,
    StateNote,
    Story,
    Together,
    OwnValuePipe,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = client.state$ | async;
    @if (now && now.is !== 'there') {
      <dl-state-note [state]="now" (again)="retry()" />
    } @else if (now) {
      @let c = now.value;
      <div class="page">
        <header class="page-head">
          <span class="mono soft">{{ c.number }}</span>
          <h1>{{ c.name }}</h1>
          <span class="soft small">client since {{ c.since | date }}</span>
          <span class="grow"></span>
          @if (session.may('charges.read')) {
            <a class="btn-plain" [routerLink]="['/clients', c.id, 'usage']">Usage report</a>
          }
          @if (session.may('clients.edit')) {
            <button type="button" class="btn-plain" (click)="editing = editing ? undefined : forms.change(c)">Change</button>
          }
        </header>
        <div class="page-body">
          @if (editing) {
            <dl-record-form
              [form]="editing"
              [lines]="forms.lines()"
              (saved)="editing = undefined; retry()"
              (closed)="editing = undefined; retry()"
            />
          }
          <div class="columns" [dlTogether]="c.id">
            <section>
              <dl class="facts">
                <dt>Address</dt>
                <dd>{{ c.street }}, {{ c.postcode }} {{ c.city }}, {{ c.country }}</dd>
                <dt>Time zone</dt>
                <dd>{{ c.zone }}</dd>
                <dt>Division</dt>
                <dd>{{ c.division }}</dd>
                <dt>Domains</dt>
                <dd>{{ c.domains }}</dd>
                <dt>Invoices to</dt>
                <dd>{{ c.invoiceEmail }}, {{ c.paymentDays }} days{{ c.taxExempt ? ', exempt from tax' : '' }}</dd>
                @for (f of c.fields; track f.id) {
                  <dt>{{ f.name }}</dt>
                  <dd [class.soft]="f.words === null">{{ f | ownValue }}</dd>
                }
              </dl>
              <dl-client-promise [client]="c" (changed)="retry()" />
              <h2>
                Sites
                @if (session.may('clients.edit')) {
                  <button type="button" class="btn-link small" (click)="site = { id: 'new', form: sites.addSite(c) }">add one</button>
                }
              </h2>
              @if (site?.id === 'new') {
                <dl-record-form [form]="site!.form" [lines]="siteLines" (saved)="done()" (closed)="done()" />
              }
              @for (s of c.sites; track s.id) {
                <p class="line">
                  <b>{{ s.name }}</b> <span class="soft small">{{ s.street }}, {{ s.city }}</span>
                  <span class="grow"></span>
                  @if (session.may('clients.edit')) {
                    <button type="button" class="btn-link small" (click)="site = { id: s.id, form: sites.changeSite(c, s) }">
                      change<span class="visually-hidden"> {{ s.name }}</span>
                    </button>
                  }
                </p>
                @if (site?.id === s.id) {
                  <dl-record-form [form]="site!.form" [lines]="siteLines" (saved)="done()" (closed)="done()" />
                }
              }
              @if (session.may('catalogue.read')) {
                <dl-price-rules [clientId]="c.id" />
              }
              <h2>Invoices</h2>
              @if (session.may('invoices.read')) {
                <dl-client-terms [clientId]="c.id" />
              }
              @for (i of invoices$ | async; track i.id) {
                <p class="line">
                  <a class="ink-link mono" [routerLink]="['/billing', i.id]">{{ i.number }}</a>
                  <span class="soft small nowrap">{{ i.issuedOn | date }}</span> <span class="soft small clip">{{ i.billedFor }}</span>
                  <span class="grow"></span
                  ><span class="small" [class.late]="i.state === 'overdue'" [class.met]="i.state === 'paid'">{{ i.state }}</span>
                  <span class="mono">{{ i.gross | money }}</span>
                </p>
              } @empty {
                <p class="soft small">none yet, or not for your eyes</p>
              }
            </section>
            <section dlArrowRows>
              <h2>Open tickets</h2>
              @for (t of tickets$ | async; track t.id) {
                <p class="line">
                  <span class="mono soft small">#{{ t.number }}</span> <b class="mono small">{{ t.priority }}</b>
                  <a class="ink-link clip" data-row [routerLink]="['/tickets', t.id]">{{ t.subject }}</a> <span class="grow"></span
                  ><span class="soft small nowrap">{{ t.status }}{{ t.dueAt ? ', due ' : '' }}{{ t.dueAt | at }}</span>
                </p>
              } @empty {
                <p class="soft small">nothing is open</p>
              }
              <dl-client-contacts [client]="c" (changed)="retry()" />
              <h2>
                Contracts
                @if (session.may('contracts.edit')) {
                  <a class="small" routerLink="/contracts" [queryParams]="{ newFor: c.id }">draw one up</a>
                }
              </h2>
              <p>
                <a routerLink="/contracts" [queryParams]="{ clientId: c.id }">their contracts</a>,
                <a [routerLink]="['/clients', c.id, 'seats']">their seats</a>
              </p>
              <h2>Assets</h2>
              <p>
                <a [routerLink]="['/assets']" [queryParams]="{ clientId: c.id }">{{ (assets$ | async) ?? 0 }} assets</a>
              </p>
              <dl-story [story]="c.story" [earlier]="earlier" />
            </section>
          </div>
        </div>
      </div>
    }
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
      gap: 32px;
    }
    h2 {
      margin: 18px 0 6px;
      display: flex;
      justify-content: space-between;
    }
    section > h2:first-child {
      margin-top: 0;
    }
    .line {
      display: flex;
      gap: 8px;
      align-items: baseline;
      border-bottom: 1px solid var(--rule);
      padding: 5px 0;
      min-width: 0;
    }
    .nowrap {
      white-space: nowrap;
    }
  `,
})
export class ClientPage {
  readonly clientId = input.required<Id<'client'>>();
  private readonly api = inject(Api);
  private readonly address = inject(PageAddress);
  protected readonly session = inject(Session);
  protected editing: RecordForm<typeof clientFormSchema> | undefined;
  /** Which site is open for change; 'new' for one that is added. */
  protected site: { readonly id: Id<'site'>; readonly form: RecordForm<typeof siteFormSchema> } | undefined;
  private readonly read = signal<string | null>(null);
  protected readonly forms = clientForms(this.read);
  protected readonly sites = siteForms();
  protected readonly siteLines = SITE_LINES;
  private tickets: unknown;
  private invoices: unknown;
  protected readonly earlier = (before: string) =>
    this.api.call(clientRoutes.getClientStory, { params: { clientId: this.clientId() }, query: { before } });
  protected readonly client = showRecord<ClientWire>({
    id: this.clientId,
    topics: ['client', 'ticket', 'invoice'],
    clientId: (c) => c.id,
    beside: () => [this.tickets, this.invoices],
    read: (clientId) => this.api.call(clientRoutes.getClient, { params: { clientId } }),
    take: (c) => {
      this.read.set(c.id);
      this.address.show({ under: '/clients', param: 'clientId', number: String(c.number), name: c.name });
    },
  });
  /** The address may name it by its number; what is read about it goes by its id. */
  private readonly read$ = this.client.record$.pipe(map((c) => c.id));
  protected readonly tickets$ = this.read$.pipe(
    switchMap((clientId) =>
      this.api.call(ticketRoutes.listTickets, { query: { clientId } }).pipe(
        map((a) => a.rows),
        catchError(() => of([])),
      ),
    ),
    tap((rows) => (this.tickets = rows)),
  );
  protected readonly invoices$ = this.read$.pipe(
    switchMap((clientId) =>
      this.session.may('invoices.read')
        ? this.api.call(invoiceRoutes.listInvoices, { query: { clientId } }).pipe(
            map((a) => a.rows),
            catchError(() => of([])),
          )
        : of([]),
    ),
    tap((rows) => (this.invoices = rows)),
  );
  protected readonly assets$ = this.read$.pipe(
    switchMap((clientId) =>
      this.api.call(assetRoutes.listAssets, { query: { clientId, most: 1 } }).pipe(
        map((a) => a.count),
        catchError(() => of(0)),
      ),
    ),
  );

  protected retry(): void {
    this.client.again();
  }

  protected done(): void {
    this.site = undefined;
    this.client.again();
  }
}
