/** What other domains use of this one. */
export { isExpenseCharged, readExpenses } from './expenses/read-expenses';
export { callOut, feeStands, wayThere } from './time-entries/added-amounts';
export { warnOfAllowances } from './contract-time/warn-of-allowances';
export { readDrawn } from './contract-time/read-drawn';
export { closeDecided, readDecided } from './closings/close-decided';
export { closePeriods } from './closings/close-periods';
export { drawsOf } from './time-entries/cover-entries';
export { wayOf } from './time-entries/distance-terms';
export { frozenAmong, isFrozen } from './time-entries/is-frozen';
export { type PreviewedRow, previewEffects } from './time-entries/preview-effects';
export { readRateBooks } from './time-entries/rate-books';
export { rateEntries } from './time-entries/stored-effects';
