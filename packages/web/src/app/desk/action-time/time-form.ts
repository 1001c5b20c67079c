import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  inject,
  InjectionToken,
  input,
  inputBinding,
  output,
  outputBinding,
  ViewContainerRef,
  type InputSignal,
  type OutputEmitterRef,
  type Type,
} from '@angular/core';
import type { Id } from '@core/ground';

/** A form that records time on work, as the domain of time has it. */
export interface TimeFormPart {
  readonly workId: InputSignal<Id<'work'> | undefined>;
  readonly saved: OutputEmitterRef<void>;
  readonly closed: OutputEmitterRef<void>;
}

/** Given by the frame, in shell/parts.ts: pages of work do not know who records time. */
export const TIME_FORM = new InjectionToken<() => Promise<Type<TimeFormPart>>>('the form that records time on work');

/** Records time on work, on a page of that work. */
@Component({ selector: 'dl-time-form', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class TimeForm {
  readonly workId = input.required<Id<'work'>>();
  readonly saved = output<void>();
  readonly closed = output<void>();

  constructor() {
    const here = inject(ViewContainerRef);
    const end = inject(DestroyRef);
    const load = inject(TIME_FORM);
    void load().then((form) => {
      if (end.destroyed) return;
      here.createComponent(form, {
        bindings: [
          inputBinding('workId', this.workId),
          outputBinding('saved', () => this.saved.emit()),
          outputBinding('closed', () => this.closed.emit()),
        ],
      });
    });
  }
}
