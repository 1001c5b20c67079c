import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { accessRoutes, askForResetSchema, resetPasswordSchema } from '@core/house';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Field } from '../../ui/field';
import { FormState } from '../../ui/form-state';

/** Who has forgotten the password asks for a link here, and sets a new one where the link leads. */
@Component({
  selector: 'dl-password-page',
  imports: [AsyncPipe, Field, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <h1>Set a new password</h1>
      @if (done(); as words) {
        <p role="status">{{ words }}</p>
        <p><a routerLink="/enter">To the sign-in</a></p>
      } @else if (token()) {
        @let form = set.view$ | async;
        <form (submit)="save($event)" novalidate>
          <dl-field
            label="New password, at least 12 characters"
            kind="password"
            [value]="form?.values?.['password']"
            [error]="form?.errors?.['password']"
            (changed)="set.set('password', $event)"
          />
          @if (trouble()) {
            <p class="late" role="alert">{{ trouble() }}</p>
          }
          <button class="btn-main" [disabled]="form?.busy">Set the password</button>
        </form>
        @if (trouble()) {
          <p><a routerLink="/password">Have a newer link mailed</a></p>
        }
      } @else {
        @let form = ask.view$ | async;
        <p class="soft">A link comes by mail. It works once, for a day.</p>
        <form (submit)="send($event)" novalidate>
          <dl-field
            label="Mail address"
            [value]="form?.values?.['email']"
            [error]="form?.errors?.['email']"
            (changed)="ask.set('email', $event)"
          />
          @if (trouble()) {
            <p class="late" role="alert">{{ trouble() }}</p>
          }
          <button class="btn-main" [disabled]="form?.busy">Mail me a link</button>
        </form>
        <p><a routerLink="/enter">Back to the sign-in</a></p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 420px;
      margin: 0 auto;
      padding: 64px 24px;
      display: grid;
      gap: 12px;
    }
    form {
      display: grid;
      gap: 12px;
    }
    form button {
      justify-self: start;
    }
  `,
})
export class PasswordPage {
  /** What the link carries. */
  readonly token = input<string>();
  private readonly api = inject(Api);
  protected readonly ask = new FormState(askForResetSchema, { email: '' });
  protected readonly set = new FormState(resetPasswordSchema, { token: '', password: '' });
  protected readonly did = signal<'asked' | 'set' | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly done = computed(() => {
    const did = this.did();
    if (!did) return undefined;
    return did === 'set'
      ? 'Your new password holds. Your other sessions have ended.'
      : 'If we know this address, a link is on its way to it. It works once, for a day.';
  });

  protected send(event: Event): void {
    event.preventDefault();
    const body = this.ask.check();
    if (!body) return;
    this.ask.busy(true);
    this.api.call(accessRoutes.askForReset, { body }).subscribe({
      next: () => this.did.set('asked'),
      error: (fault: unknown) => this.fail(this.ask, fault),
    });
  }

  protected save(event: Event): void {
    event.preventDefault();
    this.set.set('token', this.token() ?? '');
    const body = this.set.check();
    if (!body) return;
    this.set.busy(true);
    this.api.call(accessRoutes.resetPassword, { body }).subscribe({
      next: () => this.did.set('set'),
      error: (fault: unknown) => this.fail(this.set, fault),
    });
  }

  private fail(state: { refused(fault: unknown): void }, fault: unknown): void {
    this.trouble.set(problemOf(fault).detail);
    state.refused(fault);
  }
}
