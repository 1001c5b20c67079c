import { ASSET_FACTS, CLIENT_FACTS, CONTACT_FACTS } from '../clients';
import { TICKET_FACTS } from '../desk';
import type { Fact } from '../ground';
import type { FieldRecord } from '../desk';

/** What conditions can speak of, by the kind of record that they look at. */
export const FACTS_OF: Readonly<Record<FieldRecord, Readonly<Record<string, Fact>>>> = {
  ticket: TICKET_FACTS,
  asset: ASSET_FACTS,
  client: CLIENT_FACTS,
  contact: CONTACT_FACTS,
};
