import { type Instant, isRefusal } from '../../ground';
import { DEFAULT_PRIORITY_MATRIX, IMPACTS, PAD, PRIORITIES, priorityOf, URGENCIES } from '../priority';
import { moveStatus, STATUS_MOVES, STATUSES } from '.';

describe('tickets', () => {
  it('reads priority from the matrix and raises it one level for a priority contact', () => {
    const grid = IMPACTS.map((i) =>
      URGENCIES.map((u) => priorityOf({ matrix: DEFAULT_PRIORITY_MATRIX, impact: i, urgency: u, priorityContact: false }).priority).join(
        ' ',
      ),
    );
    expect(grid).toEqual(['P1 P2 P3', 'P2 P3 P3', 'P3 P4 P4']);
    for (const impact of IMPACTS)
      for (const urgency of URGENCIES) {
        const base = PRIORITIES.indexOf(priorityOf({ matrix: DEFAULT_PRIORITY_MATRIX, impact, urgency, priorityContact: false }).priority);
        const raised = PRIORITIES.indexOf(priorityOf({ matrix: DEFAULT_PRIORITY_MATRIX, impact, urgency, priorityContact: true }).priority);
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
        const move = moveStatus({ from, to, holdReason: 'supplier', at: now });
        expect(isRefusal(move)).toBe(!STATUS_MOVES[from].includes(to));
      }
    expect(moveStatus({ from: 'queued', to: 'on hold', holdReason: null, at: now })).toMatchObject({
      refused: 'invalid',
      fields: { holdReason: expect.any(String) },
    });
    expect(moveStatus({ from: 'underway', to: 'resolved', holdReason: null, at: now })).toMatchObject({ facts: [{ is: 'resolved' }] });
    expect(moveStatus({ from: 'resolved', to: 'queued', holdReason: null, at: now })).toMatchObject({ facts: [{ is: 'reopened' }] });
    expect(moveStatus({ from: 'on hold', to: 'underway', holdReason: null, at: now })).toMatchObject({
      facts: [{ is: 'runs' }],
      holdReason: null,
    });
    expect(moveStatus({ from: 'resolved', to: 'closed', holdReason: null, at: now })).toMatchObject({ facts: [] });
  });
});
