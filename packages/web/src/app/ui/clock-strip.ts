import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { ClockWire } from '@core/desk';
import { formatSeconds } from '@core/ground';
import { Session } from '../shell/session';
import { nearTime } from './time-format';

const NAMES = { triage: 'Triage', response: 'First reply', update: 'Next word', resolution: 'Resolution' } as const;

/** A clock in one sentence, as hover and screen readers tell it. */
export function clockWords(clock: ClockWire, now: number, zone: string): string {
  const used = `${formatSeconds(clock.elapsed)} of ${formatSeconds(clock.target)}`;
  const at = (instant: string | null) => (instant ? nearTime(Date.parse(instant), now, zone) : 'never');
  switch (clock.state) {
    case 'running':
      return `${used}, due ${at(clock.dueAt)}`;
    case 'holding':
      return `${used}, holds for the ${clock.holdReason}`;
    case 'met':
      return `met, ${used}`;
    case 'missed and running':
      return `missed ${at(clock.missedAt)}, ${formatSeconds(-clock.remaining)} late`;
    case 'missed and ended':
      return `missed ${at(clock.missedAt)}, took ${used}`;
  }
}

export function clockName(clock: ClockWire): string {
  return NAMES[clock.clock];
}

/** Our drawing of a clock: filled where it ran, hatched where it held, a notch at the target, a tail where late. */
@Component({
  selector: 'dl-clock-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="strip" role="img" [attr.aria-label]="name() + ': ' + words()" [title]="name() + ': ' + words()">
      @for (part of parts(); track $index) {
        <i [class]="part.did" [style.left.%]="part.left" [style.width.%]="part.width"></i>
      }
      <b [style.left.%]="clock().drawing.notch"></b>
    </span>
  `,
  styles: `
    :host {
      display: block;
    }
    .strip {
      position: relative;
      display: block;
      height: 9px;
    }
    .strip::before {
      content: '';
      position: absolute;
      left: 0;
      right: 0;
      top: 4px;
      height: 1px;
      background: var(--rule);
    }
    i {
      position: absolute;
      top: 2px;
      height: 5px;
      min-width: 1px;
      background: var(--run);
    }
    :host(.is-met) i.ran {
      background: var(--met);
    }
    i.held {
      background: repeating-linear-gradient(115deg, var(--hold) 0 2px, transparent 2px 4px);
    }
    i.late {
      background: var(--late);
      top: 1px;
      height: 7px;
    }
    b {
      position: absolute;
      top: 0;
      width: 2px;
      height: 9px;
      margin-left: -1px;
      background: var(--ink);
    }
  `,
  host: { '[class.is-met]': "clock().state === 'met'" },
})
export class ClockStrip {
  private readonly session = inject(Session);
  readonly clock = input.required<ClockWire>();
  protected readonly name = computed(() => clockName(this.clock()));
  protected readonly words = computed(() => clockWords(this.clock(), this.session.now(), this.session.zone));
  protected readonly parts = computed(() => {
    let left = 0;
    return this.clock().drawing.parts.map((part) => {
      const placed = { ...part, left };
      left += part.width;
      return placed;
    });
  });
}
