import { ID } from './fields';

/** Records that people call by a number, by the parameter that names them in a path, and what a number looks like there. */
const RECORD_NUMBERS = {
  ticketId: /^\d{1,9}$/,
  clientId: /^\d{1,9}$/,
  contractId: /^\d{1,9}$/,
  invoiceId: /^[A-Za-z0-9][A-Za-z0-9-]{1,39}$/,
  assetId: /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/,
} as const;
export type NumberedParam = keyof typeof RECORD_NUMBERS;

export function isId(text: string): boolean {
  return ID.test(text);
}

export function isNumberedParam(name: string): name is NumberedParam {
  return Object.hasOwn(RECORD_NUMBERS, name);
}

/** Whether a record's number can stand in an address as it is; one with a slash or a space cannot, and is called by its id. */
export function isAddressNumber(param: NumberedParam, number: string): boolean {
  return RECORD_NUMBERS[param].test(number) && !isId(number);
}
