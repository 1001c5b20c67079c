import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { forkJoin, map, merge, of, shareReplay, startWith, Subject, timer } from 'rxjs';
import { accessRoutes, houseRoutes, jobRoutes, type JobWire, newTokenSchema, type TokenWire } from '@core/house';
import { deskSettingsRoutes, promiseRoutes, ticketRoutes } from '@core/desk';
import { Api } from './api';
import { ClosingSettingsForm } from '../desk/tickets/closing-settings';
import { Session } from './session';
import { Toasts } from './toasts';
import { Field } from '../ui/field';
import { FormState } from '../ui/form-state';
import { loading } from '../ui/loading';
import { AtPipe } from '../ui/pipes';
import { Integrity } from '../desk/umbrellas/integrity';
import { StateNote } from '../ui/state-note';
import { SETUP_PARTS } from '../house/house/setup-parts';

const JOBS_EVERY_MS = 3000;
const JOB_WORDS: Readonly<Record<string, string>> = {
  'send-message': 'a reply to a client',
  'deliver-invoice': 'mailing an invoice',
  'push-invoice': 'booking an invoice in the ledger',
  'pull-payments': 'asking the ledger for payments',
};

/** Work that waits, API tokens, and what holds for the provider: calendars, promises, rates. */
@Component({
  selector: 'dl-setup-page',
  imports: [AsyncPipe, ClosingSettingsForm, Field, Integrity, AtPipe, RouterLink, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let tokens = tokens$ | async;
    @let form = token.view$ | async;
    @let house = house$ | async;
    <div class="page">
      <header class="page-head"><h1>Setup</h1></header>
      <div class="page-body">
        @if (session.may('setup.read')) {
          @let jobs = jobs$ | async;
          <section aria-label="Work that waits">
            <h2>Work that waits</h2>
            @if (jobs && jobs.is !== 'there') {
              <dl-state-note [state]="jobs" (again)="again.next()" />
            } @else if (jobs) {
              @for (j of jobs.value; track j.id) {
                <div class="job" [class.failed]="j.trouble">
                  <span
                    ><b>{{ words(j) }}</b>
                    <span class="soft small"
                      >number {{ j.id }}, {{ j.running ? 'runs now' : 'next at ' + clock(j.runAt) }}, tried {{ j.attempts }} of
                      {{ j.mostAttempts }} times</span
                    ></span
                  >
                  @if (j.trouble) {
                    <span class="late small">{{ j.trouble }}</span>
                  }
                  @if (session.may('setup.edit') && !j.running) {
                    <button type="button" class="btn-plain" (click)="retryJob(j)">Try now</button>
                  }
                </div>
              } @empty {
                <p class="soft">Nothing waits: every mail has left, and every invoice is delivered and booked.</p>
              }
            }
          </section>
        }
        <section aria-label="API tokens">
          <h2>API tokens</h2>
          <p class="soft small">
            A script with a token may do what you may. The API is described at
            <a href="/api/openapi.json" target="_blank">/api/openapi.json</a>.
          </p>
          @if (fresh) {
            <p class="wash secret" role="status">
              Copy it now, it is shown once: <code class="mono">{{ fresh }}</code>
            </p>
          }
          <form (submit)="make($event)" novalidate>
            <dl-field
              label="What is it for?"
              [value]="form?.values?.['label']"
              [error]="form?.errors?.['label']"
              (changed)="token.set('label', $event)"
            />
            <button class="btn-plain" [disabled]="form?.busy">Make a token</button>
          </form>
          @if (tokens && tokens.is === 'there') {
            @for (t of tokens.value; track t.id) {
              <div class="job">
                <span
                  ><b>{{ t.label }}</b>
                  <span class="soft small"
                    >{{ t.person }}, made {{ t.createdAt | at }}{{ t.lastUsedAt ? ', last used ' : ', never used'
                    }}{{ t.lastUsedAt | at }}</span
                  ></span
                >
                @if (t.revokedAt) {
                  <span class="soft small">revoked {{ t.revokedAt | at }}</span>
                } @else {
                  <button type="button" class="btn-link" (click)="revoke(t)">Revoke</button>
                }
              </div>
            }
          }
        </section>
        @if (house) {
          <section aria-label="Before tickets move">
            <h2>Before tickets move</h2>
            <dl-closing-settings [settings]="house.closing" />
          </section>
          @if (session.may('setup.read')) {
            <section aria-label="Umbrellas and their members">
              <h2>Umbrellas and their members</h2>
              <dl-integrity />
            </section>
          }
          @for (part of parts; track part.link) {
            @if (!part.needs || session.may(part.needs)) {
              <section [attr.aria-label]="part.heading">
                <h2>{{ part.heading }}</h2>
                <p>
                  <a [routerLink]="part.link">{{ part.says }}</a>
                  @if (part.count) {
                    @if ((counts$ | async)?.[part.count]; as waiting) {
                      <span class="late small">{{ waiting }} put aside that nobody has looked at</span>
                    }
                  }
                </p>
              </section>
            }
          }
          @if (house.promises.length) {
            <section aria-label="Promises">
              <h2>Promises</h2>
              @for (p of house.promises; track p.id) {
                <p class="job">
                  <span
                    ><b>{{ p.name }}</b> <span class="soft small">version {{ p.version }}</span></span
                  >
                </p>
              }
              <p><a routerLink="/setup/promises">See, change and try out the promises</a></p>
            </section>
          }
          <section aria-label="Calendars">
            <h2>Calendars</h2>
            <p><a routerLink="/setup/calendars">See and change hours, holidays, closures and other hours</a></p>
          </section>
          @if (house.rates) {
            <section aria-label="Rates">
              <h2>Rates an hour</h2>
              <table class="rows">
                <thead>
                  <tr>
                    <th>Level</th>
                    <th>Client</th>
                    <th>Grade</th>
                    <th>Activity</th>
                    <th>Time band</th>
                    <th class="num">Rate</th>
                  </tr>
                </thead>
                @for (r of house.rates; track $index) {
                  <tr>
                    <td>{{ r.level }}</td>
                    <td>{{ r.client }}</td>
                    <td>{{ r.grade }}</td>
                    <td>{{ r.activity }}</td>
                    <td>{{ r.band }}</td>
                    <td class="num">{{ r.rate }}</td>
                  </tr>
                }
              </table>
            </section>
          }
        }
      </div>
    </div>
  `,
  styles: `
    section {
      max-width: 860px;
      margin-bottom: 28px;
    }
    h2 {
      margin-bottom: 6px;
    }
    h3 {
      margin: 12px 0 4px;
    }
    .job {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px 16px;
      padding: 7px 0;
      border-bottom: 1px solid var(--rule);
      align-items: center;
    }
    .job .late {
      grid-column: 1;
      grid-row: 2;
    }
    .job button {
      grid-row: 1;
      grid-column: 2;
    }
    form {
      display: flex;
      gap: 12px;
      align-items: end;
      margin: 8px 0;
      max-width: 460px;
    }
    form dl-field {
      flex: 1;
    }
    .secret {
      padding: 8px 12px;
      border-radius: 4px;
      overflow-wrap: anywhere;
    }
    .hours {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
  `,
})
export class SetupPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly token = new FormState(newTokenSchema, { label: '' });
  protected readonly parts = SETUP_PARTS;
  protected readonly counts$ = this.api.call(ticketRoutes.getCounts, {});
  protected fresh = '';
  protected readonly jobs$ = this.session.may('setup.read')
    ? loading(merge(timer(0, JOBS_EVERY_MS), this.again), () =>
        this.api.call(jobRoutes.listJobs, {}).pipe(map((a) => a.jobs.filter((j) => j.task !== 'pull-payments' || j.trouble))),
      )
    : of(undefined);
  protected readonly tokens$ = loading(this.again.pipe(startWith(undefined)), () =>
    this.api.call(accessRoutes.listTokens, {}).pipe(map((a) => a.tokens)),
  );
  protected readonly house$ = forkJoin([
    this.api.call(houseRoutes.getHouse, {}),
    this.api.call(deskSettingsRoutes.getDeskSettings, {}),
    this.session.may('setup.read') ? this.api.call(promiseRoutes.listPromises, {}) : of({ promises: [] }),
  ]).pipe(
    map(([house, { closing }, { promises }]) => ({ ...house, closing, promises })),
    shareReplay(1),
  );

  protected words(job: JobWire): string {
    return JOB_WORDS[job.task] ?? job.task;
  }

  /** Jobs run by the machine's clock, not by the demo's. */
  protected clock(at: string): string {
    return new Date(at).toLocaleTimeString('en-IE', { hour12: false });
  }

  protected retryJob(job: JobWire): void {
    this.api
      .call(jobRoutes.retryJob, { params: { jobId: job.id } })
      .subscribe({ next: () => this.again.next(), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  protected make(event: Event): void {
    event.preventDefault();
    const body = this.token.check();
    if (!body) return;
    this.token.busy(true);
    this.api.call(accessRoutes.createToken, { body }).subscribe({
      next: (done) => {
        this.fresh = done.secret;
        this.token.set('label', '');
        this.token.saved();
        this.again.next();
      },
      error: (fault: unknown) => (this.token.refused(fault), this.toasts.trouble(fault)),
    });
  }

  protected revoke(token: TokenWire): void {
    this.api
      .call(accessRoutes.revokeToken, { params: { tokenId: token.id } })
      .subscribe({ next: () => this.again.next(), error: (fault: unknown) => this.toasts.trouble(fault) });
  }
}
