import { type Instant, isRefusal } from '../../ground';
import { DEFAULT_PRIORITY_MATRIX, IMPACTS, PAD, PRIORITIES, priorityOf, URGENCIES } from '../priority';
import { moveStatus, STATUS_MOVES, STATUSES } from '.';

describe('tickets', () => {
  it('reads priority from the matrix and raises it one level for a priority contact', () => {
    const grid = IMPACTS.map((i) => URGENCIES.map((u) => priorityOf(DEFAULT_PRIORITY_MATRIX, i, u, false).priority).join(' '));
    expect(grid).toEqual(['P1 P2 P3', 'P2 P3 P3', 'P3 P4 P4']);
    for (const impact of IMPACTS)
      for (const urgency of URGENCIES) {
        const base = PRIORITIES.indexOf(priorityOf(DEFAULT_PRIORITY_MATRIX, impact, urgency, false).priority);
        const raised = PRIORITIES.indexOf(priorityOf(DEFAULT_PRIORITY_MATRIX, impact, urgency, true).priority);
        expect(raised).toBe(Math.max(0, base - 1));
      }
  });

  it('lays the pad out like a number pad', () => {
    expect(PAD['7']).toEqual({ impact: 'everyone', urgency: 'stopped' });
    expect(PAD['5']).toEqual({ impact: 'several', urgency: 'hampered' });
    expect(PAD['3']).toEqual({ impact: 'one', urgency: 'can wait' });
    expect(Object.keys(PAD)).toHaveLength(9);
  });

  it('allows just the moves of the table, and tells the clocks', () => {
    const now = 5 as Instant;
    for (const from of STATUSES)
      for (const to of STATUSES) {
        const move = moveStatus(from, to, 'supplier', now);
        expect(isRefusal(move)).toBe(!STATUS_MOVES[from].includes(to));
      }
    expect(moveStatus('queued', 'on hold', null, now)).toMatchObject({ refused: 'invalid', fields: { holdReason: expect.any(String) } });
    expect(moveStatus('underway', 'resolved', null, now)).toMatchObject({ facts: [{ is: 'resolved' }] });
    expect(moveStatus('resolved', 'queued', null, now)).toMatchObject({ facts: [{ is: 'reopened' }] });
    expect(moveStatus('on hold', 'underway', null, now)).toMatchObject({ facts: [{ is: 'runs' }], holdReason: null });
    expect(moveStatus('resolved', 'closed', null, now)).toMatchObject({ facts: [] });
  });
});
