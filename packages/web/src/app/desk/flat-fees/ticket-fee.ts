import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import type { Observable } from 'rxjs';
import {
  feeResultSchema,
  type FeeWire,
  flatFeeRoutes,
  removeFeeSchema,
  setFeeSchema,
  type TicketFeeWire,
  type TicketWire,
} from '@core/desk';
import { formatMoney, type Id } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { RecordFormPanel, type Line, type RecordForm } from '../../ui/record-form';

/** The flat fee of a job: which, how many, whether the client agreed, and how it ended; or the one it looks like. */
@Component({
  selector: 'dl-ticket-fee',
  imports: [RecordFormPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let f = fee();
    <section aria-label="Flat fee">
      @if (f?.fee; as fee) {
        <h3>Flat fee</h3>
        <p>
          {{ fee.quantity }} × <b>{{ fee.name }}</b>, {{ money(fee.net) }}
          <span class="soft small">{{ stateWords(fee.state, fee.chargeState) }}</span>
        </p>
        @if (fee.result) {
          <p [class.met]="fee.result === 'success'" [class.late]="fee.result === 'failed'">
            {{ fee.result === 'success' ? 'It succeeded.' : 'It failed: ' + fee.note }}
          </p>
        }
        @if (session.may('tickets.work')) {
          <p class="acts">
            <button type="button" class="btn-link" (click)="openResult()">say how it went</button>
            <button type="button" class="btn-link" (click)="openFee()">change</button>
            @if (session.may('charges.decide')) {
              <button type="button" class="btn-link" (click)="openRemove()">take it off</button>
            }
          </p>
        }
      } @else if (session.may('tickets.work') && !ticket().isUmbrella) {
        @if (f?.hint; as hint) {
          <p class="hint small">
            Looks like <b>{{ hint.name }}</b>, by {{ hint.why }}.
            <button type="button" class="btn-link" (click)="take(hint.feeId)">take that fee</button>
            <button type="button" class="btn-link" (click)="dismiss()">it is none</button>
          </p>
        } @else {
          <p><button type="button" class="btn-link" (click)="openFee()">Make it a flat-fee job</button></p>
        }
      }
      @if (opened(); as o) {
        @for (one of [o]; track one.name) {
          <dl-record-form [form]="one.form" [lines]="one.lines" (saved)="done()" (closed)="opened.set(undefined)" />
        }
      }
    </section>
  `,
  styles: `
    section {
      margin-top: 16px;
    }
    .acts {
      display: flex;
      gap: 12px;
      flex-wrap: wrap;
    }
    .hint {
      background: var(--wash);
      border-radius: 4px;
      padding: 6px 10px;
    }
  `,
})
export class FlatFeePanel {
  readonly ticket = input.required<TicketWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly fee = signal<TicketFeeWire | undefined>(undefined);
  protected readonly money = formatMoney;
  protected readonly opened = signal<{ readonly name: string; readonly form: RecordForm; readonly lines: readonly Line[] } | undefined>(
    undefined,
  );
  private known: readonly FeeWire[] = [];

  constructor() {
    effect(() => {
      const { id: ticketId } = this.ticket();
      this.api.call(flatFeeRoutes.getTicketFee, { params: { ticketId } }).subscribe({
        next: (fee) => this.fee.set(fee),
        error: (fault: unknown) => this.toasts.trouble(fault),
      });
    });
  }

  protected stateWords(state: string, charge: string | null): string {
    if (state === 'asked') return 'the client is asked and has not agreed yet';
    if (state === 'refused') return 'the client did not agree';
    return charge ? `charged, ${charge}` : '';
  }

  protected openFee(): void {
    this.api.call(flatFeeRoutes.listFees, {}).subscribe({
      next: ({ fees }) => {
        this.known = fees;
        const now = this.fee()?.fee;
        this.opened.set({
          name: 'fee',
          lines: [
            {
              name: 'feeId',
              label: 'Fee',
              kind: 'choice',
              wide: true,
              options: this.known.map((f) => ({
                value: f.id,
                label: `${f.name}, ${formatMoney(f.price)}${f.asksClient ? ', the client is asked' : ''}`,
              })),
            },
            { name: 'quantity', label: 'How many', kind: 'number' },
          ],
          form: {
            schema: setFeeSchema,
            initial: { feeId: now?.feeId ?? '', quantity: now?.quantity ?? 1 },
            draft: `fee.${this.ticket().id}`,
            does: 'Set the fee',
            save: (body) => this.api.call(flatFeeRoutes.setFee, { params: { ticketId: this.ticket().id }, body }),
          },
        });
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected openRemove(): void {
    this.opened.set({
      name: 'remove',
      lines: [{ name: 'reason', label: 'Why it is taken off', wide: true }],
      form: {
        schema: removeFeeSchema,
        initial: { reason: '' },
        draft: `fee-off.${this.ticket().id}`,
        does: 'Take the fee off',
        save: (body) => this.api.call(flatFeeRoutes.removeFee, { params: { ticketId: this.ticket().id }, body }),
      },
    });
  }

  openResult(): void {
    this.opened.set({
      name: 'result',
      lines: [
        {
          name: 'result',
          label: 'How it went',
          kind: 'choice',
          options: [
            { value: 'success', label: 'it succeeded' },
            { value: 'failed', label: 'it failed' },
          ],
        },
        { name: 'note', label: 'Note, or what failed', wide: true },
      ],
      form: {
        schema: feeResultSchema,
        initial: { result: 'success', note: this.fee()?.fee?.note ?? null },
        draft: `fee-result.${this.ticket().id}`,
        does: 'Save',
        save: (body) => this.api.call(flatFeeRoutes.setFeeResult, { params: { ticketId: this.ticket().id }, body }),
      },
    });
  }

  protected take(feeId: Id<'flat_fee'>): void {
    this.run(
      this.api.call(flatFeeRoutes.setFee, { params: { ticketId: this.ticket().id }, body: { feeId, quantity: 1 } }),
      'It is a flat-fee job now',
    );
  }

  protected dismiss(): void {
    this.run(this.api.call(flatFeeRoutes.dismissFeeHint, { params: { ticketId: this.ticket().id } }), 'It is no flat-fee job');
  }

  protected done(): void {
    this.opened.set(undefined);
    this.changed.emit();
  }

  private run(command: Observable<unknown>, words: string): void {
    command.subscribe({
      next: () => {
        this.toasts.done(words);
        this.changed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
