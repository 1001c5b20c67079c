import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { catchError, of, switchMap } from 'rxjs';
import { accessRoutes, signInSchema, type PersonWire } from '@core/house';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Theme } from '../../shell/theme';
import { Field } from '../../ui/field';
import { FormState } from '../../ui/form-state';

/** Sign-in; in the demo also the page to enter as any of its people. */
@Component({
  selector: 'dl-enter-page',
  imports: [AsyncPipe, Field, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state.view$ | async;
    <main>
      <h1>
        <span class="mark" aria-hidden="true"><i></i><i></i><i></i><i></i></span>Drumline
      </h1>
      <p class="soft">Who needs us, who is free, what it cost, what it is worth.</p>
      @if (people$ | async; as people) {
        @if (people.length) {
          <section aria-labelledby="demo">
            <h2 id="demo">Enter the demo as</h2>
            <p class="soft small">Pellworth Harbour Systems, a made-up provider, on a Tuesday at twenty to eleven.</p>
            <div class="people">
              @for (person of people; track person.id) {
                <button type="button" class="panel" (click)="enter(person)">
                  <b>{{ person.name }}</b><span class="soft small">{{ person.role }}{{ person.grade ? ', ' + person.grade : '' }}</span>
                </button>
              }
            </div>
          </section>
        }
      }
      <section aria-labelledby="own">
        <h2 id="own">Sign in with your password</h2>
        <form (submit)="signIn($event)" novalidate>
          <dl-field
            label="Mail address"
            [value]="form?.values?.['email']"
            [error]="form?.errors?.['email']"
            (changed)="state.set('email', $event)"
          />
          <dl-field
            label="Password"
            kind="password"
            [value]="form?.values?.['password']"
            [error]="form?.errors?.['password']"
            (changed)="state.set('password', $event)"
          />
          @if (trouble) {
            <p class="late" role="alert">{{ trouble }}</p>
          }
          <button class="btn-main" [disabled]="form?.busy">Sign in</button>
          <p><a routerLink="/password">I have forgotten my password</a></p>
        </form>
      </section>
    </main>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      overflow: auto;
    }
    main {
      max-width: 760px;
      margin: 0 auto;
      padding: 48px 24px;
      display: grid;
      gap: 8px;
    }
    h1 {
      font-size: 30px;
      display: flex;
      gap: 12px;
      align-items: center;
    }
    .mark {
      display: inline-flex;
      gap: 3px;
      align-items: flex-end;
      height: 26px;
    }
    .mark i {
      width: 5px;
      background: var(--brass);
      height: 100%;
    }
    .mark i:nth-child(2) {
      height: 60%;
    }
    .mark i:nth-child(4) {
      height: 35%;
    }
    section {
      margin-top: 24px;
      display: grid;
      gap: 6px;
    }
    .people {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 8px;
      margin-top: 8px;
    }
    .people button {
      display: grid;
      gap: 1px;
      text-align: left;
      padding: 9px 12px;
      font: inherit;
      color: inherit;
      cursor: pointer;
    }
    .people button:hover {
      background: var(--wash);
      border-color: var(--brass);
    }
    form {
      display: grid;
      gap: 12px;
      max-width: 320px;
      justify-items: stretch;
    }
    form button {
      justify-self: start;
    }
  `,
})
export class EnterPage {
  readonly to = input<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly theme = inject(Theme);
  protected readonly state = new FormState(signInSchema, { email: '', password: '' });
  protected trouble = '';
  protected readonly people$ = this.api.call(accessRoutes.listDemoPeople, {}).pipe(
    switchMap(({ people }) => of(people)),
    catchError(() => of([] as PersonWire[])),
  );

  protected enter(person: PersonWire): void {
    this.api
      .call(accessRoutes.enterDemo, { body: { personId: person.id } })
      .pipe(switchMap(() => this.session.load()))
      .subscribe({ next: () => void this.router.navigateByUrl(this.to() ?? '/'), error: (fault: unknown) => this.fail(fault) });
  }

  protected signIn(event: Event): void {
    event.preventDefault();
    const body = this.state.check();
    if (!body) return;
    this.state.busy(true);
    this.api
      .call(accessRoutes.signIn, { body })
      .pipe(switchMap(() => this.session.load()))
      .subscribe({ next: () => void this.router.navigateByUrl(this.to() ?? '/'), error: (fault: unknown) => this.fail(fault) });
  }

  private fail(fault: unknown): void {
    this.trouble = problemOf(fault).detail;
    this.state.refused(fault);
  }
}
