import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, type OnInit } from '@angular/core';
import { BehaviorSubject, catchError, debounceTime, distinctUntilChanged, map, of, switchMap } from 'rxjs';
import { approvalRoutes, correctionFormSchema, type EntryWire } from '@core/time';
import { parseMinutes } from '@core/ground';
import { Api } from '../../shell/api';
import { EffectNote } from '../../ui/effect-note';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

const WAIT_MS = 150;

/** Approved time is locked: what is wrong with it is put right by a row of its own, which shows. */
@Component({
  selector: 'dl-correct-time',
  imports: [AsyncPipe, EffectNote, RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form) {
      <dl-record-form [form]="form" [lines]="lines" (values)="values.next($event)" (saved)="saved.emit()" (closed)="closed.emit()">
        @if (effect$ | async; as effect) {
          <p class="effect" role="status"><dl-effect [effect]="effect" of="what this correction comes to" /></p>
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
export class CorrectTime implements OnInit {
  readonly entry = input.required<Pick<EntryWire, 'id' | 'minutes'>>();
  readonly saved = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  protected form: RecordForm<typeof correctionFormSchema> | undefined;
  protected readonly lines: readonly Line[] = [
    { name: 'duration', label: 'How long it really was; 0 takes it all away', kind: 'duration' },
    { name: 'reason', label: 'Why it is corrected', wide: true },
  ];

  protected readonly values = new BehaviorSubject<Readonly<Record<string, unknown>>>({});
  protected readonly effect$ = this.values.pipe(
    map((v) => String(v['duration'] ?? '').trim()),
    distinctUntilChanged(),
    debounceTime(WAIT_MS),
    switchMap((duration) =>
      parseMinutes(duration) === undefined
        ? of(undefined)
        : this.api.call(approvalRoutes.previewCorrection, { params: { entryId: this.entry().id }, body: { duration } }).pipe(
            map((a) => a.effect),
            catchError(() => of(undefined)),
          ),
    ),
  );

  ngOnInit(): void {
    const { id: entryId } = this.entry();
    this.form = {
      schema: correctionFormSchema,
      initial: { duration: '', reason: '' },
      draft: `correct.${entryId}`,
      does: 'Correct it',
      save: (body) => this.api.call(approvalRoutes.correctTime, { params: { entryId }, body }),
    };
  }
}
