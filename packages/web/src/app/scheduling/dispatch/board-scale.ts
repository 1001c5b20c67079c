import type { DispatchWire } from '@core/scheduling';

/** Where instants lie on the board, in percent of its width; nights between the days that are shown take none. */
export class BoardScale {
  private readonly days: readonly { from: number; to: number }[];

  constructor(view: Pick<DispatchWire, 'days'>) {
    this.days = view.days.map((d) => ({ from: Date.parse(d.from), to: Date.parse(d.to) }));
  }

  get count(): number {
    return this.days.length;
  }

  /** Cut to the nearest shown time. @param at epoch milliseconds */
  share(at: number): number {
    const index = this.days.findIndex((d) => at < d.to);
    if (index < 0) return 100;
    const { from, to } = this.days[index]!;
    return ((index + Math.max(0, (at - from) / (to - from))) / this.count) * 100;
  }

  width(from: number, to: number): number {
    return this.share(to) - this.share(from);
  }

  /** Epoch milliseconds at a share of the width. */
  at(share: number): number {
    const place = Math.min(this.count - 1e-9, Math.max(0, (share / 100) * this.count));
    const { from, to } = this.days[Math.floor(place)]!;
    return from + (place % 1) * (to - from);
  }

  /** Whether a time lies within the hours shown. */
  shows(at: number): boolean {
    return this.days.some((d) => d.from <= at && at < d.to);
  }

  /** Full hours after the first of each day, with their places. */
  hours(): { readonly hour: number; readonly share: number }[] {
    return this.days.flatMap(({ from, to }, day) => {
      const length = (to - from) / 3_600_000;
      return Array.from({ length: Math.max(0, Math.round(length) - 1) }, (_, n) => ({
        hour: n + 1,
        share: ((day + (n + 1) / length) / this.count) * 100,
      }));
    });
  }
}
