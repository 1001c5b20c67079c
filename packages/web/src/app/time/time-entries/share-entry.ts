import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { formatMinutes, type Id, parseMinutes } from '@core/ground';
import { chargeRoutes } from '@core/billing';
import { UmbrellaState } from '../../desk';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';
import { Toasts } from '../../shell/toasts';

/** Shares the time of an umbrella over several clients out to its members, each charged at its own rates. */
@Component({
  selector: 'dl-share-entry',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="panel small" (submit)="$event.preventDefault(); share()">
      <p>Charged to nobody unless you share it out. How much to whom?</p>
      @for (m of members(); track m.id) {
        <label>
          <span class="clip">#{{ m.number }} {{ m.client }}</span>
          <input
            #textBox
            class="in mono"
            type="text"
            [attr.aria-label]="'Share of #' + m.number"
            [value]="typed()[m.id] ?? ''"
            (input)="type(m.id, textBox.value)"
            placeholder="none"
          />
        </label>
      }
      <p [class.late]="wrong()">{{ summary() }}</p>
      @if (trouble()) {
        <p class="late" role="alert">{{ trouble() }}</p>
      }
      <p class="acts">
        <button type="button" class="btn-link" (click)="even()">in equal parts</button>
        <button class="btn-plain" [disabled]="wrong() || !parts().length">Share it out</button>
        <button type="button" class="btn-link" (click)="closed.emit()">Leave it</button>
      </p>
    </form>
  `,
  styles: `
    form {
      padding: 8px 10px;
      display: grid;
      gap: 4px;
    }
    label {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 72px;
      gap: 8px;
      align-items: center;
    }
    .acts {
      display: flex;
      gap: 12px;
      align-items: center;
    }
  `,
})
export class ShareEntry {
  readonly entryId = input.required<Id<'time_entry'>>();
  /** The minutes there are to share. */
  readonly minutes = input.required<number>();
  readonly umbrellaId = input.required<Id<'ticket'>>();
  readonly shared = output<void>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly state = inject(UmbrellaState);
  protected readonly members = computed(() => this.state.members().filter((m) => m.clientId !== null));
  protected readonly typed = signal<Readonly<Record<string, string>>>({});
  protected readonly trouble = signal('');
  protected readonly parts = computed(() =>
    Object.entries(this.typed())
      .filter(([, text]) => text.trim())
      .map(([ticketId, text]) => ({ ticketId, minutes: parseMinutes(text) ?? 0 })),
  );
  private readonly sum = computed(() => this.parts().reduce((all, p) => all + p.minutes, 0));
  protected readonly wrong = computed(() => this.sum() > this.minutes() || this.parts().some((p) => p.minutes < 1));

  constructor() {
    effect(() => this.state.load(this.umbrellaId()));
  }

  protected type(id: Id<'ticket'>, text: string): void {
    this.typed.set({ ...this.typed(), [id]: text });
  }

  /** Whole minutes that add up: the first ones take what is left over. */
  protected even(): void {
    const all = this.members();
    const [each, rest] = [Math.floor(this.minutes() / all.length), this.minutes() % all.length];
    this.typed.set(Object.fromEntries(all.map((m, i) => [m.id, String(each + (i < rest ? 1 : 0))])));
  }

  protected summary(): string {
    const [sum, all] = [this.sum(), this.minutes()];
    if (this.parts().some((p) => p.minutes < 1)) return 'A time such as 25, 1:30 or 1 h 40.';
    if (sum > all) return `${formatMinutes(sum)} is more than the ${formatMinutes(all)} there are.`;
    return sum === all
      ? `${formatMinutes(sum)} of ${formatMinutes(all)}.`
      : `${formatMinutes(sum)} of ${formatMinutes(all)}; the rest is charged to nobody.`;
  }

  protected share(): void {
    if (this.wrong() || !this.parts().length) return;
    this.api.call(chargeRoutes.shareEntry, { params: { entryId: this.entryId() }, body: { parts: this.parts() } }).subscribe({
      next: ({ charges }) => {
        this.toasts.done(`Shared out: ${charges} charges are proposed`);
        this.shared.emit();
      },
      error: (fault: unknown) => this.trouble.set(problemOf(fault).detail),
    });
  }
}
