import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BehaviorSubject, catchError, combineLatest, filter, map, merge, of, shareReplay, startWith, Subject, switchMap } from 'rxjs';
import { assetRoutes } from '@core/assets';
import { clientRoutes, contactFormSchema } from '@core/clients';
import { invoiceRoutes } from '@core/invoices';
import { ticketRoutes } from '@core/tickets';
import { Api } from '../shell/api';
import { Live } from '../shell/live';
import { Session } from '../shell/session';
import { Toasts } from '../shell/toasts';
import { ArrowRows } from '../ui/arrow-rows';
import { Field } from '../ui/field';
import { FormState } from '../ui/form-state';
import { loading } from '../ui/loading';
import { AtPipe, DatePipe, MoneyPipe } from '../ui/pipes';
import { StateNote } from '../ui/state-note';
import { ClientFormPanel } from './client-form';

/** Who they are, what is open, what they have and what they were billed. */
@Component({
  selector: 'dl-client-page',
  imports: [AsyncPipe, RouterLink, ArrowRows, Field, AtPipe, DatePipe, MoneyPipe, StateNote, ClientFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = client$ | async;
    @let form = contact.view$ | async;
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
          @if (session.may('clients.edit')) {
            <button type="button" class="btn-plain" (click)="editing = !editing">Change</button>
          }
        </header>
        <div class="page-body">
          @if (editing) {
            <dl-client-form [client]="c" (saved)="editing = false; retry()" (closed)="editing = false; retry()" />
          }
          <div class="columns">
            <section>
              <dl class="facts">
                <dt>Address</dt>
                <dd>{{ c.street }}, {{ c.postcode }} {{ c.city }}, {{ c.country }}</dd>
                <dt>Time zone</dt>
                <dd>{{ c.zone }}</dd>
                <dt>Domains</dt>
                <dd>{{ c.domains }}</dd>
                <dt>Invoices to</dt>
                <dd>{{ c.invoiceEmail }}, {{ c.paymentDays }} days{{ c.taxExempt ? ', exempt from tax' : '' }}</dd>
              </dl>
              <h2>Sites</h2>
              @for (s of c.sites; track s.id) {
                <p class="line">
                  <b>{{ s.name }}</b> <span class="soft small">{{ s.street }}, {{ s.city }}</span>
                </p>
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
              <h2>Contacts <button type="button" class="btn-link small" (click)="adding = !adding">add one</button></h2>
              @if (adding) {
                <form class="wash" (submit)="addContact($event, c.id)" novalidate>
                  <div class="form">
                    <dl-field
                      label="Name"
                      [value]="form?.values?.['name']"
                      [error]="form?.errors?.['name']"
                      (changed)="contact.set('name', $event)"
                    />
                    <dl-field
                      label="Mail address"
                      [value]="form?.values?.['email']"
                      [error]="form?.errors?.['email']"
                      (changed)="contact.set('email', $event)"
                    />
                    <dl-field
                      label="Phone"
                      placeholder="+353 20 91"
                      [value]="form?.values?.['phone']"
                      [error]="form?.errors?.['phone']"
                      (changed)="contact.set('phone', $event || null)"
                    />
                    <dl-field
                      label="What they do"
                      [value]="form?.values?.['title']"
                      [error]="form?.errors?.['title']"
                      (changed)="contact.set('title', $event || null)"
                    />
                    <dl-field
                      kind="yes"
                      label="Priority contact: raises a ticket one level"
                      [value]="form?.values?.['priority']"
                      (changed)="contact.set('priority', $event)"
                    />
                  </div>
                  <button class="btn-main" [disabled]="form?.busy">Add the contact</button>
                </form>
              }
              <div class="people" tabindex="0" role="group" aria-label="Contacts">
                @for (k of c.contacts; track k.id) {
                  <p class="line">
                    <span class="clip"
                      ><b>{{ k.name }}</b> <span class="soft small">{{ k.title }}{{ k.priority ? ' · priority contact' : '' }}</span></span
                    ><span class="grow"></span><span class="soft small clip">{{ k.email }}</span>
                  </p>
                }
              </div>
              <h2>Assets</h2>
              <p>
                <a [routerLink]="['/assets']" [queryParams]="{ clientId: c.id }">{{ (assets$ | async)?.length ?? 0 }} assets</a>
              </p>
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
    form.wash {
      padding: 12px;
      border-radius: 4px;
      display: grid;
      gap: 10px;
      justify-items: start;
    }
    form .form {
      width: 100%;
    }
  `,
})
export class ClientPage {
  readonly clientId = input.required<string>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  private readonly id = new BehaviorSubject<string>('');
  private readonly again = new Subject<void>();
  protected editing = false;
  protected adding = false;
  protected readonly contact = new FormState(contactFormSchema, { priority: false, phone: null, title: null, siteId: null });
  private readonly which$ = combineLatest([
    this.id,
    merge(inject(Live).about('client', 'ticket', 'invoice'), this.again).pipe(startWith(undefined)),
  ]).pipe(
    map(([id]) => id),
    filter(Boolean),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  protected readonly client$ = loading(this.which$, (clientId) => this.api.call(clientRoutes.getClient, { params: { clientId } })).pipe(
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  protected readonly tickets$ = this.which$.pipe(
    switchMap((clientId) =>
      this.api.call(ticketRoutes.listTickets, { query: { clientId } }).pipe(
        map((a) => a.tickets),
        catchError(() => of([])),
      ),
    ),
  );
  protected readonly invoices$ = this.which$.pipe(
    switchMap((clientId) =>
      this.session.may('invoices.read')
        ? this.api.call(invoiceRoutes.listInvoices, { query: { clientId } }).pipe(
            map((a) => a.invoices),
            catchError(() => of([])),
          )
        : of([]),
    ),
  );
  protected readonly assets$ = this.which$.pipe(
    switchMap((clientId) =>
      this.api.call(assetRoutes.listAssets, { query: { clientId } }).pipe(
        map((a) => a.assets),
        catchError(() => of([])),
      ),
    ),
  );

  constructor() {
    effect(() => this.id.next(this.clientId()));
  }

  protected retry(): void {
    this.again.next();
  }

  protected addContact(event: Event, clientId: string): void {
    event.preventDefault();
    const body = this.contact.check();
    if (!body) return;
    this.contact.busy(true);
    this.api.call(clientRoutes.addContact, { params: { clientId }, body }).subscribe({
      next: () => {
        this.contact.saved();
        this.adding = false;
        this.toasts.done(`${body.name} added`);
        this.again.next();
      },
      error: (fault: unknown) => (this.contact.refused(fault), this.toasts.trouble(fault)),
    });
  }
}
