import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import {
  CHECKED_MOVES,
  CLOSING_CHECK_NAMES,
  closingSettingsSchema,
  deskSettingsRoutes,
  type CheckedMove,
  type ClosingCheck,
  type ClosingSettings,
} from '@core/desk';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { Field } from '../../ui/field';
import { FormState } from '../../ui/form-state';

/** What must hold before a ticket of each kind moves, and when tickets close and reopen by themselves. */
@Component({
  selector: 'dl-closing-settings',
  imports: [AsyncPipe, Field],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let form = state()?.view$ | async;
    @let may = session.may('setup.edit');
    @if (form) {
      <form (submit)="save($event)" novalidate>
        <p class="move">
          <dl-field label="Before a ticket becomes" kind="choice" none="" [options]="moves" [value]="move()" (said)="chooseMove($event)" />
        </p>
        <div class="wide" tabindex="0" role="group" aria-label="Closing checks by kind">
          <table class="rows">
            <thead>
              <tr>
                <th>Must not stand open</th>
                @for (rule of rules(form.values); track rule.kind) {
                  <th>{{ rule.kind }}</th>
                }
                @if (move() === 'resolved') {
                  <th>also of an umbrella's members</th>
                }
              </tr>
            </thead>
            @for (check of checks; track check) {
              <tr>
                <td>{{ check }}</td>
                @for (rule of rules(form.values); track rule.kind) {
                  <td>
                    <input
                      type="checkbox"
                      [attr.aria-label]="check + ', ' + rule.kind"
                      [disabled]="!may"
                      [checked]="rule.checks.includes(check)"
                      (change)="toggle(rule.kind, check)"
                    />
                  </td>
                }
                @if (move() === 'resolved') {
                  <td>
                    <input
                      type="checkbox"
                      [attr.aria-label]="check + ', members of an umbrella'"
                      [disabled]="!may || check === 'unanswered message'"
                      [checked]="check === 'unanswered message' || always(form.values).includes(check)"
                      (change)="toggleAlways(check)"
                    />
                  </td>
                }
              </tr>
            }
          </table>
        </div>
        <div class="days">
          <dl-field
            label="Resolved tickets close after so many working dates"
            kind="number"
            [value]="form.values['closeAfterDates']"
            [error]="form.errors['closeAfterDates']"
            (changed)="state()!.set('closeAfterDates', $event)"
          />
          <dl-field
            label="A reply reopens a closed ticket for so many days"
            kind="number"
            [value]="form.values['reopenDays']"
            [error]="form.errors['reopenDays']"
            (changed)="state()!.set('reopenDays', $event)"
          />
          @if (may) {
            <button class="btn-plain" [disabled]="form.busy">Save</button>
          }
        </div>
      </form>
    }
  `,
  styles: `
    .move {
      width: 280px;
    }
    .wide {
      overflow-x: auto;
      position: relative;
    }
    .days {
      display: flex;
      gap: 16px;
      align-items: end;
      margin-top: 12px;
    }
  `,
})
export class ClosingSettingsForm implements OnInit {
  readonly settings = input.required<ClosingSettings>();
  readonly saved = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly checks = CLOSING_CHECK_NAMES;
  protected readonly moves = CHECKED_MOVES.map((m) => ({ value: m, label: m }));
  protected readonly move = signal<CheckedMove>('resolved');

  protected chooseMove(text: string): void {
    this.move.set(CHECKED_MOVES.find((m) => m === text) ?? 'resolved');
  }
  protected readonly state = signal<FormState<typeof closingSettingsSchema> | undefined>(undefined);

  ngOnInit(): void {
    this.state.set(new FormState(closingSettingsSchema, { ...this.settings() }));
  }

  protected rules(values: Readonly<Record<string, unknown>>): ClosingSettings['rules'] {
    return this.allRules(values).filter((r) => r.move === this.move());
  }

  private allRules(values: Readonly<Record<string, unknown>>): ClosingSettings['rules'] {
    return values['rules'] as ClosingSettings['rules'];
  }

  protected always(values: Readonly<Record<string, unknown>>): ClosingSettings['alwaysAsked'] {
    return values['alwaysAsked'] as ClosingSettings['alwaysAsked'];
  }

  protected toggleAlways(check: ClosingCheck): void {
    const always = this.always(this.state()!.values);
    this.state()!.set('alwaysAsked', always.includes(check) ? always.filter((c) => c !== check) : [...always, check]);
  }

  protected toggle(kind: string, check: ClosingCheck): void {
    const state = this.state()!;
    state.set(
      'rules',
      this.allRules(state.values).map((rule) =>
        rule.kind !== kind || rule.move !== this.move()
          ? rule
          : { ...rule, checks: rule.checks.includes(check) ? rule.checks.filter((c) => c !== check) : [...rule.checks, check] },
      ),
    );
  }

  protected save(event: Event): void {
    event.preventDefault();
    const body = this.state()!.check();
    if (!body) return;
    this.state()!.busy(true);
    this.api.call(deskSettingsRoutes.setClosing, { body }).subscribe({
      next: () => {
        this.state()!.saved();
        this.toasts.done('Saved; it holds from now on');
        this.saved.emit();
      },
      error: (fault: unknown) => {
        this.state()!.refused(fault);
        this.toasts.trouble(fault);
      },
    });
  }
}
