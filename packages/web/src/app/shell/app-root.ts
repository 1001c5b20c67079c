import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Outage } from './outage';
import { ToastList } from './toast-list';

@Component({
  selector: 'dl-app',
  imports: [RouterOutlet, AsyncPipe, ToastList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (outage.problem$ | async; as problem) {
      <main class="outage" role="alert">
        <h1>{{ problem.title }}</h1>
        <p>{{ problem.detail }}</p>
        <p class="soft">This page goes on by itself.</p>
      </main>
    }
    <router-outlet />
    <dl-toast-list />
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
    }
    .outage {
      max-width: 560px;
      margin: 15vh auto 0;
      display: grid;
      gap: 12px;
      padding: 24px;
    }
  `,
})
export class AppRoot {
  protected readonly outage = inject(Outage);
}
