import { ChangeDetectionStrategy, Component, inject, Injector, input, output, runInInjectionContext, signal } from '@angular/core';
import type { ContractWire } from '@core/contracts';
import { Session } from '../../shell/session';
import { type Line, type RecordForm, RecordFormPanel } from '../../ui/record-form';
import { meantForForm } from './meant-for-form';

/** For which work of its client a contract is, where that is not all. */
@Component({
  selector: 'dl-contract-meant-for',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    {{ words() }}
    @if (session.may('contracts.edit')) {
      <button type="button" class="btn-link small" (click)="change()">change<span class="visually-hidden"> what it is for</span></button>
    }
    @if (open(); as o) {
      <dl-record-form [form]="o.form" [lines]="o.lines()" (saved)="done()" (closed)="done()" />
    }
  `,
})
export class ContractMeantFor {
  readonly contract = input.required<ContractWire>();
  readonly changed = output<void>();
  protected readonly session = inject(Session);
  private readonly injector = inject(Injector);
  protected readonly open = signal<{ readonly form: RecordForm; readonly lines: () => readonly Line[] } | undefined>(undefined);

  protected words(): string {
    const { meantFor } = this.contract();
    return meantFor.length ? `only ${meantFor.map((m) => m.name).join(', ')}` : 'all work of its client';
  }

  protected change(): void {
    if (this.open()) return this.open.set(undefined);
    const { form, lines } = runInInjectionContext(this.injector, () => meantForForm(this.contract));
    this.open.set({ form: form(this.contract()), lines });
  }

  protected done(): void {
    this.open.set(undefined);
    this.changed.emit();
  }
}
