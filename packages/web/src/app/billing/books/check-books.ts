import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { bookRoutes, type BooksWire } from '@core/billing';
import { plural } from '@core/ground';
import { Api } from '../../shell/api';
import { Toasts } from '../../shell/toasts';

/** Proves that the books agree with themselves, or names what does not. */
@Component({
  selector: 'dl-check-books',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft small">
      Adds up every document again: numbers without a gap, lines, tax, what is billed of each charge, and what is settled. Part of
      <code class="mono">npm run integrity</code>.
    </p>
    <button type="button" class="btn-plain" [disabled]="busy()" (click)="check()">Check the books now</button>
    @if (found(); as f) {
      <p role="status" [class.met]="!f.findings.length">
        {{ plural(f.documents, 'document') }}, {{ plural(f.charges, 'charge') }}:
        {{ f.findings.length ? f.findings.length + ' things are wrong.' : 'the books agree.' }}
      </p>
      @for (finding of f.findings; track $index) {
        <p class="late">{{ finding.at }}: {{ finding.rule }}: there is {{ finding.is }}, should be {{ finding.shouldBe }}</p>
      }
    }
  `,
})
export class CheckBooks {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly plural = plural;
  protected readonly busy = signal(false);
  protected readonly found = signal<BooksWire | undefined>(undefined);

  protected check(): void {
    this.busy.set(true);
    this.api.call(bookRoutes.checkBooks, {}).subscribe({
      next: (found) => {
        this.found.set(found);
        this.busy.set(false);
      },
      error: (fault: unknown) => {
        this.busy.set(false);
        this.toasts.trouble(fault);
      },
    });
  }
}
