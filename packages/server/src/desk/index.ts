/** What other domains use of this one. */
export { readUsualActivities } from './action-time/usual-activities';
export { withTime } from './action-time/with-time';
export { resolutionDue } from './clocks/resolution-due';
export { changePromise, promiseVersionOf } from './clocks/take-promise';
export { readClocks, storeClocks } from './clocks/ticket-clock-store';
export { sendInThread } from './messages/write-messages';
export { fieldChanges, fieldsToSave, type OwnValues, shownFields, withoutAssets } from './own-fields/record-fields';
export { readFeeHints } from './tickets/read-ticket-fee';
export { narrow, siteOf, SORTS } from './tickets/ticket-list-read-model';
