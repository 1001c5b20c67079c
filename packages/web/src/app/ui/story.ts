import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { StoryWire } from '@core/ground';
import { AtPipe } from './pipes';

/** What happened to a record, newest first: who did what, when, and through which way in. */
@Component({
  selector: 'dl-story',
  imports: [AtPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>What happened</h2>
    @for (line of newestFirst(); track $index) {
      <p>
        <span class="mono small soft">{{ line.at | at }}</span> <b>{{ line.who }}</b> {{ line.what }}
        @if (line.detail) {
          <span class="soft small">{{ line.detail }}</span>
        }
        @if (line.via === 'api') {
          <span class="soft small">by script</span>
        }
      </p>
    } @empty {
      <p class="soft small">Nothing since it came here.</p>
    }
  `,
  styles: `
    h2 {
      margin: 18px 0 6px;
    }
    p {
      border-bottom: 1px solid var(--rule);
      padding: 5px 0;
    }
  `,
})
export class Story {
  readonly story = input.required<readonly StoryWire[]>();

  protected newestFirst(): readonly StoryWire[] {
    return [...this.story()].reverse();
  }
}
