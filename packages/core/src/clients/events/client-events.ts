import { type Changes, type Id, sayChanges, type Was, type WordsOf } from '../../ground';

type Nothing = Record<never, never>;
/** Own fields that changed, by their names. */
type OwnFields = Readonly<Record<string, Was<unknown>>>;

export interface ClientEvents {
  'asset.added': { readonly number: string };
  'asset.changed': { readonly changes: Changes; readonly fields: OwnFields };
  'asset.put-away': Nothing;
  'asset.brought-back': Nothing;
  'client.added': { readonly name: string };
  'client.changed': { readonly changes: Changes; readonly fields: OwnFields };
  'client.put-away': Nothing;
  'client.brought-back': Nothing;
  'client.site-added': { readonly siteId: Id<'site'>; readonly name: string };
  'client.site-changed': { readonly siteId: Id<'site'>; readonly name: string; readonly changes: Changes };
  'client.contact-added': { readonly contactId: Id<'contact'>; readonly name: string };
  'client.contact-changed': {
    readonly contactId: Id<'contact'>;
    readonly name: string;
    readonly changes: Changes;
    readonly fields: OwnFields;
  };
  'contact.put-away': Nothing;
  'contact.brought-back': Nothing;
  'client.promise-set': {
    /** Null is the promise of the house, and our calendar. */
    readonly promiseId: Was<Id<'promise'> | null>;
    readonly promise: string | null;
    readonly calendarId: Was<Id<'calendar'> | null>;
    readonly calendar: string | null;
    readonly openTicketsToo: boolean;
  };
}

export const clientWords: WordsOf<ClientEvents> = {
  'asset.added': ({ number }) => `added ${number}`,
  'asset.changed': ({ changes, fields }) => `changed ${whatOf(changes, fields)}`,
  'asset.put-away': () => 'put away',
  'asset.brought-back': () => 'brought back',
  'client.added': ({ name }) => `added ${name}`,
  'client.changed': ({ changes, fields }) => `changed ${whatOf(changes, fields)}`,
  'client.put-away': () => 'put away',
  'client.brought-back': () => 'brought back',
  'client.site-added': ({ name }) => `added the site ${name}`,
  'client.site-changed': ({ name, changes }) => `changed the site ${name}: ${whatOf(changes, {})}`,
  'client.contact-added': ({ name }) => `added the contact ${name}`,
  'client.contact-changed': ({ name, changes, fields }) => `changed the contact ${name}: ${whatOf(changes, fields)}`,
  'contact.put-away': () => 'put away',
  'contact.brought-back': () => 'brought back',
  'client.promise-set': ({ promise, calendar, openTicketsToo }) =>
    `set the promise to ${promise ?? 'that of the house'} on ${calendar ?? 'our calendar'} from now on${openTicketsToo ? ', open tickets too' : ''}`,
};

/** What forms call these columns. */
const LABELS = {
  contact_id: 'used by',
  directions: 'how to get in',
  domains: 'mail domains',
  email: 'mail address',
  invoice_email: 'where invoices go to',
  latitude: 'degrees north',
  longitude: 'degrees east',
  payment_days: 'days to pay',
  tax_exempt: 'exempt from tax',
  title: 'what they do',
  zone: 'time zone',
};

function whatOf(changes: Changes, fields: OwnFields): string {
  return [sayChanges(changes, LABELS), ...Object.keys(fields)].filter(Boolean).join(', ') || 'nothing';
}
