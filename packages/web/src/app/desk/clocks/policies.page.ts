import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BehaviorSubject, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { policyRoutes, type PolicyTargets, type PolicyWire } from '@core/desk';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Session } from '../../shell/session';
import { Toasts } from '../../shell/toasts';
import { problemOf } from '../../shell/problem';
import { loading } from '../../ui/loading';
import { StateNote } from '../../ui/state-note';
import { TargetTable } from './target-table';
import { TryOut } from './try-out';

interface Draft {
  readonly policy: PolicyWire | undefined;
  readonly name: string;
  readonly targets: PolicyTargets;
  readonly applyToOpen: boolean;
  readonly wrong: Readonly<Record<string, string>>;
}

/** The promises: what each policy allows, changed as a next version, and tried out before it holds. */
@Component({
  selector: 'dl-policies-page',
  imports: [AsyncPipe, RouterLink, StateNote, TargetTable, TryOut],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './policies.page.html',
  styleUrl: './policies.page.css',
})
export class PoliciesPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly draft = new BehaviorSubject<Draft | undefined>(undefined);
  protected readonly list$ = loading(merge(inject(Live).about('house'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(policyRoutes.listPolicies, {}).pipe(map((a) => a.policies)),
  ).pipe(
    tap((l) => l.is === 'there' && !this.draft.value && l.value[0] && this.choose(l.value.find((p) => p.isHouseDefault) ?? l.value[0])),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  protected choose(policy: PolicyWire): void {
    this.draft.next({ policy, name: policy.name, targets: policy.targets, applyToOpen: false, wrong: {} });
  }

  /** A new policy begins as a copy of the one that is shown. */
  protected copy(): void {
    const now = this.draft.value;
    if (now) this.draft.next({ ...now, policy: undefined, name: '', wrong: {} });
  }

  protected patch(part: Partial<Draft>): void {
    this.draft.next({ ...this.draft.value!, ...part });
  }

  /** Whether something differs from what is stored. */
  protected changed(d: Draft): boolean {
    return !d.policy || d.name !== d.policy.name || JSON.stringify(d.targets) !== JSON.stringify(d.policy.targets);
  }

  protected save(event: Event): void {
    event.preventDefault();
    const { policy, name, targets, applyToOpen } = this.draft.value!;
    const body = { name, targets, applyToOpen };
    const command = policy
      ? this.api.call(policyRoutes.editPolicy, { params: { policyId: policy.id }, version: policy.version, body })
      : this.api.call(policyRoutes.createPolicy, { body });
    command.subscribe({
      next: (done) => {
        this.toasts.done(`${name}, version ${done.version}, holds for new tickets${applyToOpen ? ' and for those that are open' : ''}`);
        this.draft.next(undefined);
        this.again.next();
      },
      error: (fault: unknown) => {
        this.patch({ wrong: problemOf(fault).fields ?? {} });
        this.toasts.trouble(fault);
      },
    });
  }
}
