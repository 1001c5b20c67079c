import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Line, type RecordForm, RecordFormPanel } from './record-form';

/** A form that somebody opened beside other things that can be changed there. */
export interface OpenedForm {
  /** Where on the page it stands open: the id of what it is about. */
  readonly at: string;
  readonly form: RecordForm;
  readonly lines: readonly Line[];
}

/** The one form that is open in a section, at one of its places; another one begins anew. */
@Component({
  selector: 'dl-opened-form',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (o of here(); track o.form.draft) {
      <dl-record-form [form]="o.form" [lines]="lines() ?? o.lines" (saved)="done.emit()" (closed)="done.emit()" />
    }
  `,
})
export class OpenedFormPanel {
  readonly opened = input.required<OpenedForm | undefined>();
  readonly at = input.required<string>();
  /** The form's lines, where they change while it is open. */
  readonly lines = input<readonly Line[]>();
  readonly done = output<void>();
  protected readonly here = computed(() => [this.opened()].filter((o) => o?.at === this.at()).map((o) => o!));
}
