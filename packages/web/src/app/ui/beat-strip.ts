import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Beat } from '@core/scheduling';
import { formatMinutes } from '@core/ground';

/** Our drawing of a working day: one tick a quarter hour, filled where logged, outlined where booked, faint where free. */
@Component({
  selector: 'dl-beat-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="beats" role="img" [attr.aria-label]="words()" [title]="words()">
      @for (beat of beats(); track $index) {
        <i [class]="beat" [class.full]="$index % 4 === 0"></i>
      }
      @if (nowAt() !== undefined) {
        <b [style.left.%]="nowAt()"></b>
      }
    </span>
  `,
  styles: `
    :host {
      display: block;
    }
    .beats {
      position: relative;
      display: grid;
      grid-auto-flow: column;
      grid-auto-columns: minmax(0, 1fr);
      align-items: end;
      height: 100%;
      min-height: 8px;
    }
    i {
      height: 45%;
      margin-right: 1px;
      box-sizing: border-box;
      border-bottom: 2px solid var(--free);
    }
    i.off {
      border-bottom-color: var(--rule);
    }
    i.booked {
      border: 1px solid var(--run);
      height: 60%;
      background: var(--panel);
    }
    i.logged {
      background: var(--run);
      border: 0;
      height: 60%;
    }
    i.full.booked,
    i.full.logged {
      height: 100%;
    }
    b {
      position: absolute;
      top: -2px;
      bottom: -2px;
      width: 2px;
      background: var(--late);
    }
  `,
})
export class BeatStrip {
  readonly beats = input.required<readonly Beat[]>();
  /** Where now stands, in percent of the width. */
  readonly nowAt = input<number | undefined>(undefined);
  protected readonly words = computed(() => {
    const minutes = (kind: Beat) => formatMinutes(this.beats().filter((b) => b === kind).length * 15);
    return `${minutes('logged')} logged, ${minutes('booked')} booked, ${minutes('free')} free`;
  });
}
