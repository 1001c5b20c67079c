/** The house is one row; its story hangs on this. */
export const HOUSE_STORY = '00000000-0000-4000-8000-000000000001';
