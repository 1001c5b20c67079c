import { AsyncPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { combineLatest, merge, shareReplay, startWith, Subject, tap, timer } from 'rxjs';
import { withNeeds, planningRoutes, type ChangeWire, type PlanWire } from '@core/scheduling';
import { sayWork, sayWorkShortly } from '@core/ground';
import { Api } from '../../shell/api';
import { Live } from '../../shell/live';
import { Toasts } from '../../shell/toasts';
import { loading } from '../../ui/loading';
import { AtPipe, MinutesPipe } from '../../ui/pipes';
import { StateNote } from '../../ui/state-note';
import { Why } from '../../ui/why';
import { DispatchState } from './dispatch.state';

/** A plan while it is made, then what it would change: accept all of it or some. */
@Component({
  selector: 'dl-plan-panel',
  imports: [AsyncPipe, AtPipe, MinutesPipe, StateNote, Why],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-panel.html',
  styleUrl: './plan-panel.css',
})
export class PlanPanel {
  readonly planId = input.required<string>();
  readonly closed = output<void>();
  private readonly api = inject(Api);
  private readonly toasts = inject(Toasts);
  private readonly state = inject(DispatchState);
  protected readonly again = new Subject<void>();
  protected readonly say = sayWork;
  protected readonly shortly = sayWorkShortly;
  private readonly plan = signal<PlanWire | undefined>(undefined);
  /** What is not to be done, by work; all else of the plan is chosen. */
  private readonly refused = signal<ReadonlySet<string>>(new Set());
  protected readonly chosen = computed(() => {
    const changes = this.plan()?.changes ?? [];
    const wanted = new Set(changes.map((c) => c.pieceId).filter((id) => !this.refused().has(id)));
    return withNeeds(changes as never, wanted);
  });
  protected readonly plan$ = loading(
    combineLatest([toObservable(this.planId), merge(inject(Live).about('plan'), this.again, timer(400, 1500)).pipe(startWith(undefined))]),
    ([planId]) => this.api.call(planningRoutes.getPlan, { params: { planId } }),
  ).pipe(
    tap((p) => p.is === 'there' && this.plan.set(p.value)),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  protected switch(change: ChangeWire): void {
    this.refused.update((was) => {
      const next = new Set(was);
      if (!next.delete(change.pieceId)) next.add(change.pieceId);
      return next;
    });
  }

  protected moves(change: ChangeWire): string {
    return { book: 'new', move: 'moves', 'hand over': 'handed over' }[change.how];
  }

  protected stop(): void {
    this.api.call(planningRoutes.stopPlan, { params: { planId: this.planId() } }).subscribe({
      next: () => this.again.next(),
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }

  protected accept(): void {
    const pieceIds = [...this.chosen()];
    this.api.call(planningRoutes.acceptPlan, { params: { planId: this.planId() }, body: { pieceIds } }).subscribe({
      next: ({ made }) => {
        this.toasts.done(`${made} ${made === 1 ? 'change' : 'changes'} made`);
        this.state.retry();
        this.closed.emit();
      },
      error: (fault: unknown) => this.toasts.trouble(fault),
    });
  }
}
