import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { BehaviorSubject } from 'rxjs';
import { Api } from './api';
import { accessRoutes } from '@core/house';
import { problemOf, type Problem } from './problem';

const ASK_MS = 2000;

/** The database or the server is away before anything could be shown: says so and goes on by itself. */
@Injectable({ providedIn: 'root' })
export class Outage {
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly problem = new BehaviorSubject<Problem | undefined>(undefined);
  readonly problem$ = this.problem.asObservable();

  show(problem: Problem, wanted: string): void {
    this.problem.next(problem);
    setTimeout(() => this.ask(wanted), ASK_MS);
  }

  private ask(wanted: string): void {
    const goOn = () => {
      this.problem.next(undefined);
      void this.router.navigateByUrl(wanted);
    };
    this.api.call(accessRoutes.getSession, {}).subscribe({
      next: goOn,
      error: (fault: unknown) => (problemOf(fault).status === 401 ? goOn() : setTimeout(() => this.ask(wanted), ASK_MS)),
    });
  }
}
