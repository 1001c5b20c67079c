import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import { BehaviorSubject, catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { approvalRoutes, changeTimeSchema, type EntryWire } from '@core/time';
import { houseRoutes } from '@core/house';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { EffectNote } from '../../ui/effect-note';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

const WAIT_MS = 150;

/** Changes somebody's time before it is approved; why stands on record, and they are told. */
@Component({
  selector: 'dl-change-time',
  imports: [AsyncPipe, EffectNote, RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form(); as f) {
      <dl-record-form [form]="f" [lines]="lines" (values)="values.next($event)" (saved)="saved.emit()" (closed)="closed.emit()">
        @if (effect$ | async; as effect) {
          <p class="effect" role="status">
            <span class="soft">{{ entry().effect.sentence }}, then</span>
            <dl-effect [effect]="effect" of="what this time comes to once it is changed" />
          </p>
        }
      </dl-record-form>
    }
  `,
  styles: `
    .effect {
      margin: 10px 0 0;
    }
  `,
})
export class ChangeTime implements OnInit {
  readonly entry = input.required<EntryWire>();
  readonly saved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly form = signal<RecordForm<typeof changeTimeSchema> | undefined>(undefined);
  protected lines: readonly Line[] = [];
  protected readonly values = new BehaviorSubject<Readonly<Record<string, unknown>>>({});
  protected readonly effect$ = this.values.pipe(
    map(({ startsAt, duration, activityId, billable }) => previewed({ startsAt, duration, activityId, billable })),
    debounceTime(WAIT_MS),
    switchMap((body) =>
      body
        ? this.api.call(approvalRoutes.previewChangeOf, { params: { entryId: this.entry().id }, body }).pipe(
            map((a) => a.effect),
            catchError(() => of(undefined)),
          )
        : of(undefined),
    ),
  );

  ngOnInit(): void {
    this.api.call(houseRoutes.getHouse, {}).subscribe({
      next: ({ activities }) => {
        this.lines = [
          { name: 'startsAt', label: 'Began at', kind: 'moment' },
          { name: 'duration', label: 'How long', kind: 'duration' },
          { name: 'activityId', label: 'How', kind: 'choice', options: activities.map((a) => ({ value: a.id, label: a.name })) },
          { name: 'note', label: 'Note', wide: true },
          { name: 'billable', label: 'Billable', kind: 'yes' },
          { name: 'reason', label: 'Why it is not billable', when: (v) => v['billable'] === false },
          { name: 'because', label: 'Why you change it', wide: true },
        ];
        this.form.set(this.formOf(this.entry()));
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  private formOf(e: EntryWire): RecordForm<typeof changeTimeSchema> {
    return {
      schema: changeTimeSchema,
      initial: { ...e, duration: String(e.minutes), because: '' },
      draft: `change-time.${e.id}`,
      does: 'Change it',
      version: e.version,
      save: (body, version) => this.api.call(approvalRoutes.changeTimeOf, { params: { entryId: e.id }, version: version!, body }),
    };
  }
}

const previewSchema = approvalRoutes.previewChangeOf.body;
/** What decides what it does, as far as it can be read by now. */
function previewed(typed: Readonly<Record<string, unknown>>) {
  return previewSchema.isValidSync(typed) ? previewSchema.cast(typed) : undefined;
}
