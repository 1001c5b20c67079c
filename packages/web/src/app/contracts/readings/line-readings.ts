import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type ContractWire, type LineWire, pasteReadings, readingRoutes, type ReadingsForm } from '@core/contracts';
import { parseLocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { DatePipe } from '../../ui/pipes';
import { isoDay } from '../../ui/time-format';

/** The largest file that is read: 2,000 rows are far less. */
const MOST_BYTES = 500_000;

/** What was read of a line's meter: the newest, and rows of a file or typed by hand. What was wrong is taken back by another reading. */
@Component({
  selector: 'dl-line-readings',
  imports: [DatePipe],
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
      <label class="small soft" [for]="line().id">
        A row each: the day, how much was used, and what names it where it comes from, if anything. A reading below 0 takes one back.
      </label>
      <textarea #box class="in mono" rows="4" [id]="line().id" [value]="text()" (input)="typed(box.value)"></textarea>
      <p class="small">
        <label>Or a file: <input #file type="file" accept=".csv,.txt,text/csv" (change)="take(file)" /></label>
      </p>
      @if (text().trim()) {
        <p class="small" role="status">{{ read().readings.length }} understood, {{ read().wrong.length }} not.</p>
        @for (w of read().wrong.slice(0, shown); track w.row) {
          <p class="small late">Row {{ w.row }}, “{{ w.given }}”: {{ w.why }}.</p>
        }
        @if (read().wrong.length > shown) {
          <p class="small late">And {{ read().wrong.length - shown }} rows more.</p>
        }
      }
      <p class="acts">
        <button type="button" class="btn-main" [disabled]="busy() || !read().readings.length" (click)="add()">
          Record {{ read().readings.length }}
        </button>
        <button type="button" class="btn-link" (click)="adding.set(false)">Leave it</button>
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
  /** So many rows that are not understood are named at once. */
  protected readonly shown = 8;
  protected readonly adding = signal(false);
  protected readonly busy = signal(false);
  protected readonly text = signal('');
  private readonly source = signal<ReadingsForm['source']>('by hand');
  protected readonly read = computed(() => pasteReadings(this.text(), parseLocalDate(isoDay(this.session.now(), this.session.zone))));

  protected readonly times = computed(() => {
    const { readCount } = this.line();
    return readCount === 0 ? 'not read yet' : readCount === 1 ? 'read once' : `read ${readCount} times`;
  });

  protected typed(text: string): void {
    this.source.set('by hand');
    this.text.set(text);
  }

  protected take(box: HTMLInputElement): void {
    const file = box.files?.[0];
    if (!file) return;
    if (file.size > MOST_BYTES) {
      this.toasts.trouble(`${file.name} has ${Math.ceil(file.size / 1000)} kB; at most ${MOST_BYTES / 1000} kB are read at a time.`);
      return;
    }
    file.text().then(
      (text) => {
        this.source.set('from a file');
        this.text.set(text);
      },
      (fault: unknown) => this.toasts.trouble(fault),
    );
  }

  protected add(): void {
    this.busy.set(true);
    const params = { contractId: this.contract().id, lineId: this.line().id };
    const body = { readings: [...this.read().readings], source: this.source() };
    this.api.call(readingRoutes.addReadings, { params, body }).subscribe({
      next: ({ added, known }) => {
        this.busy.set(false);
        this.text.set('');
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
