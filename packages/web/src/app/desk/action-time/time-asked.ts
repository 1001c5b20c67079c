import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { forkJoin, map, startWith, Subject, type Observable } from 'rxjs';
import { actionTimeRoutes, deskSettingsRoutes, type KindRuleWire, TIMED_ACTIONS, type TimedAction } from '@core/desk';
import { houseRoutes } from '@core/house';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';

/** Which actions ask for their time, by kind; what may be chosen for it; and what work of a desk usually is. */
@Component({
  selector: 'dl-time-asked',
  imports: [AsyncPipe, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    @let may = session.may('setup.edit');
    <section aria-label="What asks for its time">
      <h2>What asks for its time</h2>
      <p class="soft small">
        What is ticked cannot be done without the time it took, by those who record time. Activities: none ticked is all.
      </p>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @let h = now.value;
        <table class="rows">
          <thead>
            <tr>
              <th>Kind</th>
              @for (a of actions; track a) {
                <th>{{ a }}</th>
              }
              <th>Activities that may be chosen</th>
            </tr>
          </thead>
          @for (k of h.kinds; track k.kind) {
            <tr>
              <td>{{ k.kind }}</td>
              @for (a of actions; track a) {
                <td>
                  <input
                    type="checkbox"
                    [attr.aria-label]="'A ' + a + ' on ' + k.kind + ' asks for its time'"
                    [disabled]="!may"
                    [checked]="k.asksTime.includes(a)"
                    (change)="ask(h.kinds, k, a)"
                  />
                </td>
              }
              <td class="acts">
                @for (a of h.activities; track a.id) {
                  <label class="small"
                    ><input
                      type="checkbox"
                      [attr.aria-label]="a.name + ' may be chosen on ' + k.kind"
                      [disabled]="!may"
                      [checked]="k.activityIds.includes(a.id)"
                      (change)="allow(h.kinds, k, a.id)"
                    />
                    {{ a.name }}</label
                  >
                }
              </td>
            </tr>
          }
        </table>
        <h3>What work of a desk usually is</h3>
        @for (d of h.desks; track d.id) {
          <p class="desk">
            <span>{{ d.name }}</span>
            <select
              #selectBox
              class="in"
              [attr.aria-label]="'Work of ' + d.name + ' usually is'"
              [disabled]="!may"
              (change)="usual(d.id, d.usualActivityId, selectBox.value || null)"
            >
              <option value="" [selected]="!d.usualActivityId">what each person does</option>
              @for (a of h.activities; track a.id) {
                <option [value]="a.id" [selected]="a.id === d.usualActivityId">{{ a.name }}</option>
              }
            </select>
          </p>
        }
      }
    </section>
  `,
  styles: `
    section {
      max-width: 980px;
      margin-bottom: 28px;
    }
    h3 {
      margin: 16px 0 4px;
    }
    .acts label {
      margin-right: 14px;
      white-space: nowrap;
    }
    .desk {
      display: grid;
      grid-template-columns: 160px 260px;
      align-items: center;
      margin: 4px 0;
    }
  `,
})
export class TimeAsked {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly actions = TIMED_ACTIONS;
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () =>
    forkJoin([this.api.call(houseRoutes.getHouse, {}), this.api.call(deskSettingsRoutes.getDeskSettings, {})]).pipe(
      map(([{ desks, activities }, { kinds }]) => ({ desks, activities, kinds })),
    ),
  );

  protected ask(all: readonly KindRuleWire[], k: KindRuleWire, action: TimedAction): void {
    const asksTime = k.asksTime.includes(action) ? k.asksTime.filter((a) => a !== action) : [...k.asksTime, action];
    this.setKind(all, { ...k, asksTime });
  }

  protected allow(all: readonly KindRuleWire[], k: KindRuleWire, activityId: Id<'activity'>): void {
    const activityIds = k.activityIds.includes(activityId) ? k.activityIds.filter((a) => a !== activityId) : [...k.activityIds, activityId];
    this.setKind(all, { ...k, activityIds });
  }

  private setKind(was: readonly KindRuleWire[], rule: KindRuleWire): void {
    const set = (r: KindRuleWire) => this.api.call(deskSettingsRoutes.setKinds, { body: { kinds: [r] } });
    this.run(set(rule), () => set(was.find((k) => k.kind === rule.kind)!));
  }

  protected usual(deskId: Id<'desk'>, was: string | null, activityId: Id<'activity'> | null): void {
    const set = (to: string | null) => this.api.call(actionTimeRoutes.setUsualActivity, { params: { deskId }, body: { activityId: to } });
    this.run(set(activityId), () => set(was));
  }

  private run(command: Observable<unknown>, inverse?: () => Observable<unknown>): void {
    command.subscribe({
      next: () => {
        this.toasts.done('Saved; it holds from now on', inverse && (() => this.run(inverse())));
        this.again.next();
      },
      error: (fault: unknown) => (this.toasts.trouble(fault), this.again.next()),
    });
  }
}
