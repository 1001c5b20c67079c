import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';

interface Person {
  readonly id: string;
  readonly name: string;
}
const MOST = 6;

/** The people that what stands after an @ could name; arrows and Enter choose, a click too. */
@Component({
  selector: 'dl-mention-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shown().length) {
      <ul role="listbox" aria-label="Ask for">
        @for (p of shown(); track p.id; let i = $index) {
          <li
            role="option"
            [attr.aria-selected]="i === at()"
            [class.at]="i === at()"
            (mousedown)="$event.preventDefault(); chosen.emit(p.name)"
          >
            {{ p.name }}
          </li>
        }
      </ul>
    }
  `,
  styles: `
    ul {
      position: absolute;
      z-index: 20;
      bottom: 100%;
      left: 12px;
      margin: 0;
      padding: 4px;
      list-style: none;
      background: var(--panel);
      border: 1px solid var(--brass);
      border-radius: 4px;
      box-shadow: var(--shadow);
    }
    li {
      padding: 4px 12px;
      cursor: pointer;
      border-radius: 4px;
    }
    li.at {
      background: var(--wash);
    }
  `,
})
export class MentionList {
  readonly people = input.required<readonly Person[]>();
  /** The text up to the caret. */
  readonly before = input.required<string>();
  readonly chosen = output<string>();
  private readonly moved = signal(0);
  private readonly typed = computed(() => /(?:^|[\s(])@([\p{L}][\p{L} ]{0,30}|)$/u.exec(this.before())?.[1]);
  protected readonly shown = computed(() => {
    const typed = this.typed()?.toLowerCase();
    if (typed === undefined) return [];
    const fits = this.people().filter((p) => p.name.toLowerCase().startsWith(typed) || p.name.toLowerCase().includes(` ${typed}`));
    // A name that stands there whole needs no list.
    return fits.some((p) => p.name.toLowerCase() === typed.trim()) ? [] : fits.slice(0, MOST);
  });
  protected readonly at = computed(() => Math.min(this.moved(), this.shown().length - 1));

  /** Takes a key while the list is open; tells whether it was for the list. */
  key(event: KeyboardEvent): boolean {
    const count = this.shown().length;
    if (!count) return false;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp')
      this.moved.set((this.at() + (event.key === 'ArrowDown' ? 1 : count - 1)) % count);
    else if ((event.key === 'Enter' || event.key === 'Tab') && !event.ctrlKey && !event.metaKey)
      this.chosen.emit(this.shown()[this.at()]!.name);
    else return false;
    event.preventDefault();
    return true;
  }
}
