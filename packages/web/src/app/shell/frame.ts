import { ChangeDetectionStrategy, Component, DestroyRef, inject, TemplateRef, viewChild } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterOutlet } from '@angular/router';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { Here } from './here';
import { Live } from './live';
import { Rail } from './rail';
import { EVERYWHERE, Shortcuts } from './shortcuts';
import { Toasts } from './toasts';
import { TopBar } from './top-bar';

/** Rail, top bar and the page. */
@Component({
  selector: 'dl-frame',
  imports: [RouterOutlet, Rail, TopBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <a class="skip" href="#main">Skip to the page</a>
    <dl-rail />
    <div class="right">
      <dl-top-bar />
      <main id="main" tabindex="-1"><router-outlet /></main>
    </div>
    <ng-template #help let-modal>
      <div class="modal-header">
        <h2 id="help-title">Keys</h2>
        <button type="button" class="btn-link" (click)="modal.close()">Close <kbd>Esc</kbd></button>
      </div>
      <div class="modal-body">
        <table class="keys">
          @for (line of keys.ofPage; track line.keys) {
            <tr>
              <td>
                <kbd>{{ line.keys }}</kbd>
              </td>
              <td>{{ line.what }}</td>
            </tr>
          }
          @for (line of everywhere; track line.keys) {
            <tr>
              <td>
                <kbd>{{ line.keys }}</kbd>
              </td>
              <td>{{ line.what }} <span class="soft small">everywhere</span></td>
            </tr>
          }
        </table>
        <p class="soft small">Keys of one letter can be switched off in the menu under your name.</p>
      </div>
    </ng-template>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 148px minmax(0, 1fr);
      height: 100%;
    }
    .right {
      display: flex;
      flex-direction: column;
      min-width: 0;
      min-height: 0;
    }
    main {
      flex: 1;
      min-height: 0;
      outline: none;
    }
    @media (max-width: 760px) {
      :host {
        grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
      }
    }
    .skip {
      position: absolute;
      left: -999px;
    }
    .skip:focus {
      left: 8px;
      top: 8px;
      z-index: 99;
      background: var(--panel);
      padding: 8px;
    }
    .keys td {
      padding: 4px 12px 4px 0;
    }
  `,
})
export class Frame {
  protected readonly keys = inject(Shortcuts);
  protected readonly everywhere = EVERYWHERE;
  private readonly help = viewChild.required<TemplateRef<unknown>>('help');

  constructor() {
    inject(Here);
    const [live, toasts, modal, destroyed] = [inject(Live), inject(Toasts), inject(NgbModal), inject(DestroyRef)];
    live.start();
    destroyed.onDestroy(() => live.stop());
    this.keys.keys$.pipe(takeUntilDestroyed(destroyed)).subscribe((event) => {
      if (event.key === '?') modal.open(this.help(), { ariaLabelledBy: 'help-title', animation: false });
      if (event.key === 'u') toasts.undoLatest();
    });
  }
}
