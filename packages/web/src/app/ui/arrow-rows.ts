import { Directive, ElementRef, inject } from '@angular/core';

/** Up and down move the focus among the rows marked data-row; Home and End go to the ends. */
@Directive({ selector: '[dlArrowRows]', host: { '(keydown)': 'move($event)' } })
export class ArrowRows {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

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
