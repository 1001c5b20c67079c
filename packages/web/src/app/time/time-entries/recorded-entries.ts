import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { timeRoutes, type DaySheetWire, type EntryWire } from '@core/time';
import { CorrectTime } from '../approval/correct-time';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { EmptyNote } from '../../ui/empty-note';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { Why } from '../../ui/why';
import { WorkLink } from '../../ui/work-link';
import { LogTime } from './log-time';

/** What is recorded on a day: changed in place while it is open, corrected by a row of its own once it is approved. */
@Component({
  selector: 'dl-recorded-entries',
  imports: [AtPipe, CorrectTime, EmptyNote, LogTime, MinutesPipe, Why, WorkLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './recorded-entries.html',
  styleUrl: './my-time.page.css',
})
export class RecordedEntries {
  readonly sheet = input.required<DaySheetWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly editing = signal<EntryWire | undefined>(undefined);
  protected readonly correcting = signal<string | undefined>(undefined);

  protected done(): void {
    this.editing.set(undefined);
    this.correcting.set(undefined);
    this.changed.emit();
  }

  protected remove(e: EntryWire): void {
    const { workId, insideNote, distance, startsAt, activityId, note, billable, reason } = e;
    const body = { workId, insideNote, distance, startsAt, activityId, note, billable, reason, duration: String(e.minutes) };
    const back = () =>
      this.api.call(timeRoutes.addEntry, { body }).subscribe({
        next: () => this.changed.emit(),
        error: (fault: unknown) => this.toasts.trouble(fault),
      });
    this.api.call(timeRoutes.removeEntry, { params: { entryId: e.id }, version: e.version }).subscribe({
      next: () => (this.toasts.done('Entry removed', back), this.changed.emit()),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
