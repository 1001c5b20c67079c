import { netUnitPrice, type catalogueRoutes, type Tax } from '@core/goods';
import { refuse } from '@core/ground';
import type { Handlers } from '../../app/bind-routes';
import { plainDecimal } from '../../app/plain-decimal';

/** What clients pay for items where that is not the catalogue's price. */
export function bindClientPrices(): Pick<Handlers<typeof catalogueRoutes>, 'listClientPrices' | 'setClientPrice' | 'removeClientPrice'> {
  return {
    listClientPrices: async ({ db, params }) => {
      const rows = await db('client_price as p')
        .join('catalogue_item as i', 'i.id', 'p.item_id')
        .where('p.client_id', params.clientId)
        .orderBy('i.number')
        .select(
          'p.item_id',
          'p.price',
          'p.basis',
          'i.number',
          'i.name',
          'i.currency',
          'i.tax_category',
          'i.tax_percent',
          'i.price as listed',
          'i.basis as listed_basis',
        );
      return {
        prices: rows.map((r) => {
          const tax = { category: r.tax_category, percent: plainDecimal(r.tax_percent) } as Tax;
          return {
            itemId: r.item_id,
            number: r.number,
            name: r.name,
            price: plainDecimal(r.price),
            basis: r.basis,
            currency: r.currency,
            catalogueNet: netUnitPrice({ price: plainDecimal(r.listed), basis: r.listed_basis }, tax),
            net: netUnitPrice({ price: plainDecimal(r.price), basis: r.basis }, tax),
          };
        }),
      };
    },
    setClientPrice: async ({ work, params, body }) => {
      const client = await work.tx('client').where({ id: params.clientId }).first('id');
      if (!client) return refuse('not-found', 'There is no such client.');
      const item = await work.tx('catalogue_item').where({ id: body.itemId }).first('name');
      if (!item) return refuse('invalid', 'There is no such catalogue item.', { itemId: 'choose one of the catalogue' });
      if (Number(body.price) < 0)
        return refuse('invalid', `${body.price} was given; a price is not below zero.`, { price: 'zero or more' });
      const was = await work.tx('client_price').where({ client_id: params.clientId, item_id: body.itemId }).first('price', 'basis');
      await work
        .tx('client_price')
        .insert({ client_id: params.clientId, item_id: body.itemId, price: body.price, basis: body.basis })
        .onConflict(['client_id', 'item_id'])
        .merge();
      await work.tell('client.price-set', params.clientId, {
        itemId: body.itemId,
        item: item.name,
        price: [was ? { price: plainDecimal(was.price), basis: was.basis } : null, { price: body.price, basis: body.basis }],
      });
      return { id: body.itemId };
    },
    removeClientPrice: async ({ work, params }) => {
      const removed = await work.tx('client_price').where({ client_id: params.clientId, item_id: params.itemId }).delete();
      if (removed) await work.tell('client.price-removed', params.clientId, { itemId: params.itemId });
      return { removed };
    },
  };
}
