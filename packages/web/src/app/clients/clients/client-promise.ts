import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import type { ClientWire } from '@core/clients';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { RecordFormPanel } from '../../ui/record-form';
import { type PromiseForm, promiseForms } from './promise-form';

/** What a client is promised, and on which calendar; changed in place from now on. */
@Component({
  selector: 'dl-client-promise',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl class="facts">
      <dt>Promise</dt>
      <dd>
        {{ client().promise ?? 'that of the house' }}, on {{ client().calendar ?? 'our hours' }}
        @if (session.may('setup.edit')) {
          <button type="button" class="btn-link small" (click)="open()">change<span class="visually-hidden"> the promise</span></button>
        }
      </dd>
    </dl>
    @if (form(); as f) {
      <dl-record-form [form]="f.form" [lines]="f.lines" (saved)="close()" (closed)="close()" />
    }
  `,
})
export class ClientPromise {
  readonly client = input.required<ClientWire>();
  readonly changed = output<void>();
  private readonly toasts = inject(Toasts);
  private readonly formOf = promiseForms();
  protected readonly session = inject(Session);
  protected readonly form = signal<PromiseForm | undefined>(undefined);

  protected open(): void {
    this.formOf(this.client()).subscribe({ next: (form) => this.form.set(form), error: (fault: unknown) => this.toasts.trouble(fault) });
  }

  protected close(): void {
    this.form.set(undefined);
    this.changed.emit();
  }
}
