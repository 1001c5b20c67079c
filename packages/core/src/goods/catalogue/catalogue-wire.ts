import { string } from 'yup';
import {
  count,
  currency,
  decimal,
  defineRoutes,
  done,
  id,
  list,
  oneOf,
  optionalText,
  pageOf,
  pageQuery,
  record,
  earlierStory,
  storySchema,
  text,
  type Wire,
  yes,
} from '../../ground';
import { TAX_CATEGORIES } from './unit-price';

export const itemFields = {
  number: text(40),
  name: text(160),
  category: text(60),
  price: decimal(),
  basis: oneOf(['net', 'gross']),
  cost: decimal(),
  taxCategory: oneOf(TAX_CATEGORIES),
  taxPercent: decimal(),
};
export const itemFormSchema = record(itemFields);
export type ItemForm = Wire<typeof itemFormSchema>;
const rowFields = {
  id: id('catalogue_item'),
  version: count(),
  ...itemFields,
  /** Not there for who may not see costs, as the margin is not. */
  cost: decimal().optional(),
  currency: currency(),
  netPrice: decimal(),
  grossPrice: decimal(),
  marginPercent: optionalText().optional(),
  invoicedGross: decimal(),
  asTyped: yes(),
  archived: yes(),
};
export const itemRowSchema = record(rowFields);
export type ItemRowWire = Wire<typeof itemRowSchema>;
export const itemSchema = record({ ...rowFields, story: list(storySchema) });
export type ItemWire = Wire<typeof itemSchema>;
export const ITEM_SORTS = ['name', 'number', 'category', 'price'] as const;
export const itemFilterSchema = pageQuery(ITEM_SORTS, {
  q: string().max(100),
  category: string().max(60),
  archived: string().oneOf(['yes']),
});
export type ItemFilter = Wire<typeof itemFilterSchema>;

export const catalogueRoutes = defineRoutes({
  listItems: {
    method: 'GET',
    path: '/catalogue',
    summary: 'Catalogue items by filter, sorted, in pages',
    permission: 'catalogue.read',
    query: itemFilterSchema,
    hides: [
      { path: 'rows.*.cost', needs: 'costs.read' },
      { path: 'rows.*.marginPercent', needs: 'costs.read' },
    ],
    answer: pageOf(itemRowSchema),
  },
  listItemCategories: {
    method: 'GET',
    path: '/catalogue/categories',
    summary: 'The categories that items have',
    permission: 'catalogue.read',
    answer: record({ categories: list(text(60)) }),
  },
  getItemStory: {
    method: 'GET',
    path: '/catalogue/:itemId/story',
    summary: 'What happened to an item before an event that is known',
    permission: 'catalogue.read',
    ...earlierStory,
  },
  getItem: {
    method: 'GET',
    path: '/catalogue/:itemId',
    summary: 'A catalogue item, its price both ways',
    permission: 'catalogue.read',
    hides: [
      { path: 'cost', needs: 'costs.read' },
      { path: 'marginPercent', needs: 'costs.read' },
    ],
    answer: itemSchema,
  },
  createItem: {
    method: 'POST',
    path: '/catalogue',
    summary: 'Add a catalogue item',
    permission: 'catalogue.edit',
    body: itemFormSchema,
    answer: done(),
  },
  editItem: {
    method: 'PUT',
    path: '/catalogue/:itemId',
    summary: 'Change a catalogue item',
    permission: 'catalogue.edit',
    versioned: true,
    body: itemFormSchema,
    answer: done(),
  },
  archiveItem: {
    method: 'POST',
    path: '/catalogue/:itemId/archive',
    summary: 'Put an item away, or bring it back',
    permission: 'catalogue.edit',
    versioned: true,
    body: record({ archived: yes() }),
    answer: done(),
  },
});
