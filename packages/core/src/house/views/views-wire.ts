import { string } from 'yup';
import { defineRoutes, id, list, oneOf, record, text, yes, type Wire } from '../../ground';

/** The lists that have views. A view's filters, sort and columns are the query of the list's address. */
export const LISTS = ['tickets', 'clients', 'contracts', 'assets', 'catalogue', 'invoices', 'dispatch'] as const;
export type ListName = (typeof LISTS)[number];

/** Whom a view is for: the person alone, those of their team, or everybody. */
export const VIEW_REACHES = ['own', 'team', 'all'] as const;
export type ViewReach = (typeof VIEW_REACHES)[number];

export const viewFormSchema = record({
  list: oneOf(LISTS),
  name: text(60),
  /** What stands behind the "?" of the list's address. */
  query: string().defined().max(1000),
  reach: oneOf(VIEW_REACHES),
});
export type ViewForm = Wire<typeof viewFormSchema>;
export const viewSchema = record({
  id: id('saved_view'),
  name: text(60),
  query: string().defined(),
  reach: oneOf(VIEW_REACHES),
  /** Whether the person who asks made it, and so may take it away. */
  mine: yes(),
  by: text(),
});
export type ViewWire = Wire<typeof viewSchema>;

export const viewRoutes = defineRoutes({
  listViews: {
    method: 'GET',
    path: '/views',
    summary: "The views of a list: one's own, the team's and those for all",
    permission: 'signed in',
    query: record({ list: oneOf(LISTS) }),
    answer: record({ views: list(viewSchema) }),
  },
  saveView: {
    method: 'POST',
    path: '/views',
    summary: 'Keep a view of a list under a name; an own view of that name is replaced',
    permission: 'signed in',
    body: viewFormSchema,
    answer: record({ id: id('saved_view') }),
  },
  removeView: {
    method: 'DELETE',
    path: '/views/:viewId',
    summary: 'Take an own view away',
    permission: 'signed in',
    answer: record({ id: id('saved_view') }),
  },
});
