import type { Knex } from 'knex';

/** The demo's flat-fee jobs: what each is charged as, and what speaks of it. */
const DEMO_FEES = [
  { name: 'Prepare a till', price: '95', asks: false, category: null, words: ['new till', 'another till'], person: false, asset: true },
  {
    name: 'Open an account',
    price: '60',
    asks: false,
    category: 'Somebody new',
    words: ['new starter', 'new colleague', 'new starters'],
    person: true,
    asset: false,
  },
  {
    name: 'Close an account',
    price: '45',
    asks: false,
    category: 'Somebody leaves',
    words: ['leaves us', 'close an account'],
    person: false,
    asset: false,
  },
  {
    name: 'Prepare a tablet',
    price: '35',
    asks: true,
    category: null,
    words: ['prepare tablets', 'new tablets'],
    person: false,
    asset: false,
  },
] as const;

/** Which fee a topic of the story is done at, by its category. */
export const FEE_OF_CATEGORY: Readonly<Record<string, (typeof DEMO_FEES)[number]['name']>> = {
  'Somebody new': 'Open an account',
  'Somebody leaves': 'Close an account',
};

export async function loadDemoFees(tx: Knex.Transaction): Promise<void> {
  for (const [position, fee] of DEMO_FEES.entries()) {
    const [item] = await tx('catalogue_item')
      .insert({
        number: `FEE-${String(position + 1).padStart(2, '0')}`,
        name: fee.name,
        category: 'Flat fees',
        price: fee.price,
        basis: 'net',
        cost: '0',
        currency: 'EUR',
        tax_category: 'S',
        tax_percent: '23',
      })
      .returning('id');
    const category = fee.category ? await tx('category').where({ name: fee.category }).first('id') : undefined;
    await tx('flat_fee').insert({
      name: fee.name,
      item_id: item!.id,
      asks_client: fee.asks,
      category_id: category?.id ?? null,
      words: fee.words,
      for_new_person: fee.person,
      for_new_asset: fee.asset,
      position,
    });
  }
}

/** Replies that everybody may put in. */
export async function loadDemoCanned(tx: Knex.Transaction): Promise<void> {
  const aoife = (await tx('person').where({ name: 'Aoife Brannigan' }).first('id'))!;
  await tx('canned_reply').insert(
    [
      {
        name: 'On it',
        text: 'Hello {first name},\n\nI have your report #{number} and am on it. You hear from me by {due} at the latest.\n\n{me}',
      },
      {
        name: 'Please restart it',
        text: 'Hello {first name},\n\nplease turn it off, wait ten seconds and turn it on again, and tell me whether that changed anything.\n\n{me}',
      },
      {
        name: 'Done, please try',
        text: 'Hello {first name},\n\nit is done. Please try it and answer this mail if it is not as it should be.\n\n{me}',
      },
    ].map((reply) => ({ ...reply, person_id: aoife.id, shared: true })),
  );
}
