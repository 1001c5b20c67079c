import { ChangeDetectionStrategy, Component, inject, input, output, type OnInit } from '@angular/core';
import { approvalRoutes, correctionFormSchema } from '@core/approval';
import type { EntryWire } from '@core/time-entries';
import { Api } from '../shell/api';
import { RecordFormPanel, type Line, type RecordForm } from '../ui/record-form';

/** Approved time is locked: what is wrong with it is put right by a row of its own, which shows. */
@Component({
  selector: 'dl-correct-time',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form) {
      <dl-record-form [form]="form" [lines]="lines" (saved)="saved.emit()" (closed)="closed.emit()" />
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
