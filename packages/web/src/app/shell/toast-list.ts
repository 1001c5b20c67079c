import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Toasts, type Toast } from './toasts';

@Component({
  selector: 'dl-toast-list',
  imports: [AsyncPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="toasts" aria-live="polite" role="status">
      @for (toast of toasts.toasts$ | async; track toast.id) {
        <div class="toast-line" [class.trouble]="toast.kind === 'trouble'">
          <span>{{ toast.text }}</span>
          @if (toast.undo) {
            <button type="button" class="btn-link" (click)="undo(toast)">Undo <kbd>u</kbd></button>
          }
          <button type="button" class="btn-link" (click)="toasts.dismiss(toast.id)">Close</button>
        </div>
      }
    </div>
  `,
  styles: `
    .toasts {
      /* In the free room of the top bar: over no row, no button and no text that somebody works on. */
      position: fixed;
      left: 462px;
      right: max(16px, 100vw - 1010px);
      top: 4px;
      z-index: 1100;
      display: grid;
      gap: 6px;
      justify-items: start;
      /* What is free of words beside them is the page's. */
      pointer-events: none;
    }
    @media (max-width: 760px) {
      .toasts {
        left: 8px;
        right: 8px;
        top: 52px;
      }
    }
    .toast-line {
      pointer-events: auto;
      background: var(--ink);
      color: var(--paper);
      border-radius: 4px;
      padding: 8px 14px;
      min-height: 40px;
      box-sizing: border-box;
      display: flex;
      gap: 14px;
      align-items: center;
      box-shadow: var(--shadow);
    }
    .toast-line.trouble {
      background: var(--late-wash);
      color: var(--late);
      border: 1px solid var(--late);
    }
    .toast-line .btn-link {
      color: inherit;
      white-space: nowrap;
    }
  `,
})
export class ToastList {
  protected readonly toasts = inject(Toasts);

  protected undo(toast: Toast): void {
    this.toasts.dismiss(toast.id);
    toast.undo!();
  }
}
