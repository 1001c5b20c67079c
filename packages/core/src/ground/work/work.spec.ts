import { naming, sayWork, sayWorkShortly } from './work';

const ticket = { workId: 't', workKind: 'ticket', number: 4479, subject: 'Printer is slow' } as const;
const training = { workId: 'i', workKind: 'internal work', number: null, subject: 'Training' } as const;

describe('work', () => {
  it('is said by its number and subject, or by its name', () => {
    expect([ticket, training].map((w) => [sayWork(w), sayWorkShortly(w)])).toEqual([
      ['#4479 Printer is slow', '#4479'],
      ['Training', 'Training'],
    ]);
  });

  it('is named by four fields, whatever else is known', () => {
    expect(naming({ ...ticket, client: 'Hollin', version: 3 } as typeof ticket)).toEqual(ticket);
  });
});
