/** What other domains use of this one. */
export { ActionTimeStrip } from './action-time/action-time';
export { TimeAsked } from './action-time/time-asked';
export { TimeForm } from './action-time/time-form';
export { recordLines, withFieldValues } from './own-fields/field-lines';
export { fieldChoices, fieldsOn } from './own-fields/fields-on';
export { OwnValuePipe } from './own-fields/own-value';
export { IsItSolved } from './tickets/is-it-solved';
export { UmbrellaState } from './umbrellas/umbrella.state';
