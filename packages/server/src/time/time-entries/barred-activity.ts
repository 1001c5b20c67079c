import { refuse, type Refusal } from '@core/ground';
import type { Kind } from '@core/desk';
import type { HouseBook } from '../../house/house/house-book';

/** Kinds may leave only some activities to choose. */
export function barredActivity(book: HouseBook, kind: Kind | 'unsorted', activityId: string): Refusal | undefined {
  const allowed = book.activitiesOf(kind);
  if (!allowed.length || allowed.includes(activityId)) return undefined;
  const names = allowed.map((id) => book.activity(id)?.name).join(', ');
  return refuse('invalid', `${book.activity(activityId)!.name} is not for tickets of the kind ${kind}; ${names} are.`, {
    activityId: `one of ${names}`,
  });
}
