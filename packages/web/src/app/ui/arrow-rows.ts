import { DestroyRef, Directive, ElementRef, inject } from '@angular/core';

/**
 * Up and down move the focus among the rows marked data-row; Home and End go to the ends. A row that moves, as its figures
 * changed, keeps the focus: a browser takes it from what is moved.
 */
@Directive({
  selector: '[dlArrowRows]',
  host: { '(keydown)': 'move($event)', '(focusout)': 'lose($event)' },
})
export class ArrowRows {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** What lost the focus to nothing in this turn. */
  private lost: HTMLElement | undefined;

  constructor() {
    const moved = new MutationObserver(() => {
      if (!this.lost?.isConnected || document.activeElement !== document.body) return;
      this.lost.focus({ preventScroll: true });
      this.lost = undefined;
    });
    moved.observe(this.host.nativeElement, { childList: true, subtree: true });
    inject(DestroyRef).onDestroy(() => moved.disconnect());
  }

  protected lose({ target, relatedTarget }: FocusEvent): void {
    this.lost = relatedTarget === null ? (target as HTMLElement) : undefined;
    // Whoever presses elsewhere moves no row in the same turn.
    setTimeout(() => (this.lost = undefined));
  }

  protected move(event: KeyboardEvent): void {
    const steps: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, Home: -1e6, End: 1e6 };
    const step = steps[event.key];
    if (step === undefined || /^(INPUT|TEXTAREA|SELECT)$/.test((event.target as HTMLElement).tagName)) return;
    const rows = [...this.host.nativeElement.querySelectorAll<HTMLElement>('[data-row]')];
    const at = rows.findIndex((row) => row.contains(document.activeElement));
    const next = rows[Math.min(rows.length - 1, Math.max(0, at + step))];
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.scrollIntoView({ block: 'nearest' });
  }
}
