import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { BehaviorSubject, map, merge, shareReplay, startWith, Subject, tap } from 'rxjs';
import { promiseRoutes, type PromiseTargets, type PromiseWire } from '@core/desk';
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
  readonly promise: PromiseWire | undefined;
  readonly name: string;
  readonly targets: PromiseTargets;
  readonly applyToOpen: boolean;
  readonly wrong: Readonly<Record<string, string>>;
}

/** The promises: what each allows, changed as a next version, and tried out before it holds. */
@Component({
  selector: 'dl-promises-page',
  imports: [AsyncPipe, RouterLink, StateNote, TargetTable, TryOut],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './promises.page.html',
  styleUrl: './promises.page.css',
})
export class PromisesPage {
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  protected readonly session = inject(Session);
  protected readonly again = new Subject<void>();
  protected readonly draft = new BehaviorSubject<Draft | undefined>(undefined);
  protected readonly list$ = loading(merge(inject(Live).about('house'), this.again).pipe(startWith(undefined)), () =>
    this.api.call(promiseRoutes.listPromises, {}).pipe(map((a) => a.promises)),
  ).pipe(
    tap((l) => l.is === 'there' && !this.draft.value && l.value[0] && this.choose(l.value.find((p) => p.isHouseDefault) ?? l.value[0])),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  protected choose(promise: PromiseWire): void {
    this.draft.next({ promise, name: promise.name, targets: promise.targets, applyToOpen: false, wrong: {} });
  }

  /** A new promise begins as a copy of the one that is shown. */
  protected copy(): void {
    const now = this.draft.value;
    if (now) this.draft.next({ ...now, promise: undefined, name: '', wrong: {} });
  }

  protected patch(part: Partial<Draft>): void {
    this.draft.next({ ...this.draft.value!, ...part });
  }

  /** Whether something differs from what is stored. */
  protected changed(d: Draft): boolean {
    return !d.promise || d.name !== d.promise.name || JSON.stringify(d.targets) !== JSON.stringify(d.promise.targets);
  }

  protected save(event: Event): void {
    event.preventDefault();
    const { promise, name, targets, applyToOpen } = this.draft.value!;
    const body = { name, targets, applyToOpen };
    const command = promise
      ? this.api.call(promiseRoutes.editPromise, { params: { promiseId: promise.id }, version: promise.version, body })
      : this.api.call(promiseRoutes.createPromise, { body });
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
