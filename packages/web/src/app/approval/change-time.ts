import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import { approvalRoutes, changeTimeSchema } from '@core/approval';
import { houseRoutes } from '@core/house';
import type { EntryWire } from '@core/time-entries';
import { Api } from '../shell/api';
import { Toasts } from '../shell/toasts';
import { RecordFormPanel, type Line, type RecordForm } from '../ui/record-form';

/** Changes somebody's time before it is approved; why stands on record, and they are told. */
@Component({
  selector: 'dl-change-time',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form(); as f) {
      <dl-record-form [form]="f" [lines]="lines" (saved)="saved.emit()" (closed)="closed.emit()" />
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
