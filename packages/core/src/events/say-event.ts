import type { SeenFrom } from '../ground';
import { type EventType, type Happenings, OLDER, versionOf, WORDS } from './happening';

/** An event as it is stored: the data is of the shape that its version had. */
export interface StoredEvent {
  readonly type: string;
  readonly version: number;
  readonly data: unknown;
}

export interface SaidEvent {
  readonly what: string;
  readonly detail: string | null;
}

/** The event in the shape it has now. @throws where its type or version is not known: the log holds nothing else */
export function readEvent(stored: StoredEvent): { readonly type: EventType; readonly data: Happenings[EventType] } {
  if (!Object.hasOwn(WORDS, stored.type)) throw new Error(`an event of the type ${stored.type} is not known`);
  const type = stored.type as EventType;
  let data = stored.data;
  for (let version = stored.version; version < versionOf(type); version++) {
    const next = OLDER[type]?.[version];
    if (!next) throw new Error(`nothing says how ${type} of version ${version} is read`);
    data = next(data as never);
  }
  return { type, data: data as Happenings[EventType] };
}

/** What is said of an event in the story of a record; undefined where nothing is. */
export function sayEvent(stored: StoredEvent, seen: SeenFrom): SaidEvent | undefined {
  const { type, data } = readEvent(stored);
  const words = (WORDS[type] as (data: unknown, seen: SeenFrom) => ReturnType<(typeof WORDS)[EventType]>)(data, seen);
  if (words === null) return undefined;
  return typeof words === 'string' ? { what: words, detail: null } : { what: words.what, detail: words.detail || null };
}
