import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import type { Observable } from 'rxjs';
import type { StoryWire } from '@core/ground';
import { problemOf } from '../shell/problem';
import { Toasts } from '../shell/toasts';
import { AtPipe } from './pipes';

/** What happened to a record, newest first: who did what, when, and through which way in. Earlier lines come by a button. */
@Component({
  selector: 'dl-story',
  imports: [AtPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>What happened</h2>
    @for (line of newestFirst(); track line.id) {
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
    @if (hasEarlier()) {
      <button type="button" class="btn-link" (click)="showEarlier()">Show earlier events</button>
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
  /** The newest, oldest first; where there are earlier ones, the first line has no id and says so. */
  readonly story = input.required<readonly StoryWire[]>();
  /** Reads what happened before an event. */
  readonly earlier = input.required<(before: string) => Observable<{ readonly story: readonly StoryWire[] }>>();
  private readonly toasts = inject(Toasts);
  /** All that was read of the record: nothing of it ever changes, so what is read anew is only added. */
  private readonly known = linkedSignal<readonly StoryWire[], Known>({
    source: this.story,
    computation: (story, was) => {
      const before = was && was.value.lines.some((line) => line.id !== null && line.id === happened(story)[0]?.id) ? was.value : undefined;
      return before ? { lines: together(before.lines, story), more: before.more } : partOf(story);
    },
  });
  protected readonly hasEarlier = computed(() => this.known().more);
  protected readonly newestFirst = computed(() => [...this.known().lines].reverse());

  protected showEarlier(): void {
    const [first] = this.known().lines;
    if (!first?.id) return;
    this.earlier()(first.id).subscribe({
      next: ({ story }) => this.known.update(({ lines }) => ({ lines: together(story, lines), more: partOf(story).more })),
      error: (fault: unknown) => this.toasts.trouble(problemOf(fault).detail),
    });
  }
}

interface Known {
  readonly lines: readonly StoryWire[];
  /** More happened before these. */
  readonly more: boolean;
}

const happened = (story: readonly StoryWire[]) => story.filter((line) => line.id !== null);
const partOf = (story: readonly StoryWire[]): Known => ({ lines: happened(story), more: story.some((line) => line.id === null) });

/** Each line once, the earlier first. */
function together(earlier: readonly StoryWire[], later: readonly StoryWire[]): readonly StoryWire[] {
  const first = happened(earlier);
  const known = new Set(first.map((line) => line.id));
  return [...first, ...happened(later).filter((line) => !known.has(line.id))];
}
