import { type Id, type Outcome, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { lookAtCharges } from './look-at-charges';
import { tellCharges } from './tell-charges';

interface Asked {
  readonly chargeId: Id<'charge'>;
  readonly askedBy: string;
  readonly question: string;
}

/** Notes what somebody of a client asks about a charge that is not billed yet. */
export async function askAboutCharge(
  work: Work,
  { chargeId, askedBy, question }: Asked,
): Promise<Outcome<{ id: string; version: number }>> {
  const charge = await work.tx('charge').where({ id: chargeId }).first('id', 'standing', 'ticket_id', 'client_id');
  if (!charge) return refuse('not-found', 'There is no such charge.');
  if (charge.standing === 'billed') return refuse('not-possible-now', 'It is billed: answer by a credit note, or on the invoice.');
  const asked = { charge_id: charge.id, at: at(work.now), ...whoColumns(work.actor), asked_by: askedBy, question };
  const [row] = await work.tx('charge_question').insert(asked).returning('id');
  await work.tell('charge.asked-about', charge.id, { by: askedBy, question });
  await lookAtCharges(work, { chargeIds: [charge.id] });
  await tellCharges(work, [charge]);
  return { id: row!.id, version: 1 };
}

/** Notes what they were answered; once. */
export async function answerAboutCharge(
  work: Work,
  { questionId, answer }: { readonly questionId: Id<'charge_question'>; readonly answer: string },
): Promise<Outcome<Record<string, never>>> {
  const [row] = await work
    .tx('charge_question')
    .where({ id: questionId })
    .whereNull('answer')
    .update({ answer, answered_at: at(work.now), answered_by: work.actor.name })
    .returning(['charge_id', 'question']);
  if (!row) return refuse('not-possible-now', 'It is answered already, or there is no such question.');
  const charge = (await work.tx('charge').where({ id: row.charge_id }).first('id', 'ticket_id', 'client_id'))!;
  await work.tell('charge.question-answered', charge.id, { question: row.question, answer });
  await lookAtCharges(work, { chargeIds: [charge.id] });
  await tellCharges(work, [charge]);
  return {};
}
