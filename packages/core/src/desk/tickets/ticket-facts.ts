import type { Fact } from '../../ground';
import { IMPACTS, PRIORITIES, URGENCIES } from '../priority';
import { DESK_LINES, KINDS, STATUSES } from './ticket';

/** What a condition can speak of, by the path under which JSON Logic finds it. */
export const TICKET_FACTS: Readonly<Record<string, Fact>> = {
  'ticket.kind': { label: 'kind', shape: 'choice', values: KINDS },
  'ticket.ownKind': { label: 'kind of your own', shape: 'own kind' },
  'ticket.to': { label: 'status it moves to', shape: 'choice', values: STATUSES },
  'ticket.status': { label: 'status', shape: 'choice', values: STATUSES },
  'ticket.priority': { label: 'priority', shape: 'choice', values: PRIORITIES },
  'ticket.impact': { label: 'impact', shape: 'choice', values: IMPACTS },
  'ticket.urgency': { label: 'urgency', shape: 'choice', values: URGENCIES },
  'ticket.line': { label: 'line', shape: 'choice', values: DESK_LINES },
  'ticket.desk': { label: 'desk', shape: 'desk' },
  'ticket.category': { label: 'category', shape: 'category' },
  'ticket.client': { label: 'client', shape: 'client' },
  'ticket.subject': { label: 'subject', shape: 'words' },
  'ticket.resolution': { label: 'what was done', shape: 'words' },
  'ticket.asset': { label: 'an asset is named', shape: 'yes/no' },
  'ticket.umbrella': { label: 'it is an umbrella', shape: 'yes/no' },
  'ticket.minutes': { label: 'minutes logged', shape: 'number' },
};
