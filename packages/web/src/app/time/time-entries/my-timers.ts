import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { type Id, sayWork } from '@core/ground';
import type { TimerWire } from '@core/time';
import { Session } from '../../shell/session';
import { Timers } from '../../shell/timers';
import { SecondsPipe } from '../../ui/pipes';
import { WorkLink } from '../../ui/work-link';
import { LogTime } from './log-time';
import { WorkFinder, type WorkedOn } from '../../ui/work-finder';

/** One running timer and several paused ones: each paused, resumed, logged, moved to other work or thrown away. */
@Component({
  selector: 'dl-my-timers',
  imports: [LogTime, SecondsPipe, WorkFinder, WorkLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './my-timers.html',
  styleUrl: './my-time.page.css',
})
export class MyTimers {
  readonly timers = input.required<readonly TimerWire[]>();
  protected readonly own = inject(Timers);
  protected readonly session = inject(Session);
  protected readonly logging = signal<string | undefined>(undefined);
  /** The timer whose count goes to other work. */
  protected readonly moving = signal<string | undefined>(undefined);

  protected moveTimer(timerId: Id<'timer'>, work: WorkedOn): void {
    this.moving.set(undefined);
    this.own.move(timerId, work.workId, `The timer is on ${sayWork(work)} now`);
  }

  protected discard(timerId: Id<'timer'>): void {
    this.own.discard(timerId);
  }
}
