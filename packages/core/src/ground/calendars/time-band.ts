/** Working hours are those of the provider's calendar; a holiday is all of a date that it lists with no hours. */
export const TIME_BANDS = ['working hours', 'out of hours', 'holiday'] as const;
export type TimeBand = (typeof TIME_BANDS)[number];
