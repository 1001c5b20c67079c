import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type ClientSeatsWire, pasteSeats, seatRoutes, type SeatsChangeWire } from '@core/contracts';
import { parseLocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';

/** Puts people or assets on lines as rows of a spreadsheet say it; what is not understood is named. */
@Component({
  selector: 'dl-paste-seats',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="small soft" for="pasted"
      >Paste rows: name or mail address or number, {{ several() ? 'line, ' : '' }}first day, last day if any. What was understood is shown
      before anything is stored.</label
    >
    <textarea id="pasted" #box class="in mono" rows="5" (input)="text.set(box.value)"></textarea>
    @if (text().trim()) {
      <p class="small">{{ read().seats.length }} understood, {{ read().wrong.length }} not.</p>
      @for (w of read().wrong.slice(0, shown); track w.row) {
        <p class="small late">Row {{ w.row }}, “{{ w.given }}”: {{ w.why }}.</p>
      }
      @if (read().wrong.length > shown) {
        <p class="small late">And {{ read().wrong.length - shown }} rows more.</p>
      }
    }
    <p class="acts">
      <button type="button" class="btn-main" [disabled]="busy() || !read().seats.length" (click)="put()">
        Put {{ read().seats.length }} on their lines
      </button>
      <button type="button" class="btn-link" (click)="left.emit()">Leave it</button>
    </p>
  `,
  styles: `
    :host {
      display: block;
      padding-bottom: 8px;
    }
    .acts {
      display: flex;
      gap: 12px;
      padding-top: 6px;
    }
  `,
})
export class PasteSeats {
  readonly seats = input.required<ClientSeatsWire>();
  readonly done = output<void>();
  readonly left = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  /** So many rows that are not understood are named at once. */
  protected readonly shown = 8;
  protected readonly text = signal('');
  protected readonly busy = signal(false);
  protected readonly several = computed(() => this.seats().lines.length > 1);
  protected readonly read = computed(() => {
    const { rows, lines, today } = this.seats();
    const units = rows.map(({ unitId, name, also }) => ({ id: unitId, name, also }));
    return pasteSeats(this.text(), { units, lines, today: parseLocalDate(today) });
  });

  protected put(): void {
    this.busy.set(true);
    const lineOf = (id: string) => this.seats().lines.find((l) => l.id === id)!.id;
    const put = this.read().seats.map(({ row: _, lineId, ...seat }) => ({ ...seat, lineId: lineOf(lineId) }));
    const store = (body: SeatsChangeWire) => this.api.call(seatRoutes.changeSeats, { params: { clientId: this.seats().clientId }, body });
    const trouble = (fault: unknown) => {
      this.busy.set(false);
      this.toasts.trouble(fault);
    };
    store({ put, end: [], takeOff: [] }).subscribe({
      next: ({ changed, undo }) => {
        this.toasts.done(`${changed} put on their lines`, () => store(undo).subscribe({ next: () => this.done.emit(), error: trouble }));
        this.left.emit();
        this.done.emit();
      },
      error: trouble,
    });
  }
}
