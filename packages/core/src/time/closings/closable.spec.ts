import { HOURS_A_MONTH } from '../../../testing/contract-samples';
import type { LocalDate } from '../../ground';
import { closable } from '.';

const day = (text: string) => text as LocalDate;
const at = (closedTo: string | null, today: string, to: string | null = null) =>
  closable(
    { ...HOURS_A_MONTH, from: day('2026-09-11'), to: to === null ? null : day(to) },
    { closedTo: closedTo as LocalDate | null, today: day(today) },
  );

describe('what of a contract can be closed', () => {
  it('is each period that is over and not closed yet', () => {
    expect(at(null, '2026-09-30')).toEqual([]);
    expect(at(null, '2026-10-01')).toEqual(['2026-10-01']);
    expect(at(null, '2026-11-24')).toEqual(['2026-10-01', '2026-11-01']);
    expect(at('2026-10-01', '2026-11-24')).toEqual(['2026-11-01']);
    expect(at('2026-11-01', '2026-11-24')).toEqual([]);
  });
  it('ends with the contract', () => {
    expect(at('2026-10-01', '2026-11-24', '2026-10-16')).toEqual(['2026-10-16']);
    expect(at('2026-10-16', '2026-11-24', '2026-10-16')).toEqual([]);
    expect(at('2026-10-01', '2026-11-24', '2026-11-01')).toEqual(['2026-11-01']);
    expect(at(null, '2026-11-24', '2026-12-10')).toEqual(['2026-10-01', '2026-11-01']);
  });
});
