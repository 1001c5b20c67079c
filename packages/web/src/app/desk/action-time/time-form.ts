import { ChangeDetectionStrategy, Component, inject, InjectionToken, input, inputBinding, output, outputBinding } from '@angular/core';
import type { InputSignal, OutputEmitterRef } from '@angular/core';
import type { Id } from '@core/ground';
import { Part, type PartLoader } from '../../ui/part';

/** A form that records time on work, as the domain of time has it. */
export interface TimeFormPart {
  readonly workId: InputSignal<Id<'work'> | undefined>;
  readonly saved: OutputEmitterRef<void>;
  readonly closed: OutputEmitterRef<void>;
}

/** Given by the frame, in shell/parts.ts: pages of work do not know who records time. */
export const TIME_FORM = new InjectionToken<PartLoader<TimeFormPart>>('the form that records time on work');

/** Records time on work, on a page of that work. */
@Component({
  selector: 'dl-time-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Part],
  template: '<dl-part [load]="load" [bindings]="bindings" />',
})
export class TimeForm {
  readonly workId = input.required<Id<'work'>>();
  readonly saved = output<void>();
  readonly closed = output<void>();
  protected readonly load = inject(TIME_FORM);
  protected readonly bindings = [
    inputBinding('workId', this.workId),
    outputBinding('saved', () => this.saved.emit()),
    outputBinding('closed', () => this.closed.emit()),
  ];
}
