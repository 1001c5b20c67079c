import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type ContractWire, type LineWire, pasteReadings, readingRoutes, type ReadingsForm } from '@core/contracts';
import { parseLocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { keptText } from '../../ui/kept-text';
import { PastedRows } from '../../ui/pasted-rows';
import { DatePipe } from '../../ui/pipes';
import { isoDay } from '../../ui/time-format';

/** What was read of a line's meter: the newest, and rows of a file or typed by hand. What was wrong is taken back by another reading. */
@Component({
  selector: 'dl-line-readings',
  imports: [DatePipe, PastedRows],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="small head">
      <span class="soft">{{ times() }}</span>
      @if (session.may('contracts.edit')) {
        <button type="button" class="btn-link small" [attr.aria-expanded]="adding()" (click)="adding.set(!adding())">
          add readings<span class="visually-hidden"> of {{ line().name }}</span>
        </button>
      }
    </p>
    @if (adding()) {
      <dl-pasted-rows
        label="A row each: the day, how much was used, and what names it where it comes from, if anything. A reading below 0 takes one back."
        [text]="kept.text()"
        [understood]="read().readings.length"
        [wrong]="read().wrong"
        (typed)="take($event, 'by hand')"
        (filed)="take($event, 'from a file')"
      />
      <p class="acts">
        <button type="button" class="btn-main" [disabled]="busy() || !read().readings.length" (click)="add()">
          Record {{ read().readings.length }}
        </button>
        <button type="button" class="btn-link" (click)="kept.clear(); adding.set(false)">Leave it</button>
      </p>
    }
    @if (line().readings.length) {
      <table class="rows">
        @for (r of line().readings; track r.id) {
          <tr>
            <td>{{ r.on | date }}</td>
            <td class="mono much">{{ r.quantity }}</td>
            <td class="soft small">{{ r.source }}{{ r.key ? ', ' + r.key : '' }}</td>
          </tr>
        }
      </table>
      @if (line().readCount > line().readings.length) {
        <p class="small soft">And {{ line().readCount - line().readings.length }} before them.</p>
      }
    }
  `,
  styles: `
    .head,
    .acts {
      display: flex;
      justify-content: space-between;
      padding: 4px 0;
    }
    .acts {
      justify-content: flex-start;
      gap: 12px;
    }
    .much {
      text-align: right;
      padding-right: 16px;
    }
    table {
      width: 100%;
    }
  `,
})
export class LineReadings {
  readonly contract = input.required<ContractWire>();
  readonly line = input.required<LineWire>();
  readonly changed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly adding = signal(false);
  protected readonly busy = signal(false);
  protected readonly kept = keptText(() => `readings.${this.line().id}`);
  private readonly source = signal<ReadingsForm['source']>('by hand');
  protected readonly read = computed(() => pasteReadings(this.kept.text(), parseLocalDate(isoDay(this.session.now(), this.session.zone))));

  protected readonly times = computed(() => {
    const { readCount } = this.line();
    return readCount === 0 ? 'not read yet' : readCount === 1 ? 'read once' : `read ${readCount} times`;
  });

  protected take(text: string, source: ReadingsForm['source']): void {
    this.source.set(source);
    this.kept.type(text);
  }

  protected add(): void {
    this.busy.set(true);
    const params = { contractId: this.contract().id, lineId: this.line().id };
    const body = { readings: [...this.read().readings], source: this.source() };
    this.api.call(readingRoutes.addReadings, { params, body }).subscribe({
      next: ({ added, known }) => {
        this.busy.set(false);
        this.kept.clear();
        this.adding.set(false);
        this.toasts.done(`${added} recorded${known ? `, ${known} known already` : ''}`);
        this.changed.emit();
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
      },
    });
  }
}
