import { isAddressNumber, isId, isNumberedParam } from '.';

const AN_ID = '3f6c0a52-9d1e-4c7a-8b1f-2a6f0d9e4b11';

describe('a number in an address', () => {
  it.each([
    ['ticketId', '4479', true],
    ['ticketId', '1234567890', false],
    ['ticketId', '-1', false],
    ['clientId', '101', true],
    ['invoiceId', 'PH-01221', true],
    ['invoiceId', 'W202600042', true],
    ['invoiceId', 'PH/1', false],
    ['assetId', 'HV-PRN-003', true],
    ['assetId', 'rack 3/2', false],
    ['assetId', '..', false],
    ['assetId', 'a'.repeat(41), false],
    ['assetId', AN_ID, false],
  ] as const)('of %s: %s is one: %s', (param, number, expected) => {
    expect(isAddressNumber(param, number)).toBe(expected);
  });

  it('is told from an id, and is known of four kinds of record', () => {
    expect([isId(AN_ID), isId(AN_ID.toUpperCase()), isId('4479')]).toEqual([true, false, false]);
    expect([isNumberedParam('ticketId'), isNumberedParam('deskId'), isNumberedParam('constructor')]).toEqual([true, false, false]);
  });
});
