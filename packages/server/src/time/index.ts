/** What other domains use of this one. */
export { isExpenseCharged, readExpenses } from './expenses/read-expenses';
export { callOut, feeStands, wayThere } from './time-entries/added-amounts';
export { wayOf } from './time-entries/distance-terms';
export { frozenAmong, isFrozen } from './time-entries/is-frozen';
export { readRateBooks } from './time-entries/rate-books';
export { rateEntries } from './time-entries/stored-effects';
