import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { map, startWith, Subject } from 'rxjs';
import { approvalRoutes, longTimeSchema } from '@core/time';
import { houseRoutes } from '@core/house';
import { formatMinutes } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { loading } from '../../ui/loading';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { StateNote } from '../../ui/state-note';

/** From how long on recorded time makes a manager look twice. */
@Component({
  selector: 'dl-long-time',
  imports: [AsyncPipe, RecordFormPanel, StateNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section aria-label="Long time">
      <h2>Long time</h2>
      <p class="soft small">
        What is longer stands out when time is approved, as does what lies over other time, has no note or is out of hours.
      </p>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        <p class="line">
          <span
            >Longer than <b>{{ now.value.initial['duration'] }}</b></span
          >
          @if (session.may('setup.edit') && !open()) {
            <button type="button" class="btn-link" (click)="open.set(true)">
              change<span class="visually-hidden"> what is long</span>
            </button>
          }
        </p>
        @if (open()) {
          <dl-record-form [form]="now.value" [lines]="lines" (saved)="done()" (closed)="open.set(false)" />
        }
      }
    </section>
  `,
  styles: `
    section {
      max-width: 900px;
      margin-bottom: 28px;
    }
    .line {
      display: flex;
      justify-content: space-between;
      padding: 7px 0;
      border-bottom: 1px solid var(--rule);
    }
  `,
})
export class LongTime {
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly open = signal(false);
  protected readonly lines: readonly Line[] = [{ name: 'duration', label: 'Longer than', kind: 'duration' }];
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () =>
    this.api.call(houseRoutes.getHouse, {}).pipe(
      map(({ longMinutes }): RecordForm<typeof longTimeSchema> => ({
        schema: longTimeSchema,
        initial: { duration: formatMinutes(longMinutes) },
        draft: 'long-time',
        does: 'Save',
        save: (body) => this.api.call(approvalRoutes.setLongTime, { body }).pipe(map(() => ({ id: 'long-time' }))),
      })),
    ),
  );

  protected done(): void {
    this.open.set(false);
    this.again.next();
  }
}
