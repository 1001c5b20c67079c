import { type Id, isRefusal, type LocalDate, type Outcome, plusDays } from '@core/ground';
import { askAboutCharge } from '../../billing/charges/ask-about-charge';
import { decideCharge } from '../../billing/charges/decide-charge';
import { addPriceRule } from '../../goods/price-rules/change-price-rules';
import type { Row } from '../rows';
import type { Work } from '../work';

/** What there is to look at in charge review: something asked about, adjusted and held, and a client who pays less for a category. */
export async function loadDemoReview(work: Work, today: LocalDate): Promise<void> {
  const client = await work.tx('client').where('name', 'like', 'Quillfeather%').first('id');
  const none = { contractId: null, itemId: null, lastDay: null, price: null, basis: 'net' as const };
  if (client)
    done(
      await addPriceRule(work, {
        ...none,
        clientId: client.id,
        category: 'Cables',
        fromQuantity: '1',
        from: plusDays(today, -60),
        sets: 'percent off',
        percent: '10',
      }),
    );
  const waiting: Row<'charge'>[] = await work
    .tx('charge')
    .where({ state: 'proposed' })
    .whereIn('kind', ['fee', 'expense'])
    .whereRaw(`oddities = '[]'`)
    .orderByRaw('on_date desc, description, id')
    .limit(3);
  const [asked, adjusted, held] = waiting;
  if (!asked || !adjusted || !held) return;
  const contact: Row<'contact', 'name'> | undefined = await work
    .tx('contact')
    .where({ client_id: asked.client_id, placeholder: false, archived_at: null })
    .orderBy('name')
    .first('name');
  done(
    await askAboutCharge(work, {
      chargeId: asked.id,
      askedBy: contact?.name ?? 'their accounts',
      question: 'Was this not part of the move?',
    }),
  );
  await decide(work, adjusted, { decision: 'adjust', reason: 'agreed on the phone', description: `${adjusted.description}, as agreed` });
  await decide(work, held, { decision: 'hold', reason: 'they asked for it on the next invoice', until: plusDays(today, 21) });
}

async function decide(work: Work, { id }: { readonly id: Id<'charge'> }, form: Parameters<typeof decideCharge>[1]['form']): Promise<void> {
  const { version } = (await work.tx('charge').where({ id }).first('version'))!;
  done(await decideCharge(work, { chargeId: id, version, form }));
}

function done(outcome: Outcome<unknown>): void {
  if (isRefusal(outcome)) throw new Error(outcome.detail);
}
