import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { type OpenedForm, OpenedFormPanel } from './opened-form';

/** A rule in words: what it is of, its figure, and the rest. */
export interface RuleRow {
  readonly says: string;
  readonly figure?: string;
  readonly more?: string;
}

/** Rules under a heading: each changed in place or taken away, one more added at the end. */
@Component({
  selector: 'dl-rule-rows',
  imports: [OpenedFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      {{ heading() }}
      @if (editable()) {
        <button type="button" class="btn-link small" (click)="open(rows().length)">{{ add() }}</button>
      }
    </h2>
    @for (r of rows(); track $index; let n = $index) {
      <p class="line">
        <span
          ><b>{{ r.says }}</b> <span class="mono">{{ r.figure }}</span> <span class="soft small">{{ r.more }}</span></span
        >
        @if (editable()) {
          <span class="acts">
            <button type="button" class="btn-link small" (click)="open(n)">
              change<span class="visually-hidden"> {{ heading() }}: {{ r.says }}</span>
            </button>
            <button type="button" class="btn-link small" (click)="takenAway.emit(n)">
              take away<span class="visually-hidden"> {{ heading() }}: {{ r.says }}</span>
            </button>
          </span>
        }
      </p>
      <dl-opened-form [opened]="form()" [at]="'' + n" (done)="done()" />
    } @empty {
      <p class="soft small">{{ none() }}</p>
    }
    <dl-opened-form [opened]="form()" [at]="'' + rows().length" (done)="done()" />
  `,
  styleUrl: './rule-rows.css',
})
export class RuleRows {
  readonly heading = input.required<string>();
  /** The words on the button: "add a rate". */
  readonly add = input.required<string>();
  readonly none = input.required<string>();
  readonly rows = input.required<readonly RuleRow[]>();
  readonly editable = input.required<boolean>();
  /** The form of the nth; of one more after the last. */
  readonly formOf = input.required<(n: number) => Omit<OpenedForm, 'at'>>();
  readonly takenAway = output<number>();
  readonly changed = output<void>();
  protected readonly form = signal<OpenedForm | undefined>(undefined);

  protected open(n: number): void {
    this.form.set({ at: String(n), ...this.formOf()(n) });
  }

  protected done(): void {
    this.form.set(undefined);
    this.changed.emit();
  }
}
