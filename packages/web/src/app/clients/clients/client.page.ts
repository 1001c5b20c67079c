import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BehaviorSubject, catchError, combineLatest, filter, map, merge, of, shareReplay, startWith, Subject, switchMap, tap } from 'rxjs';
import {
  assetRoutes,
  clientFormSchema,
  clientRoutes,
  contactFormSchema,
  type ContactWire,
  siteFormSchema,
  type SiteWire,
} from '@core/clients';
import { invoiceRoutes } from '@core/billing';
import { ticketRoutes } from '@core/desk';
import { ClientPrices } from '../../goods/catalogue/client-prices';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { PageAddress } from '../../shell/page-address';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { ArrowRows } from '../../ui/arrow-rows';
import { loading } from '../../ui/loading';
import { AtPipe, DatePipe, MoneyPipe } from '../../ui/pipes';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';
import { Story } from '../../ui/story';
import { CLIENT_LINES, clientForms } from './client-form';
import { ClientPromise } from './client-promise';
import { contactForms, contactLines, SITE_LINES } from './contact-form';

/** Who they are, what is open, what they have and what they were billed. */
@Component({
  selector: 'dl-client-page',
  imports: [AsyncPipe, ClientPrices, ClientPromise, RouterLink, ArrowRows, AtPipe, DatePipe, MoneyPipe, RecordFormPanel, StateNote, Story],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = client$ | async;
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
              [lines]="lines"
              (saved)="editing = undefined; retry()"
              (closed)="editing = undefined; retry()"
            />
          }
          <div class="columns">
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
              </dl>
              <dl-client-promise [client]="c" (changed)="retry()" />
              <h2>
                Sites
                @if (session.may('clients.edit')) {
                  <button type="button" class="btn-link small" (click)="site = { id: 'new', form: contacts.addSite(c) }">add one</button>
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
                    <button type="button" class="btn-link small" (click)="site = { id: s.id, form: contacts.changeSite(c, s) }">
                      change<span class="visually-hidden"> {{ s.name }}</span>
                    </button>
                  }
                </p>
                @if (site?.id === s.id) {
                  <dl-record-form [form]="site!.form" [lines]="siteLines" (saved)="done()" (closed)="done()" />
                }
              }
              @if (session.may('catalogue.read')) {
                <dl-client-prices [clientId]="c.id" />
              }
              <h2>Invoices</h2>
              @for (i of invoices$ | async; track i.id) {
                <p class="line">
                  <a class="ink-link mono" [routerLink]="['/billing', i.id]">{{ i.number }}</a>
                  <span class="soft small">{{ i.issuedOn | date }}</span> <span class="grow"></span
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
              <h2>
                Contacts
                @if (session.may('tickets.work')) {
                  <button type="button" class="btn-link small" (click)="person = { id: 'new', form: contacts.addContact(c) }">
                    add one
                  </button>
                }
              </h2>
              @if (person?.id === 'new') {
                <dl-record-form [form]="person!.form" [lines]="linesOf(c.sites)" (saved)="done()" (closed)="done()" />
              }
              <div class="people" tabindex="0" role="group" aria-label="Contacts">
                @for (k of c.contacts; track k.id) {
                  <p class="line">
                    <span class="clip"
                      ><b>{{ k.name }}</b> <span class="soft small">{{ k.title }}{{ k.priority ? ' · priority contact' : '' }}</span></span
                    ><span class="grow"></span><span class="soft small clip">{{ k.email }}</span>
                    @if (session.may('tickets.work')) {
                      <button type="button" class="btn-link small" (click)="person = { id: k.id, form: contacts.changeContact(c, k) }">
                        change<span class="visually-hidden"> {{ k.name }}</span>
                      </button>
                      <button type="button" class="btn-link small" (click)="archive(k)">
                        put away<span class="visually-hidden"> {{ k.name }}</span>
                      </button>
                    }
                  </p>
                  @if (person?.id === k.id) {
                    <dl-record-form [form]="person!.form" [lines]="linesOf(c.sites)" (saved)="done()" (closed)="done()" />
                  }
                }
              </div>
              <h2>Assets</h2>
              <p>
                <a [routerLink]="['/assets']" [queryParams]="{ clientId: c.id }">{{ (assets$ | async) ?? 0 }} assets</a>
              </p>
              <dl-story [story]="c.story" />
            </section>
          </div>
        </div>
      </div>
    }
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: 5fr 7fr;
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
    .people {
      max-height: 320px;
      overflow: auto;
    }
    .nowrap {
      white-space: nowrap;
    }
  `,
})
export class ClientPage {
  readonly clientId = input.required<string>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly address = inject(PageAddress);
  protected readonly session = inject(Session);
  private readonly id = new BehaviorSubject<string>('');
  private readonly again = new Subject<void>();
  protected editing: RecordForm<typeof clientFormSchema> | undefined;
  /** Which site and which contact is open for change; 'new' for one that is added. */
  protected site: { readonly id: string; readonly form: RecordForm<typeof siteFormSchema> } | undefined;
  protected person: { readonly id: string; readonly form: RecordForm<typeof contactFormSchema> } | undefined;
  protected readonly forms = clientForms();
  protected readonly lines = CLIENT_LINES;
  protected readonly contacts = contactForms();
  protected readonly siteLines = SITE_LINES;
  private lastLines: { readonly sites: readonly SiteWire[]; readonly lines: readonly Line[] } = { sites: [], lines: [] };
  private readonly which$ = combineLatest([
    this.id,
    merge(inject(Live).about('client', 'ticket', 'invoice'), this.again).pipe(startWith(undefined)),
  ]).pipe(
    map(([id]) => id),
    filter(Boolean),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  protected readonly client$ = loading(this.which$, (clientId) => this.api.call(clientRoutes.getClient, { params: { clientId } })).pipe(
    tap(
      (c) =>
        c.is === 'there' && this.address.show({ under: '/clients', param: 'clientId', number: String(c.value.number), name: c.value.name }),
    ),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  /** The address may name it by its number; what is read about it goes by its id. */
  private readonly read$ = this.client$.pipe(
    filter((c) => c.is === 'there'),
    map((c) => c.value.id),
  );
  protected readonly tickets$ = this.read$.pipe(
    switchMap((clientId) =>
      this.api.call(ticketRoutes.listTickets, { query: { clientId } }).pipe(
        map((a) => a.rows),
        catchError(() => of([])),
      ),
    ),
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
  );
  protected readonly assets$ = this.read$.pipe(
    switchMap((clientId) =>
      this.api.call(assetRoutes.listAssets, { query: { clientId, most: 1 } }).pipe(
        map((a) => a.count),
        catchError(() => of(0)),
      ),
    ),
  );

  constructor() {
    effect(() => this.id.next(this.clientId()));
  }

  protected retry(): void {
    this.again.next();
  }

  /** The same lines for the same sites, so that a form that is open is not drawn anew. */
  protected linesOf(sites: readonly SiteWire[]): readonly Line[] {
    if (this.lastLines.sites !== sites) this.lastLines = { sites, lines: contactLines(sites) };
    return this.lastLines.lines;
  }

  protected done(): void {
    this.site = undefined;
    this.person = undefined;
    this.again.next();
  }

  protected archive(contact: ContactWire & { readonly version: number }): void {
    const put = (version: number, archived: boolean) =>
      this.api.call(clientRoutes.archiveContact, { params: { contactId: contact.id }, version, body: { archived } });
    put(contact.version, true).subscribe({
      next: (done) => {
        this.toasts.done(`${contact.name} is put away`, () =>
          put(done.version, false).subscribe({ next: () => this.again.next(), error: (fault: unknown) => this.toasts.trouble(fault) }),
        );
        this.again.next();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
