import { chargeQuestionRoutes } from '@core/billing';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { answerAboutCharge, askAboutCharge } from './ask-about-charge';

/** What clients ask about charges before they are billed. */
export function bindChargeQuestions(app: App) {
  return bindRoutes(app, chargeQuestionRoutes, {
    askAboutCharge: ({ work, params, body }) => askAboutCharge(work, { ...params, ...body }),
    answerAboutCharge: ({ work, params, body }) => answerAboutCharge(work, { ...params, ...body }),
  });
}
