import type { PriceRuleForm } from '@core/goods';
import { type Id, type Outcome, parseLocalDate, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { HOUSE_STORY } from '../../house';
import { endAfter, type PriceRuleRow, setsOf, withItem } from './read-price-rules';

/** The columns of a rule as it was typed; what its kind does not need is not kept. */
export function columnsOf(form: PriceRuleForm) {
  return {
    contract_id: form.contractId,
    client_id: form.clientId,
    item_id: form.itemId,
    category: form.itemId ? null : form.category,
    from_quantity: form.fromQuantity,
    from_on: parseLocalDate(form.from),
    to_on: endAfter(form.lastDay ? parseLocalDate(form.lastDay) : null),
    sets: form.sets,
    basis: form.basis,
    price: form.sets === 'price' ? form.price! : null,
    percent: form.sets === 'percent off' ? form.percent! : null,
  };
}

export async function addPriceRule(work: Work, form: PriceRuleForm): Promise<Outcome<{ id: Id<'price_rule'>; version: number }>> {
  if (form.contractId && form.clientId)
    return refuse('invalid', 'A rule is of a contract or of a client.', { clientId: 'a contract or a client, not both' });
  if (form.itemId && !(await work.tx('catalogue_item').where({ id: form.itemId }).first('id')))
    return refuse('invalid', 'There is no such catalogue item.', { itemId: 'choose one of the catalogue' });
  if (form.clientId && !(await work.tx('client').where({ id: form.clientId }).first('id')))
    return refuse('not-found', 'There is no such client.');
  if (form.contractId && !(await work.tx('contract').where({ id: form.contractId }).first('id')))
    return refuse('not-found', 'There is no such contract.');
  const [row] = await work.tx('price_rule').insert(columnsOf(form)).returning(['id', 'version']);
  await tell(work, row!.id, 'added');
  return row!;
}

export async function movePriceRule(
  work: Work,
  id: Id<'price_rule'>,
  to: 'taken-away' | 'given-back',
): Promise<Outcome<Record<string, never>>> {
  const moved = await work
    .tx('price_rule')
    .where({ id })
    .modify((q) => void (to === 'taken-away' ? q.whereNull('archived_at') : q.whereNotNull('archived_at')))
    .update({ archived_at: to === 'taken-away' ? at(work.now) : null });
  if (!moved) return refuse('not-found', 'There is no such price rule.');
  await tell(work, id, to);
  return {};
}

/** On the story of whose it is. */
async function tell(work: Work, id: Id<'price_rule'>, did: 'added' | 'taken-away' | 'given-back'): Promise<void> {
  const row = (await withItem(work.tx).where('r.id', id).first()) as unknown as PriceRuleRow;
  const data = { what: row.item ?? row.category, sets: setsOf(row), currency: work.book.house.currency };
  if (row.contract_id) await work.tell(`contract.price-rule-${did}`, row.contract_id, data);
  else if (row.client_id) await work.tell(`client.price-rule-${did}`, row.client_id, data);
  else await work.tell(`setup.price-rule-${did}`, HOUSE_STORY, data);
}
