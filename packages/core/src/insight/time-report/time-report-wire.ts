import {
  count,
  date,
  defineRoutes,
  id,
  instant,
  list,
  oneOf,
  optionalDay,
  optionalText,
  record,
  text,
  yes,
  type Wire,
  workFields,
} from '../../ground';
import { HOURS_BY } from './gather-time';

const MOST_DAYS = 400;
const DAY_MS = 86_400_000;
type Dates = Readonly<Record<string, string | undefined>>;
const fits = (parent: Dates, [from, to]: readonly [string, string]) => {
  const [first, last] = [parent[from], parent[to]];
  if (!first || !last) return !first === !last;
  const days = (Date.parse(last) - Date.parse(first)) / DAY_MS;
  return days >= 0 && days < MOST_DAYS;
};
const SPAN = 'not before its first day, and within 400 days of it';
/** A span of dates, both included, and perhaps one to hold it against. */
const asked = {
  from: date(),
  to: date().test('order', SPAN, function () {
    return fits(this.parent as Dates, ['from', 'to']);
  }),
  by: oneOf(HOURS_BY),
  thanFrom: optionalDay(),
  thanTo: optionalDay().test('order', SPAN, function () {
    return fits(this.parent as Dates, ['thanFrom', 'thanTo']);
  }),
};
const figures = {
  minutes: count(),
  billableMinutes: count(),
  /** By technician alone: what was expected by pattern up to now, time off taken away. */
  expectedMinutes: count().nullable(),
  /** In the span it is held against. */
  thanMinutes: count().nullable(),
  thanBillableMinutes: count().nullable(),
};
export const hoursRowSchema = record({ key: text(), name: text(), ...figures });
export type TimeReportRowWire = Wire<typeof hoursRowSchema>;
export const hoursTotalSchema = record(figures);
export type TimeReportTotalWire = Wire<typeof hoursTotalSchema>;
export const workedEntrySchema = record({
  id: id('time_entry'),
  startsAt: instant(),
  /** Of the entry that lies in the row. */
  minutes: count(),
  person: text(),
  ...workFields,
  client: optionalText(),
  activity: text(),
  note: optionalText(2000),
  billable: yes(),
});
export type WorkedEntryWire = Wire<typeof workedEntrySchema>;

export const timeReportRoutes = defineRoutes({
  getTimeReport: {
    method: 'GET',
    path: '/hours',
    summary: 'Hours of a span by technician, client, activity or time band, with the billable share, perhaps against another span',
    permission: 'time.approve',
    query: record(asked),
    answer: record({ rows: list(hoursRowSchema), total: hoursTotalSchema }),
  },
  listWorkedEntries: {
    method: 'GET',
    path: '/hours/entries',
    summary: 'The entries behind one row, the latest first; at most 500',
    permission: 'time.approve',
    query: record({ from: asked.from, to: asked.to, by: asked.by, key: text() }),
    answer: record({ entries: list(workedEntrySchema), count: count() }),
  },
});
