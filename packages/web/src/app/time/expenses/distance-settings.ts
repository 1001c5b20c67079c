import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { map, startWith, Subject } from 'rxjs';
import { DISTANCE_UNITS, distanceSettingsSchema, expenseRoutes, type DistanceSettings } from '@core/time';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { loading } from '../../ui/loading';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';
import { UnitPricePipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { isoDay } from '../../ui/time-format';

/** What distances are measured in, charged at and paid back at. */
@Component({
  selector: 'dl-distance-settings',
  imports: [AsyncPipe, RecordFormPanel, StateNote, UnitPricePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let now = now$ | async;
    <section aria-label="Distances">
      <h2>Distances</h2>
      <p class="soft small">
        What a way to a client is charged at, and what its technician gets back for the own car. Time recorded from now on goes by it.
      </p>
      @if (now && now.is !== 'there') {
        <dl-state-note [state]="now" (again)="again.next()" />
      } @else if (now) {
        @let d = now.value.distance;
        <p class="line">
          <span
            >In <b>{{ d.unit }}</b>: <b>{{ d.rate | unitPrice: now.value.currency }}</b> {{ d.unit === 'km' ? 'a km' : 'a mile' }} to the
            client, <b>{{ d.paidBack | unitPrice: now.value.currency }}</b> paid back</span
          >
          @if (session.may('setup.edit') && !open()) {
            <button type="button" class="btn-link" (click)="open.set(true)">change<span class="visually-hidden"> distances</span></button>
          }
        </p>
        @if (open()) {
          <dl-record-form [form]="now.value.form" [lines]="lines" (saved)="done()" (closed)="open.set(false)" />
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
export class DistanceSettingsForm {
  private readonly api = inject(Api);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly open = signal(false);
  protected readonly lines: readonly Line[] = [
    { name: 'unit', label: 'Measured in', kind: 'choice', options: DISTANCE_UNITS.map((u) => ({ value: u, label: u })) },
    { name: 'rate', label: 'To the client, for one of it', kind: 'number' },
    { name: 'paidBack', label: 'Paid back, for one of it', kind: 'number' },
  ];
  protected readonly now$ = loading(this.again.pipe(startWith(undefined)), () => {
    const day = isoDay(this.session.now(), this.session.zone);
    return this.api
      .call(expenseRoutes.listExpenses, { query: { from: day, to: day } })
      .pipe(map(({ distance, currency }) => ({ form: this.formOf(distance), distance, currency })));
  });

  private formOf(distance: DistanceSettings): RecordForm<typeof distanceSettingsSchema> {
    return {
      schema: distanceSettingsSchema,
      initial: distance,
      draft: 'distances',
      does: 'Save',
      save: (body) => this.api.call(expenseRoutes.setDistances, { body }).pipe(map(() => ({ id: 'distances' }))),
    };
  }

  protected done(): void {
    this.open.set(false);
    this.again.next();
  }
}
