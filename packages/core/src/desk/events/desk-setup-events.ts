import { formatMinutes, type Id, type WordsOf } from '../../ground';
import type { InsideReach } from '../tickets';

type Nothing = Record<never, never>;
interface Named {
  readonly name: string;
}

export interface DeskSetupEvents {
  'category.added': Named;
  'category.changed': Named;
  'category.put-away': Nothing;
  'flat-fee.added': Named;
  'flat-fee.changed': Named;
  'flat-fee.put-away': Nothing;
  'mail-rule.added': Named;
  'mail-rule.changed': Named;
  'mail-rule.moved': Named & { readonly position: number };
  'mail-rule.put-away': Named;
  'promise.version-made': Named & { readonly version: number };
  'desk.usual-activity-set': Named & { readonly activityId: Id<'activity'> | null; readonly activity: string | null };
  'desk.inside-reach-set': Named & { readonly reach: InsideReach };
  'desk.lines-changed': Nothing;
  'setup.escalation-changed': { readonly afterMessages: number | null; readonly againMinutes: number };
  'setup.on-call-added': { readonly personId: Id<'person'>; readonly person: string };
  'setup.on-call-removed': Nothing;
  'setup.third-party-added': Named;
  'setup.third-party-removed': Nothing;
}

export const deskSetupWords: WordsOf<DeskSetupEvents> = {
  'category.added': ({ name }) => `added the category ${name}`,
  'category.changed': ({ name }) => `changed the category ${name}`,
  'category.put-away': () => 'put a category away',
  'flat-fee.added': ({ name }) => `added the flat fee ${name}`,
  'flat-fee.changed': ({ name }) => `changed the flat fee ${name}`,
  'flat-fee.put-away': () => 'put a flat fee away',
  'mail-rule.added': ({ name }) => `added the mail rule ${name}`,
  'mail-rule.changed': ({ name }) => `changed the mail rule ${name}`,
  'mail-rule.moved': ({ name, position }) => `asks the mail rule ${name} at place ${position}`,
  'mail-rule.put-away': ({ name }) => `took off the mail rule ${name}`,
  'promise.version-made': ({ name, version }) => `made version ${version} of the promise ${name}`,
  'desk.usual-activity-set': ({ name, activity }) => `set what work of ${name} usually is to ${activity ?? 'what each person does'}`,
  'desk.inside-reach-set': ({ name, reach }) =>
    `opened what is inside of ${name}'s tickets to ${reach === 'team' ? 'its team' : 'the house'}`,
  'desk.lines-changed': () => 'changed the lines of the desks',
  'setup.escalation-changed': ({ againMinutes }) =>
    `changed when the on-call person is rung, and again after ${formatMinutes(againMinutes)}`,
  'setup.on-call-added': ({ person }) => `put ${person} on call`,
  'setup.on-call-removed': () => 'took somebody off call',
  'setup.third-party-added': ({ name }) => `marked ${name} as a third party`,
  'setup.third-party-removed': () => 'took a third party off the list',
};
