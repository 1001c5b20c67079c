import { defineRoutes, done, nothing, record, text } from '../../ground';

/** The most characters of what a client asks about a charge, and of the answer. */
export const QUESTION_TEXT = 1000;
export const askedSchema = record({
  /** Who of the client asked, as a person would name them. */
  askedBy: text(160),
  question: text(QUESTION_TEXT),
});
export const answeredSchema = record({ answer: text(QUESTION_TEXT) });

export const chargeQuestionRoutes = defineRoutes({
  askAboutCharge: {
    method: 'POST',
    path: '/charges/:chargeId/questions',
    summary: 'Note what a client asks about a charge before it is billed',
    permission: 'charges.decide',
    body: askedSchema,
    answer: done(),
  },
  answerAboutCharge: {
    method: 'POST',
    path: '/charge-questions/:questionId/answer',
    summary: 'Note what a client was answered about a charge',
    permission: 'charges.decide',
    body: answeredSchema,
    answer: nothing(),
  },
});
