import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { umbrellaRoutes } from '@core/desk';
import { Api } from '../../shell/api';
import { askedFor } from '../../ui/asked';

/** Proves that no member of an umbrella runs and no reply is hidden, or names the tickets where it is not so. */
@Component({
  selector: 'dl-integrity',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft small">
      Replays the clocks of every umbrella and member and compares them with what is stored. The same as the command
      <code class="mono">npm run integrity</code>.
    </p>
    <button type="button" class="btn-plain" [disabled]="checked.busy()" (click)="checked.ask()">Check now</button>
    @if (checked.found(); as f) {
      <p role="status" [class.met]="!f.findings.length">
        {{ f.umbrellas }} umbrellas, {{ f.members }} members now:
        {{ f.findings.length ? f.findings.length + ' things are wrong.' : 'no member runs, and no reply is hidden.' }}
      </p>
      @for (finding of f.findings; track $index) {
        <p class="late">
          <a [routerLink]="['/tickets', finding.ticketId]">{{ finding.what }}</a>
        </p>
      }
    }
  `,
})
export class Integrity {
  private readonly api = inject(Api);
  protected readonly checked = askedFor(() => this.api.call(umbrellaRoutes.checkUmbrellas, {}));
}
