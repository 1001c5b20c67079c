import { count, currency, decimal, defineRoutes, done, id, list, oneOf, optionalText, record, text, yes, type Wire } from '../routes';
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
export const itemSchema = record({
  id: id(),
  version: count(),
  ...itemFields,
  currency: currency(),
  netPrice: decimal(),
  grossPrice: decimal(),
  marginPercent: optionalText(),
  invoicedGross: decimal(),
  asTyped: yes(),
});
export type ItemWire = Wire<typeof itemSchema>;

export const catalogueRoutes = defineRoutes({
  listItems: {
    method: 'GET',
    path: '/catalogue',
    summary: 'Catalogue items',
    permission: 'catalogue.read',
    answer: record({ items: list(itemSchema) }),
  },
  getItem: {
    method: 'GET',
    path: '/catalogue/:itemId',
    summary: 'A catalogue item, its price both ways',
    permission: 'catalogue.read',
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
});
