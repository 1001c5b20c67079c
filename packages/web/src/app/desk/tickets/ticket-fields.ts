import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { FactValue } from '@core/ground';
import { ticketRoutes, type TicketWire } from '@core/desk';
import { OwnValuePipe } from '../own-fields/own-value';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { FieldInputs } from '../own-fields/field-inputs';

/** The house's own fields on a ticket: read as facts, filled in place. */
@Component({
  selector: 'dl-ticket-fields',
  imports: [FieldInputs, OwnValuePipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (ticket().fields.length) {
      <section aria-label="Own fields">
        @if (open()) {
          <form (submit)="$event.preventDefault(); save()" novalidate>
            <dl-field-inputs [fields]="shown()" [clientId]="ticket().clientId" [errors]="errors()" (changed)="type($event)" />
            <p class="acts">
              <button class="btn-plain" [disabled]="busy()">Save</button>
              <button type="button" class="btn-link" (click)="close()">Leave it</button>
            </p>
          </form>
        } @else {
          <dl class="facts">
            @for (f of ticket().fields; track f.id) {
              <dt>{{ f.name }}</dt>
              <dd [class.soft]="f.words === null">{{ f | ownValue }}</dd>
            }
          </dl>
          @if (session.may('tickets.work')) {
            <button type="button" class="btn-link" (click)="open.set(true)">fill these</button>
          }
        }
      </section>
    }
  `,
  styles: `
    section {
      padding: 8px 0;
      border-top: 1px solid var(--rule);
    }
    .acts {
      display: flex;
      gap: 16px;
    }
  `,
})
export class OwnFields {
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  readonly open = signal(false);
  protected readonly busy = signal(false);
  protected readonly errors = signal<Readonly<Record<string, string>>>({});
  private readonly typed = signal<Readonly<Record<string, FactValue>>>({});
  protected readonly shown = computed(() =>
    this.ticket().fields.map((f) => ({ ...f, value: f.id in this.typed() ? this.typed()[f.id]! : f.value })),
  );

  protected type({ fieldId, value }: { readonly fieldId: string; readonly value: FactValue }): void {
    this.typed.update((t) => ({ ...t, [fieldId]: value }));
  }

  protected close(): void {
    this.open.set(false);
    this.typed.set({});
    this.errors.set({});
  }

  protected save(): void {
    const values = Object.entries(this.typed()).map(([fieldId, value]) => ({ fieldId, value }));
    if (!values.length) return this.close();
    this.busy.set(true);
    const { id, version } = this.ticket();
    this.api.call(ticketRoutes.setTicketFields, { params: { ticketId: id }, version, body: { values } }).subscribe({
      next: () => {
        this.busy.set(false);
        this.toasts.done('Saved');
        this.close();
        this.changed.emit();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.errors.set(problemOf(fault).fields ?? {});
        this.toasts.trouble(fault);
      },
    });
  }
}
