import { computed, inject, Injectable, signal } from '@angular/core';
import { umbrellaRoutes, type MemberWire } from '@core/desk';
import type { Id } from '@core/ground';
import { Api } from '../../shell/api';
import { problemOf } from '../../shell/problem';

/** The members of the umbrella on the page, and who of them gets the next update. */
@Injectable()
export class UmbrellaState {
  private readonly api = inject(Api);
  readonly members = signal<readonly MemberWire[]>([]);
  readonly trouble = signal('');
  private readonly leftOut = signal<ReadonlySet<string>>(new Set());
  readonly now = computed(() => this.members().filter((m) => m.ended === null));
  /** The ids of those who get the next update: all, but who was left out. */
  readonly chosen = computed(
    () =>
      this.now()
        .filter((m) => !this.leftOut().has(m.id))
        .map((m) => m.id),
    // Members read anew are no other choice: a preview stays open under the reader's eyes.
    { equal: (a, b) => a.join() === b.join() },
  );

  load(ticketId: Id<'ticket'>): void {
    this.api.call(umbrellaRoutes.listMembers, { params: { ticketId } }).subscribe({
      next: ({ members }) => {
        this.members.set(members);
        this.trouble.set('');
      },
      error: (fault: unknown) => this.trouble.set(problemOf(fault).detail),
    });
  }

  isChosen(id: Id<'ticket'>): boolean {
    return !this.leftOut().has(id);
  }

  choose(id: Id<'ticket'>, yes: boolean): void {
    const next = new Set(this.leftOut());
    if (yes) next.delete(id);
    else next.add(id);
    this.leftOut.set(next);
  }
}
