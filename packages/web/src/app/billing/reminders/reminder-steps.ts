import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { REMINDER_BLANKS, reminderRoutes, reminderStepSchema, type ReminderStepsForm, type ReminderStepWire } from '@core/billing';
import { map } from 'rxjs';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import type { Line, RecordForm } from '../../ui/record-form';
import { type RuleRow, RuleRows } from '../../ui/rule-rows';

export type Steps = ReminderStepsForm & { readonly version: number };

const LINES: readonly Line[] = [
  { name: 'afterDays', label: 'Days after it was due', kind: 'number' },
  { name: 'subject', label: 'Subject', wide: true },
  { name: 'text', label: `Text; ${REMINDER_BLANKS.map((b) => `{${b}}`).join(', ')} are filled in`, kind: 'lines', wide: true },
];

/** When reminders are sent and in which words. */
@Component({
  selector: 'dl-reminder-steps',
  imports: [RuleRows],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let may = session.may('invoices.issue');
    <dl-rule-rows
      heading="Steps"
      add="add a step"
      none="No step: nothing is ever reminded of."
      [rows]="rows()"
      [editable]="may"
      [formOf]="formOf"
      (takenAway)="takeAway($event)"
      (changed)="changed.emit()"
    />
    <label class="yes"
      ><input
        type="checkbox"
        #byThemselves
        [checked]="steps().byThemselves"
        [disabled]="!may"
        (change)="store({ byThemselves: byThemselves.checked, steps: steps().steps })"
      />
      send what is due by themselves, every morning from nine
    </label>
  `,
})
export class ReminderSteps {
  readonly steps = input.required<Steps>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly rows = computed(() =>
    this.steps().steps.map((s): RuleRow => ({ says: `${s.afterDays} days`, more: `after it was due: ${s.subject}` })),
  );
  protected readonly formOf = (n: number) => ({ form: this.form(n), lines: LINES });

  private form(n: number): RecordForm {
    const { steps, byThemselves, version } = this.steps();
    const next = (steps.at(-1)?.afterDays ?? 0) + 14;
    const form: RecordForm<typeof reminderStepSchema> = {
      schema: reminderStepSchema,
      initial: steps[n] ?? { afterDays: next, subject: '', text: '' },
      draft: `reminder-step.${n}`,
      does: steps[n] ? 'Change it' : 'Add it',
      version,
      save: (body, seen) =>
        this.api
          .call(reminderRoutes.setReminderSteps, {
            version: seen ?? version,
            body: { byThemselves, steps: inOrder(steps.toSpliced(n, 1, body)) },
          })
          .pipe(map(() => ({ id: String(n) }))),
    };
    return form as unknown as RecordForm;
  }

  protected takeAway(n: number): void {
    const { steps, byThemselves } = this.steps();
    this.store({ byThemselves, steps: steps.toSpliced(n, 1) });
  }

  protected store(to: ReminderStepsForm, canUndo = true): void {
    const { version, steps, byThemselves } = this.steps();
    this.api.call(reminderRoutes.setReminderSteps, { version, body: to }).subscribe({
      next: () => {
        this.changed.emit();
        this.toasts.done('Saved', canUndo ? () => this.store({ steps, byThemselves }, false) : undefined);
      },
      error: (fault: unknown) => {
        this.toasts.trouble(fault);
        this.changed.emit();
      },
    });
  }
}

function inOrder(steps: readonly ReminderStepWire[]): ReminderStepWire[] {
  return steps.toSorted((a, b) => a.afterDays - b.afterDays);
}
