import { inject, Injectable } from '@angular/core';
import { fromEvent, type Observable, Subject } from 'rxjs';
import { DOCUMENT } from '@angular/common';

export interface Shortcut {
  readonly keys: string;
  readonly what: string;
}

/** Shortcuts that hold everywhere. */
export const EVERYWHERE: readonly Shortcut[] = [
  { keys: '/', what: 'find anything, or go anywhere' },
  { keys: 'u', what: 'undo the last thing' },
  { keys: '?', what: 'this help' },
  { keys: 'Esc', what: 'close what is open' },
];

const OFF = 'drumline.single-keys';

/** Single-key shortcuts: never while somebody types, and they can be switched off. */
@Injectable({ providedIn: 'root' })
export class Shortcuts {
  private readonly keys = new Subject<KeyboardEvent>();
  private readonly shown = new Map<object, readonly Shortcut[]>();
  readonly keys$: Observable<KeyboardEvent> = this.keys.asObservable();

  constructor() {
    fromEvent<KeyboardEvent>(inject(DOCUMENT), 'keydown').subscribe((event) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (isTyping(event.target) || document.querySelector('.modal.show')) return;
      // What floats above the page closes first, and only that.
      if (event.key === 'Escape' && document.querySelector('ngb-popover-window')) return;
      if (this.on || event.key === 'Escape') this.keys.next(event);
    });
  }

  get on(): boolean {
    return localStorage.getItem(OFF) !== 'off';
  }

  set on(on: boolean) {
    localStorage.setItem(OFF, on ? 'on' : 'off');
  }

  /** A page says which keys it takes, for the help. */
  register(page: object, shortcuts: readonly Shortcut[]): void {
    this.shown.set(page, shortcuts);
  }

  forget(page: object): void {
    this.shown.delete(page);
  }

  get ofPage(): readonly Shortcut[] {
    return [...this.shown.values()].flat();
  }
}

function isTyping(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return !/^(checkbox|radio|button)$/.test(target.type);
  return target instanceof HTMLElement && (target.isContentEditable || /^(TEXTAREA|SELECT)$/.test(target.tagName));
}
