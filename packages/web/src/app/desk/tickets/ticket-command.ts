import type { Observable } from 'rxjs';
import type { ActionTime, HoldReason } from '@core/desk';
import type { Id } from '@core/ground';

/** What is sent along when a ticket moves. */
export interface Moving {
  readonly holdReason?: HoldReason | null;
  /** Why a closing check is overruled. */
  readonly override?: string | null;
  readonly ownStatusId?: Id<'own_status'> | null;
  readonly time?: ActionTime | null;
}

/** Shows what was refused of some fields where they stand; answers whether it is still to be said. */
export type ShownElsewhere = (fields: Readonly<Record<string, string>> | undefined) => boolean;

/** A command on a ticket, what is said once it is done, and how it is undone. */
export interface TicketCommand<T> {
  readonly command: Observable<T>;
  readonly words: string | undefined;
  readonly undo?: (done: T) => void;
  readonly elsewhere?: ShownElsewhere;
}
