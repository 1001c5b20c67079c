import { array, boolean, number, string } from 'yup';
import {
  count,
  date,
  defineRoutes,
  distanceTyped,
  id,
  list,
  oneOf,
  optionalDay,
  optionalText,
  parseMinutes,
  record,
  text,
  type Wire,
  workFields,
  yes,
} from '../../ground';
import { entryEffectSchema } from '../time-entries';

const MOST_CELLS = 400;
export const SUGGESTED_FROM = ['booked', 'last week', 'habit'] as const;
export type SuggestedFrom = (typeof SUGGESTED_FROM)[number];

const rowFields = {
  ...workFields,
  client: optionalText(),
  activityId: id('activity'),
  activity: text(),
};
export const weekCellSchema = record({
  day: date(),
  minutes: count(),
  /** Of these minutes, what can change no more: approved, or decided on in money. */
  frozenMinutes: count(),
  approvedMinutes: count(),
  /** Of these minutes, what was returned with a remark. */
  returned: optionalText(500),
  note: optionalText(2000),
  insideNote: optionalText(2000),
  distance: optionalText(8),
  distanceUnit: optionalText(10),
  billable: yes(),
  /** Why it is not billable. */
  reason: optionalText(),
  entries: count(),
});
export const weekRowSchema = record({ ...rowFields, cells: list(weekCellSchema) });
export type WeekRowWire = Wire<typeof weekRowSchema>;
export const weekSheetSchema = record({
  days: list(record({ day: date(), expectedMinutes: count(), closed: yes(), holiday: optionalText() })),
  rows: list(weekRowSchema),
});
export type WeekSheetWire = Wire<typeof weekSheetSchema>;
export const suggestedRowSchema = record({
  ...rowFields,
  from: oneOf(SUGGESTED_FROM),
  says: text(),
  /** Minutes by day, in the order of the week's days. */
  minutes: list(count()),
  note: optionalText(2000),
});
export type SuggestedRowWire = Wire<typeof suggestedRowSchema>;
export const typedCellSchema = record({
  workId: id('work'),
  activityId: id('activity'),
  day: date(),
  /** As people type it; nothing empties the cell. */
  typed: string()
    .trim()
    .max(20)
    .defined()
    .test('duration', 'a time such as 25, 1:30, 1.5 or 1 h 40, up to 24 hours', (v) => v === '' || parseMinutes(v ?? '') !== undefined),
  /** The minutes that stood there when it was typed. */
  was: count(),
  /** The note of the cell; left out where it stays as it is. */
  note: string().trim().nullable().max(2000, 'at most 2000 characters'),
  insideNote: string().trim().nullable().max(2000, 'at most 2000 characters'),
  distance: distanceTyped().optional(),
  /** Left out where it stays; new time is billable. */
  billable: boolean().strict(),
  reason: string()
    .trim()
    .nullable()
    .max(300, 'at most 300 characters')
    .when('billable', { is: false, then: (s) => s.required('say why it is not billable') }),
});
export type TypedCell = Wire<typeof typedCellSchema>;

/** What typing into a cell would do: to the client, or why it cannot be stored. */
export const cellEffectSchema = record({ effect: entryEffectSchema.nullable(), refused: optionalText() });
export type CellEffectWire = Wire<typeof cellEffectSchema>;
const cellsTyped = () =>
  array(typedCellSchema).defined().required().min(1, 'at least one cell').max(MOST_CELLS, `at most ${MOST_CELLS} cells`);

export const weekSheetRoutes = defineRoutes({
  getWeekSheet: {
    method: 'GET',
    path: '/week-sheet',
    summary: 'Your week as a grid: rows by work and activity, a cell a day, from Monday',
    permission: 'time.own',
    query: record({ day: optionalDay() }),
    answer: weekSheetSchema,
  },
  setCells: {
    method: 'PUT',
    path: '/week-sheet/cells',
    summary: 'Type into cells of your week: entries are added, changed or removed until the cells are right; all or none',
    permission: 'time.own',
    body: record({ cells: cellsTyped() }),
    answer: record({ changed: number().integer().defined().required() }),
  },
  previewCells: {
    method: 'POST',
    path: '/week-sheet/cells/preview',
    summary: 'What typing into cells would do to the clients, cell by cell; nothing is stored',
    permission: 'time.own',
    body: record({ cells: cellsTyped() }),
    reads: true,
    answer: record({ cells: list(cellEffectSchema) }),
  },
  suggestRows: {
    method: 'GET',
    path: '/week-sheet/suggestions',
    summary: 'Rows that the week may need: from its bookings, from the week before, and from habit',
    permission: 'time.own',
    query: record({ day: optionalDay() }),
    answer: record({ rows: list(suggestedRowSchema) }),
  },
});
