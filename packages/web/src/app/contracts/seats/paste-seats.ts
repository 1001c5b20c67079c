import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type ClientSeatsWire, pasteSeats, seatRoutes, type SeatsChangeWire } from '@core/contracts';
import { parseLocalDate } from '@core/ground';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';
import { keptText } from '../../ui/kept-text';
import { PastedRows } from '../../ui/pasted-rows';

/** Puts people or assets on lines as rows of a spreadsheet say it; what is not understood is named. */
@Component({
  selector: 'dl-paste-seats',
  imports: [PastedRows],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl-pasted-rows
      [label]="asks()"
      [text]="kept.text()"
      [understood]="read().seats.length"
      [wrong]="read().wrong"
      (typed)="kept.type($event)"
      (filed)="kept.type($event)"
    />
    <p class="acts">
      <button type="button" class="btn-main" [disabled]="busy() || !read().seats.length" (click)="put()">
        Put {{ read().seats.length }} on their lines
      </button>
      <button type="button" class="btn-link" (click)="kept.clear(); left.emit()">Leave it</button>
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
  protected readonly kept = keptText(() => `pasted-seats.${this.seats().clientId}`);
  protected readonly busy = signal(false);
  protected readonly several = computed(() => this.seats().lines.length > 1);
  protected readonly asks = computed(
    () =>
      `Paste rows: name or mail address or number, ${this.several() ? 'line, ' : ''}first day, last day if any. What was understood is shown before anything is stored.`,
  );
  protected readonly read = computed(() => {
    const { rows, lines, today } = this.seats();
    const units = rows.map(({ unitId, name, also }) => ({ id: unitId, name, also }));
    return pasteSeats(this.kept.text(), { units, lines, today: parseLocalDate(today) });
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
        this.kept.clear();
        this.left.emit();
        this.done.emit();
      },
      error: trouble,
    });
  }
}
