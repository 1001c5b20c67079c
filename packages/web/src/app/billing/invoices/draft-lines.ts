import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { invoiceRoutes, type DraftLineWire, type DraftWire } from '@core/billing';
import { howMuch } from '../charges/how-much';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { MoneyPipe } from '../../ui/pipes';

/** The lines that a client's next invoice would have, page by page, with its tax. */
@Component({
  selector: 'dl-draft-lines',
  imports: [MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="rows">
      @for (l of lines(); track l.chargeId) {
        <tr>
          <td>
            {{ l.description }}
            @if (l.details) {
              <p class="soft small">{{ l.details }}</p>
            }
          </td>
          <td class="num">{{ amount(l) }}</td>
          <td class="num">{{ l.taxPercent }} %</td>
          <td class="num">{{ l.net | money }}</td>
        </tr>
      }
      @if (lines().length < draft().charges) {
        <tr>
          <td colspan="4">
            <button type="button" class="btn-plain" [disabled]="!next()" (click)="more()">Show more</button>
            <span class="soft small"> {{ lines().length }} of {{ draft().charges }} shown</span>
          </td>
        </tr>
      }
      @for (g of draft().groups; track g.category + g.percent) {
        <tr class="soft">
          <td colspan="3" class="num">{{ g.category === 'E' ? 'exempt from tax' : 'tax ' + g.percent + ' %' }} on {{ g.base | money }}</td>
          <td class="num">{{ g.tax | money }}</td>
        </tr>
      }
    </table>
  `,
})
export class DraftLines {
  readonly draft = input.required<DraftWire>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly lines = signal<readonly DraftLineWire[]>([]);
  protected readonly next = signal<string | null>(null);
  /** What makes it read anew: another client, or other charges. */
  private readonly seen = computed(() => `${this.draft().clientId} ${this.draft().charges} ${this.draft().gross.minor}`);

  constructor() {
    effect(() => {
      this.seen();
      this.load(undefined);
    });
  }

  protected more(): void {
    this.load(this.next() ?? undefined);
  }

  private load(after: string | undefined): void {
    const { clientId } = this.draft();
    this.api.call(invoiceRoutes.listDraftLines, { params: { clientId }, query: { ...(after ? { after } : {}) } }).subscribe({
      next: (page) => {
        this.lines.update((lines) => [...(after ? lines : []), ...page.rows]);
        this.next.set(page.next);
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected amount(l: DraftLineWire): string {
    return howMuch(l, l.net.currency);
  }
}
