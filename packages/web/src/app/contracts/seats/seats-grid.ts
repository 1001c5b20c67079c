import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, DestroyRef, effect, inject, input, model, output, signal, viewChild } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type ClientSeatsWire, monthlyOf, type SeatLineWire, type SeatRowWire } from '@core/contracts';
import { Shortcuts } from '../../shell/shortcuts';
import { MoneyPipe } from '../../ui/pipes';
import { plainDate } from '../../ui/time-format';

const ROW = 33;

/** People or assets × lines: the days of each on each, only those near the eyes drawn. x chooses a row. */
@Component({
  selector: 'dl-seats-grid',
  imports: [MoneyPipe, ScrollingModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './seats-grid.html',
  styleUrls: ['../../ui/list/virtual-rows.css', './seats-grid.css'],
})
export class SeatsGrid {
  readonly seats = input.required<ClientSeatsWire>();
  readonly rows = input.required<readonly SeatRowWire[]>();
  readonly choosable = input(false);
  readonly chosen = model<ReadonlySet<string>>(new Set());
  /** Somebody pressed where a person and a line meet. */
  readonly met = output<SeatLineWire>();
  protected readonly row = ROW;
  protected readonly offset = signal(0);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);

  constructor() {
    const [keys, destroyed] = [inject(Shortcuts), inject(DestroyRef)];
    keys.register(this, [{ keys: 'x', what: 'choose the row, to act on many' }]);
    destroyed.onDestroy(() => keys.forget(this));
    keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      const id = (document.activeElement as HTMLElement | null)?.closest('[data-id]')?.getAttribute('data-id');
      if (event.key === 'x' && id && this.choosable()) this.toggle(id);
    });
    effect((onCleanup) => {
      const moves = this.viewport()?.renderedRangeStream.subscribe((range) => this.offset.set(range.start * ROW));
      onCleanup(() => moves?.unsubscribe());
    });
  }

  protected toggle(id: string): void {
    const next = new Set(this.chosen());
    if (!next.delete(id)) next.add(id);
    this.chosen.set(next);
  }

  protected chooseAll(all: boolean): void {
    this.chosen.set(new Set(all ? this.rows().map((r) => r.unitId) : []));
  }

  protected meet(row: SeatRowWire, line: SeatLineWire): void {
    if (!this.choosable()) return;
    if (!this.chosen().has(row.unitId)) this.toggle(row.unitId);
    this.met.emit(line);
  }

  protected byId(_: number, row: SeatRowWire): string {
    return row.unitId;
  }

  /** "from 1 Sept 2026", "1 Sept 2026 to 30 Nov 2026"; the last one, with how many there were before it. */
  protected days(row: SeatRowWire, line: SeatLineWire): string {
    const mine = row.seats.filter((s) => s.lineId === line.id);
    const last = mine.at(-1);
    if (!last) return '';
    const earlier = mine.length > 1 ? ` (and ${mine.length - 1} before)` : '';
    return (last.lastDay ? `${plainDate(last.startsOn)} to ${plainDate(last.lastDay)}` : `from ${plainDate(last.startsOn)}`) + earlier;
  }

  /** Whether what stands there counts today. */
  protected isNow(row: SeatRowWire, line: SeatLineWire): boolean {
    const { today } = this.seats();
    return row.seats.some((s) => s.lineId === line.id && s.startsOn <= today && (s.lastDay === null || s.lastDay >= today));
  }

  protected monthly(line: SeatLineWire) {
    return monthlyOf([line], this.seats().currency);
  }
}
