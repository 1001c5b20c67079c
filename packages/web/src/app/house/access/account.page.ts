import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { map } from 'rxjs';
import { accessRoutes, changePasswordSchema } from '@core/house';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { Field } from '../../ui/field';
import { FormState } from '../../ui/form-state';
import { AtPipe } from '../../ui/pipes';

/** One's own password; who keeps Setup also lets others set a new one. */
@Component({
  selector: 'dl-account-page',
  imports: [AsyncPipe, AtPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state.view$ | async;
    <div class="page">
      <header class="page-head"><h1>Your account</h1></header>
      <div class="page-body">
        <section aria-label="Your password">
          <h2>Your password</h2>
          <p class="soft small">Where you are signed in elsewhere, you are signed out.</p>
          <form (submit)="change($event)" novalidate>
            <dl-field
              label="Password now"
              kind="password"
              [value]="form?.values?.['current']"
              [error]="form?.errors?.['current']"
              (changed)="state.set('current', $event)"
            />
            <dl-field
              label="New password, at least 12 characters"
              kind="password"
              [value]="form?.values?.['password']"
              [error]="form?.errors?.['password']"
              (changed)="state.set('password', $event)"
            />
            @if (trouble()) {
              <p class="late" role="alert">{{ trouble() }}</p>
            }
            <button class="btn-main" [disabled]="form?.busy">Change the password</button>
          </form>
        </section>
        @if (session.may('setup.edit')) {
          <section aria-label="Somebody else's password">
            <h2>Somebody else has forgotten theirs</h2>
            <p class="soft small">Make a link and give it to them. It works once, for a day.</p>
            <form (submit)="make($event)">
              <dl-field label="Who" kind="choice" [options]="(people$ | async) ?? []" [value]="who()" (said)="who.set($event)" />
              <button class="btn-plain" [disabled]="!who()">Make a link</button>
            </form>
            @if (link(); as made) {
              <p class="wash secret" role="status">
                Copy it now, it is shown once, and works until {{ made.until | at }}: <code class="mono">{{ made.address }}</code>
              </p>
            }
          </section>
        }
      </div>
    </div>
  `,
  styles: `
    section {
      max-width: 520px;
      margin-bottom: 32px;
      display: grid;
      gap: 8px;
    }
    form {
      display: grid;
      gap: 12px;
    }
    form button {
      justify-self: start;
    }
    .secret {
      padding: 10px 12px;
      overflow-wrap: anywhere;
    }
    .secret code {
      color: var(--ink);
    }
  `,
})
export class AccountPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly state = new FormState(changePasswordSchema, { current: '', password: '' });
  protected readonly trouble = signal('');
  protected readonly who = signal('');
  protected readonly link = signal<{ readonly address: string; readonly until: string } | undefined>(undefined);
  protected readonly people$ = this.api
    .call(accessRoutes.listPeople, {})
    .pipe(map(({ people }) => people.map((p) => ({ value: p.id, label: p.name }))));

  protected change(event: Event): void {
    event.preventDefault();
    const body = this.state.check();
    if (!body) return;
    this.state.busy(true);
    this.api.call(accessRoutes.changePassword, { body }).subscribe({
      next: ({ ended }) => {
        this.trouble.set('');
        this.state.busy(false);
        for (const name of ['current', 'password'] as const) this.state.set(name, '');
        this.toasts.done(ended ? `The new password holds; ${ended} other sessions ended` : 'The new password holds');
      },
      error: (fault: unknown) => {
        this.trouble.set(problemOf(fault).detail);
        this.state.refused(fault);
      },
    });
  }

  protected make(event: Event): void {
    event.preventDefault();
    this.api.call(accessRoutes.makeResetLink, { params: { personId: this.who() } }).subscribe({
      next: (made) => this.link.set(made),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
