import { plural, type WordsOf } from '../../ground';

type Nothing = Record<never, never>;

export interface PersonEvents {
  'person.token-made': { readonly label: string };
  'person.token-revoked': { readonly label: string };
  /** Of a division that has another role, or none, than everywhere else. */
  'person.access-set': {
    readonly role: string;
    readonly exceptions: readonly { readonly division: string; readonly role: string | null }[];
  };
  'person.cost-rate-set': { readonly from: string };
  'person.password-changed': Nothing;
  'person.reset-link-made': Nothing;
  'person.password-reset': Nothing;
  'person.pattern-changed': Nothing;
  'person.shifts-set': { readonly days: number };
  'person.shift-removed': { readonly day: string };
  'person.home-changed': Nothing;
  'person.skill-set': { readonly skill: string; readonly level: number | null };
  'person.time-away-added': { readonly reason: string };
  'person.time-away-removed': Nothing;
}

export const personWords: WordsOf<PersonEvents> = {
  'person.token-made': ({ label }) => `made the API token "${label}"`,
  'person.access-set': ({ role, exceptions }) =>
    `set access to ${[role, ...exceptions.map((e) => `${e.role ?? 'none'} in ${e.division}`)].join(', ')}`,
  'person.token-revoked': ({ label }) => `revoked the API token "${label}"`,
  'person.cost-rate-set': ({ from }) => `said what an hour costs from ${from}`,
  'person.password-changed': () => 'changed the password',
  'person.reset-link-made': () => 'made a link to set a new password',
  'person.password-reset': () => 'set a new password by a link',
  'person.pattern-changed': () => 'changed the hours of the week',
  'person.shifts-set': ({ days }) => `set shifts on ${plural(days, 'day')}`,
  'person.shift-removed': ({ day }) => `took the shift of ${day} away`,
  'person.home-changed': () => 'changed where the day begins and whose holidays hold',
  'person.skill-set': ({ skill, level }) => (level === null ? `took the skill ${skill} away` : `set the skill ${skill} to level ${level}`),
  'person.time-away-added': ({ reason }) => `wrote down time away: ${reason}`,
  'person.time-away-removed': () => 'took time away off again',
};
