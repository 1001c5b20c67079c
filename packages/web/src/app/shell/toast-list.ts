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
          <button type="button" class="btn-link" (click)="toasts.dismiss(toast.id)" aria-label="Dismiss">Close</button>
        </div>
      }
    </div>
  `,
  styles: `
    .toasts {
      position: fixed;
      left: 164px;
      bottom: 16px;
      z-index: 1100;
      display: grid;
      gap: 8px;
      max-width: 640px;
    }
    .toast-line {
      background: var(--ink);
      color: var(--paper);
      border-radius: 4px;
      padding: 8px 14px;
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
