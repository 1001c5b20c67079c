import { chargeQuestionRoutes } from '@core/billing';
import { refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';
import { lookAtCharges } from './look-at-charges';
import { tellCharges } from './tell-charges';

/** What clients ask about charges before they are billed. */
export function bindChargeQuestions(app: App) {
  return bindRoutes(app, chargeQuestionRoutes, {
    askAboutCharge: async ({ work, params, body }) => {
      const charge = await work.tx('charge').where({ id: params.chargeId }).first('id', 'standing', 'ticket_id', 'client_id');
      if (!charge) return refuse('not-found', 'There is no such charge.');
      if (charge.standing === 'billed') return refuse('not-possible-now', 'It is billed: answer by a credit note, or on the invoice.');
      const asked = { charge_id: charge.id, at: at(work.now), ...whoColumns(work.actor), asked_by: body.askedBy, question: body.question };
      const [row] = await work.tx('charge_question').insert(asked).returning('id');
      await work.tell('charge.asked-about', charge.id, { by: body.askedBy, question: body.question });
      await lookAtCharges(work, { chargeIds: [charge.id] });
      await tellCharges(work, [charge]);
      return { id: row!.id, version: 1 };
    },
    answerQuestion: async ({ work, params, body }) => {
      const [row] = await work
        .tx('charge_question')
        .where({ id: params.questionId })
        .whereNull('answer')
        .update({ answer: body.answer, answered_at: at(work.now), answered_by: work.actor.name })
        .returning(['charge_id', 'question']);
      if (!row) return refuse('not-possible-now', 'It is answered already, or there is no such question.');
      const charge = (await work.tx('charge').where({ id: row.charge_id }).first('id', 'ticket_id', 'client_id'))!;
      await work.tell('charge.question-answered', charge.id, { question: row.question, answer: body.answer });
      await lookAtCharges(work, { chargeIds: [charge.id] });
      await tellCharges(work, [charge]);
      return {};
    },
  });
}
