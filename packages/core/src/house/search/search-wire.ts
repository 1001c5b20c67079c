import { string } from 'yup';
import { count, defineRoutes, id, list, oneOf, optionalText, record, text, type Wire } from '../../ground';

export const SEARCH_KINDS = ['ticket', 'client', 'contact', 'asset', 'item', 'invoice'] as const;
export const hitSchema = record({ kind: oneOf(SEARCH_KINDS), id: id(), title: text(), detail: optionalText(), link: text() });
export type HitWire = Wire<typeof hitSchema>;

export const searchRoutes = defineRoutes({
  search: {
    method: 'GET',
    path: '/search',
    summary: 'Find anything by number, title or name',
    permission: 'signed in',
    query: record({ q: string().trim().required('write what to look for').max(100) }),
    answer: record({ hits: list(hitSchema), count: count() }),
  },
});
