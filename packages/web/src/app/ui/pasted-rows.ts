import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { Toasts } from '../shell/toasts';

/** The largest file that is taken: what is read of it at a time is far less. */
const MOST_BYTES = 500_000;
let count = 0;

/** Rows that are pasted, typed or taken from a file: how many are understood, and each that is not, with the reason. */
@Component({
  selector: 'dl-pasted-rows',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="small soft" [for]="id">{{ label() }}</label>
    <textarea #box class="in mono" rows="5" [id]="id" [value]="text()" (input)="typed.emit(box.value)"></textarea>
    <p class="small">
      <label>Or a file: <input #file type="file" accept=".csv,.txt,text/csv" (change)="take(file)" /></label>
    </p>
    @if (text().trim()) {
      <p class="small" role="status">{{ understood() }} understood, {{ wrong().length }} not.</p>
      @for (w of wrong().slice(0, shown); track w.row) {
        <p class="small late">Row {{ w.row }}, “{{ w.given }}”: {{ w.why }}.</p>
      }
      @if (wrong().length > shown) {
        <p class="small late">And {{ wrong().length - shown }} rows more.</p>
      }
    }
  `,
})
export class PastedRows {
  readonly label = input.required<string>();
  readonly text = input.required<string>();
  readonly understood = input.required<number>();
  readonly wrong = input.required<readonly { readonly row: number; readonly given: string; readonly why: string }[]>();
  readonly typed = output<string>();
  /** What stood in a file that was chosen. */
  readonly filed = output<string>();
  private readonly toasts = inject(Toasts);
  protected readonly id = `rows${++count}`;
  /** So many rows that are not understood are named at once. */
  protected readonly shown = 8;

  protected take(box: HTMLInputElement): void {
    const file = box.files?.[0];
    if (!file) return;
    if (file.size > MOST_BYTES) {
      this.toasts.trouble(`${file.name} has ${Math.ceil(file.size / 1000)} kB; at most ${MOST_BYTES / 1000} kB are read at a time.`);
      return;
    }
    file.text().then(
      (text) => this.filed.emit(text),
      (fault: unknown) => this.toasts.trouble(fault),
    );
  }
}
