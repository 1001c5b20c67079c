import { type AccessRole, type Id, nameOf, type WayIn, type Who } from '@core/ground';

/** Who acts, and through which way in. Made by the functions here alone, so that its parts agree. */
export interface Actor {
  readonly who: Who;
  /** The id of a person of the house; null for anybody else. */
  readonly personId: Id<'person'> | null;
  readonly name: string;
  readonly role: AccessRole | null;
  /** The divisions that are seen and changed; null is all of them. */
  readonly divisions: readonly string[] | null;
  readonly via: WayIn;
  /** The API token that was shown, where one was. */
  readonly tokenId?: Id<'api_token'> | undefined;
}

const actor = (who: Who, via: WayIn): Actor => ({ who, personId: null, name: nameOf(who), role: null, divisions: null, via });

interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: AccessRole | null;
}

export function byPerson({ id, name, role }: Person, via: WayIn, tokenId?: Id<'api_token'>): Actor {
  return { ...actor({ is: 'person', id, name }, via), personId: id, role, tokenId };
}

/** Who acted, as the log and decisions keep it. */
export function whoColumns({ who, name }: Actor): { readonly who: Who['is']; readonly who_id: string | null; readonly who_name: string } {
  return { who: who.is, who_id: 'id' in who ? who.id : null, who_name: name };
}

/** Who acts, in one text that no other has. */
export function keyOf(actor: Actor): string {
  const { who, who_id, who_name } = whoColumns(actor);
  return who === 'nobody' ? who : `${who} ${who_id ?? who_name}`;
}

/** A contact of a client, who wrote a mail or used a page that needs no sign-in. */
export function byContact({ id, name }: { readonly id: string | null; readonly name: string }, via: 'mail' | 'page'): Actor {
  return actor({ is: 'contact', id, name }, via);
}

export function byJob(name: string): Actor {
  return actor({ is: 'job', name }, 'job');
}

export function byRule({ id, name }: { readonly id: string; readonly name: string }, via: WayIn): Actor {
  return actor({ is: 'rule', id, name }, via);
}

/** Another system, by what it answered or sent. */
export function bySystem(name: string, via: WayIn = 'system'): Actor {
  return actor({ is: 'system', name }, via);
}

/** Somebody who is not known, through a page or a mail that anybody can use. */
export function byNobody(via: WayIn): Actor {
  return actor({ is: 'nobody' }, via);
}
