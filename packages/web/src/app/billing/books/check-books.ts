import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { bookRoutes } from '@core/billing';
import { plural } from '@core/ground';
import { Api } from '../../shell/api';
import { askedFor } from '../../ui/asked';

/** Proves that the books agree with themselves, or names what does not. */
@Component({
  selector: 'dl-check-books',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft small">
      Adds up every document again: numbers without a gap, lines, tax, what is billed of each charge, and what is settled. Part of
      <code class="mono">npm run integrity</code>.
    </p>
    <button type="button" class="btn-plain" [disabled]="checked.busy()" (click)="checked.ask()">Check the books now</button>
    @if (checked.found(); as f) {
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
  protected readonly plural = plural;
  protected readonly checked = askedFor(() => this.api.call(bookRoutes.checkBooks, {}));
}
