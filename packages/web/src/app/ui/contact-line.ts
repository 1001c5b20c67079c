import type { FoundContactWire } from '@core/clients';
import type { Line } from './record-form';

/** Client and contact as one line of a form: found while typing. What is typed after somebody was taken takes them off again. */
export const CONTACT_LINE: Line = {
  name: 'contactId',
  label: 'Who it is for',
  kind: 'contact',
  wide: true,
  read: (values) => values['contactWords'],
  write: (found) =>
    typeof found === 'string'
      ? { clientId: '', contactId: '', contactWords: found }
      : {
          clientId: (found as FoundContactWire).clientId,
          contactId: (found as FoundContactWire).id,
          contactWords: `${(found as FoundContactWire).name}, ${(found as FoundContactWire).client}`,
        },
};
