import type { WordsOf } from '../../ground';

/** A record of Setup that is a name and some columns: a canned reply, a kind of absence, an activity. */
interface SetupRecord {
  readonly record: string;
  readonly name: string;
}

/** What happened in Setup. Each domain adds its own. */
export interface HouseEvents {
  'setup.added': SetupRecord;
  'setup.changed': SetupRecord;
  'setup.put-away': { readonly record: string };
  'setup.moves-changed': Record<never, never>;
  'setup.kinds-changed': Record<never, never>;
  'setup.holidays-set': { readonly region: string | null };
}

export const houseWords: WordsOf<HouseEvents> = {
  'setup.added': ({ record, name }) => `added the ${record} ${name}`,
  'setup.changed': ({ record, name }) => `changed the ${record} ${name}`,
  'setup.put-away': ({ record }) => `put ${/^[aeiou]/.test(record) ? 'an' : 'a'} ${record} away`,
  'setup.moves-changed': () => 'changed what must hold before tickets move',
  'setup.kinds-changed': () => 'changed what holds for kinds of tickets',
  'setup.holidays-set': ({ region }) => `set public holidays to those of ${region ?? 'nowhere'}`,
};
