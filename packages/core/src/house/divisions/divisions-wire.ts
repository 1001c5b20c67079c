import { string } from 'yup';
import {
  ACCESS_ROLES,
  count,
  defineRoutes,
  done,
  id,
  list,
  listOf,
  oneOf,
  optionalDecimal,
  optionalOneOf,
  optionalText,
  record,
  text,
  type Wire,
} from '../../ground';

const MOST_DIVISIONS = 20;
/** What is the house's where a division leaves it empty. */
export const divisionFormSchema = record({
  name: text(60),
  /** What clients know it as: on mail and documents. */
  brand: optionalText(80),
  /** The address its mail leaves from, and by which mail of somebody unknown is its. */
  mailFrom: string().trim().lowercase().nullable().email('a mail address').max(254, 'at most 254 characters').defined().default(null),
  /** What its labour is taxed at; none is zero rated at 0. */
  labourTaxPercent: optionalDecimal().test(
    'percent',
    'from 0 to 100 percent',
    (v) => v === null || v === undefined || !Number.isFinite(Number(v)) || (Number(v) >= 0 && Number(v) <= 100),
  ),
});
export type DivisionForm = Wire<typeof divisionFormSchema>;
export const divisionSchema = divisionFormSchema.concat(record({ id: id('division'), version: count(), series: list(text()) }));
export type DivisionWire = Wire<typeof divisionSchema>;

const exceptionSchema = record({ divisionId: id('division'), role: optionalOneOf(ACCESS_ROLES) });
export const accessFormSchema = record({
  role: oneOf(ACCESS_ROLES),
  /** Divisions where the role is another, or none. */
  exceptions: listOf(exceptionSchema, MOST_DIVISIONS),
});
export type AccessForm = Wire<typeof accessFormSchema>;
export const personAccessSchema = record({ personId: id('person'), name: text() }).concat(accessFormSchema);
export type PersonAccessWire = Wire<typeof personAccessSchema>;

export const divisionRoutes = defineRoutes({
  listDivisions: {
    method: 'GET',
    path: '/divisions',
    summary: 'The divisions of the provider, each with what it has of its own',
    permission: 'setup.read',
    answer: record({ divisions: list(divisionSchema) }),
  },
  editDivision: {
    method: 'PUT',
    path: '/divisions/:divisionId',
    summary: 'Change the name, brand, mail address and labour tax of a division',
    permission: 'setup.edit',
    versioned: true,
    body: divisionFormSchema,
    answer: done(),
  },
  listAccess: {
    method: 'GET',
    path: '/access',
    summary: 'Who has which access role, everywhere and by division',
    permission: 'setup.read',
    answer: record({ people: list(personAccessSchema) }),
  },
  setAccess: {
    method: 'PUT',
    path: '/access/:personId',
    summary: 'Set the access roles of somebody; what they have open is loaded anew',
    permission: 'setup.edit',
    body: accessFormSchema,
    answer: record({ id: id() }),
  },
});
