import type { Fact, FactValue, Id } from '../../ground';
import type { ClientForm, ContactForm } from './clients-wire';

/** What a condition on a client's own fields can speak of. */
export const CLIENT_FACTS: Readonly<Record<string, Fact>> = {
  'client.country': { label: 'country', shape: 'words' },
  'client.city': { label: 'city', shape: 'words' },
  'client.zone': { label: 'time zone', shape: 'words' },
  'client.paymentDays': { label: 'days to pay', shape: 'number' },
  'client.taxExempt': { label: 'exempt from tax', shape: 'yes/no' },
};

/** What a condition on a contact's own fields can speak of. */
export const CONTACT_FACTS: Readonly<Record<string, Fact>> = {
  'contact.client': { label: 'client', shape: 'client' },
  'contact.title': { label: 'what they do', shape: 'words' },
  'contact.priority': { label: 'priority contact', shape: 'yes/no' },
  'contact.site': { label: 'a site is named', shape: 'yes/no' },
};

type ClientFacts = Pick<ClientForm, 'country' | 'city' | 'zone' | 'paymentDays' | 'taxExempt'>;
type ContactFacts = Pick<ContactForm, 'title' | 'priority' | 'siteId'> & { readonly clientId: Id<'client'> };

/** The facts of a client as they are, or as they are about to be saved. */
export function clientFacts({ country, city, zone, paymentDays, taxExempt }: ClientFacts): Record<string, FactValue> {
  return { country, city, zone, paymentDays, taxExempt };
}

/** The facts of a contact as they are, or as they are about to be saved. */
export function contactFacts({ clientId, title, priority, siteId }: ContactFacts): Record<string, FactValue> {
  return { client: clientId, title, priority, site: siteId !== null };
}
