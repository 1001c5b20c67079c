import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { forkJoin, map, startWith, Subject } from 'rxjs';
import { deskSettingsRoutes, type KindRuleWire, promiseRoutes } from '@core/desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';

/** What holds for each kind of ticket: whether it is offered, and its promise where the client has none of their own. */
@Component({
  selector: 'dl-kind-rules',
  imports: [AsyncPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section aria-label="Kinds">
      <h2>Kinds</h2>
      <p class="soft small">
        A kind that is not offered can no longer be chosen. Its promise holds where the client has none of their own: contract, then client,
        then kind, then the house. Closing checks by kind stand in Setup.
      </p>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        <table class="rows">
          <thead>
            <tr>
              <th>Kind</th>
              <th>Offered</th>
              <th>Promise</th>
            </tr>
          </thead>
          @for (k of now.value.kinds; track k.kind) {
            <tr>
              <td>{{ k.kind }}</td>
              <td>
                <input
                  type="checkbox"
                  [attr.aria-label]="k.kind + ' is offered'"
                  [disabled]="!session.may('setup.edit')"
                  [checked]="k.offered"
                  (change)="set(now.value.kinds, { ...k, offered: !k.offered })"
                />
              </td>
              <td>
                <select
                  #selectBox
                  class="in"
                  [attr.aria-label]="'Promise of ' + k.kind"
                  [disabled]="!session.may('setup.edit')"
                  (change)="set(now.value.kinds, { ...k, promiseId: selectBox.value || null })"
                >
                  <option value="" [selected]="!k.promiseId">that of the house</option>
                  @for (p of now.value.promises; track p.id) {
                    <option [value]="p.id" [selected]="p.id === k.promiseId">{{ p.name }}</option>
                  }
                </select>
              </td>
            </tr>
          }
        </table>
      }
    </section>
  `,
  styles: `
    section {
      max-width: 900px;
      margin-bottom: 28px;
    }
  `,
})
export class KindRules {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () =>
    forkJoin([this.api.call(deskSettingsRoutes.getDeskSettings, {}), this.api.call(promiseRoutes.listPromises, {})]).pipe(
      map(([{ kinds }, { promises }]) => ({ kinds, promises })),
    ),
  );

  protected set(was: readonly KindRuleWire[], rule: KindRuleWire, undo = true): void {
    this.api.call(deskSettingsRoutes.setKinds, { body: { kinds: [rule] } }).subscribe({
      next: () => {
        const before = was.find((k) => k.kind === rule.kind)!;
        this.toasts.done('Saved; it holds for tickets from now on', undo ? () => this.set(was, before, false) : undefined);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.toasts.trouble(fault);
        this.again.next();
      },
    });
  }
}
