import {
  array,
  boolean,
  mixed,
  number,
  object,
  string,
  type AnyObject,
  type InferType,
  type ISchema,
  type ObjectShape,
  type Schema,
  type StringSchema,
} from 'yup';
import type { Explanation } from '../explanation';
import type { Id, Identified } from '../ids';
import { CURRENCY_DECIMALS, isDecimalText, type Currency } from '../money';
import { parseLocalDate, parseMinutes } from '../time';

/** The years in which anything of this business happens: no birthday, founding or end lies outside. */
const FIRST_YEAR = 1900;
const LAST_YEAR = 2199;
const DATE_LETTERS = 10;
const INSTANT_LETTERS = 20;
/** Digits before the point that a price, a rate or a quantity may have. */
const MOST_DIGITS = 10;

/** Whether text is a date that the calendar has, within the years allowed; what is left out is for others to judge. */
export function isDateText(text: string | undefined): boolean {
  if (text === undefined) return true;
  try {
    const year = Number(text.slice(0, 4));
    return parseLocalDate(text) === text && year >= FIRST_YEAR && year <= LAST_YEAR;
  } catch {
    return false;
  }
}

/** Whether text is an instant in UTC to the second that there was or will be. */
export function isInstantText(text: string | null | undefined): boolean {
  if (text === undefined || text === null) return true;
  return /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}Z$/.test(text) && isDateText(text.slice(0, 10)) && !Number.isNaN(Date.parse(text));
}

/** How an id of ours is written. */
export const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** The fields that API schemas are made of, each with its message for people. */
const ID_LETTERS = 36;
/** Of any version of RFC 9562: those of the log, messages and time entries rise with time. */
export const anyId = () =>
  string().matches(ID, { message: 'choose one of the list', name: 'uuid' }).max(ID_LETTERS, 'choose one of the list');
const neededId = () => anyId().defined().required('choose one');
const idOrNothing = () => anyId().defined().nullable();
type IdField<Kind extends Identified, Nothing extends null = never> = StringSchema<Id<Kind> | Nothing, AnyObject, undefined, ''>;
/** The id of a record of a kind; without one, of whatever kind the place says. */
export function id(): ReturnType<typeof neededId>;
export function id<Kind extends Identified>(kind: Kind): IdField<Kind>;
export function id(): unknown {
  return neededId();
}
export function optionalId(): ReturnType<typeof idOrNothing>;
export function optionalId<Kind extends Identified>(kind: Kind): IdField<Kind, null>;
export function optionalId(): unknown {
  return idOrNothing();
}
export const text = (most = 200) => string().trim().defined().required('write something').max(most, `at most ${most} characters`);
export const optionalText = (most = 200) => string().trim().defined().nullable().max(most, `at most ${most} characters`);
/** RFC 5321, 4.5.3.1.3. */
const MAIL_LETTERS = 254;
export const email = () =>
  string()
    .trim()
    .lowercase()
    .defined()
    .required('write an address')
    .max(MAIL_LETTERS, `at most ${MAIL_LETTERS} characters`)
    .email('write an address such as desk@quillfeather.example');
export const oneOf = <const T extends readonly string[]>(values: T) =>
  mixed<T[number]>()
    .oneOf(values as readonly T[number][], `choose one of ${values.join(', ')}`)
    .defined()
    .required(`choose one of ${values.join(', ')}`);
export const optionalOneOf = <const T extends readonly string[]>(values: T) =>
  mixed<T[number]>()
    .nullable()
    .defined()
    .oneOf([...(values as readonly T[number][]), null], `choose one of ${values.join(', ')}`);
export const whole = (least: number, most: number) =>
  number()
    .typeError('a whole number')
    .defined()
    .required('write a number')
    .integer('a whole number')
    .min(least, `at least ${least}`)
    .max(most, `at most ${most}`);
export const count = () => number().defined().required().integer();
/** The version of a row that was seen. */
export const seenVersion = () => whole(0, 2_147_483_647);
export const yes = () => boolean().defined().required();
/** RFC 3339 in UTC to the second. */
export const instant = () =>
  string()
    .defined()
    .required('give a time')
    .max(INSTANT_LETTERS, 'a time in UTC such as 2026-11-24T10:40:00Z')
    .test('instant', 'a time in UTC such as 2026-11-24T10:40:00Z', isInstantText);
export const optionalInstant = () =>
  string()
    .defined()
    .nullable()
    .max(INSTANT_LETTERS, 'a time in UTC such as 2026-11-24T10:40:00Z')
    .test('instant', 'a time in UTC such as 2026-11-24T10:40:00Z', isInstantText);
export const date = () =>
  string()
    .defined()
    .required('give a date')
    .max(DATE_LETTERS, 'a date of the calendar, such as 2026-11-24')
    .test('date', 'a date of the calendar, such as 2026-11-24', isDateText);
/** A date or none. */
export const optionalDate = () =>
  string()
    .defined()
    .nullable()
    .max(DATE_LETTERS, 'a date of the calendar, such as 2026-11-24')
    .test('date', 'a date of the calendar, such as 2026-11-24', (v) => v === null || isDateText(v));
/** A date that may be left out, as queries name one. */
export const optionalDay = () =>
  string()
    .max(DATE_LETTERS, 'a date of the calendar, such as 2026-11-24')
    .test('date', 'a date of the calendar, such as 2026-11-24', isDateText);
/** Degrees on the globe, or nothing. @param most 90 north, 180 east */
export const degrees = (most: 90 | 180) =>
  number().defined().nullable().min(-most, `at least -${most}`).max(most, `at most ${most}`).typeError('degrees such as 52.26');
const DECIMAL_LETTERS = 24;
const fewDigits = (typed: string | null | undefined) => (typed ?? '').replace(/^[+-]?0*/, '').split('.')[0]!.length <= MOST_DIGITS;
export const decimal = () =>
  string()
    .trim()
    .defined()
    .required('write a number')
    .max(DECIMAL_LETTERS, 'a number with up to 4 places, such as 89.50')
    .test('decimal', 'a number with up to 4 places, such as 89.50', (v) => v === undefined || isDecimalText(v))
    .test('digits', `at most ${MOST_DIGITS} digits before the point`, fewDigits);
export const optionalDecimal = () =>
  string()
    .trim()
    .defined()
    .nullable()
    .max(DECIMAL_LETTERS, 'a number with up to 4 places, such as 89.50')
    .test('decimal', 'a number with up to 4 places, such as 89.50', (v) => v === null || v === undefined || isDecimalText(v))
    .test('digits', `at most ${MOST_DIGITS} digits before the point`, fewDigits);
export const optionalPositiveDecimal = () =>
  optionalDecimal().test('positive', 'above zero', (v) => v === null || v === undefined || !isDecimalText(v) || Number(v) > 0);
export const positiveDecimal = () => decimal().test('positive', 'above zero', (v) => !isDecimalText(v ?? '') || Number(v) > 0);
const DURATION_LETTERS = 20;
export const durationTyped = () =>
  string()
    .trim()
    .defined()
    .required('write how long')
    .max(DURATION_LETTERS, 'a time such as 25, 1:30, 1.5 or 1 h 40, up to 24 hours')
    .test('duration', 'a time such as 25, 1:30, 1.5 or 1 h 40, up to 24 hours', (v) => v === undefined || (parseMinutes(v) ?? 0) > 0);
const MOST_DISTANCE = 9999;
/** A way in the house's unit, with one place at most. */
export const distanceTyped = () =>
  optionalText(8).test(
    'distance',
    `a distance such as 42 or 42.5, up to ${MOST_DISTANCE}`,
    (v) => !v || (/^\d{1,4}(\.\d)?$/.test(v) && Number(v) > 0),
  );
export const currency = () =>
  mixed<Currency>()
    .oneOf(Object.keys(CURRENCY_DECIMALS) as Currency[])
    .defined()
    .required();
export const amount = () => object({ minor: number().integer().defined().required(), currency: currency() }).defined();
export const why = () => mixed<Explanation>().defined().required();
export const shape = <T>() => mixed<T & object>().defined().required();
export const record = <T extends ObjectShape>(fields: T) => object(fields).defined().noUnknown();
export const optionalRecord = <T extends ObjectShape>(fields: T) => object(fields).defined().nullable().default(undefined);
/** A list of an answer. One that is given has a largest size: `listOf`. */
export const list = <T>(of: ISchema<T, AnyObject>) => array(of).defined().required();
/** A list that somebody gives, of at most so many. */
export const listOf = <T>(of: ISchema<T, AnyObject>, most: number) => list(of).max(most, `at most ${most}`);
export const nothing = () => record({});
export const done = () => record({ id: id(), version: count() });
export type Wire<S extends Schema> = InferType<S>;
