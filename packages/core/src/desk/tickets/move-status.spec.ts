import fc from 'fast-check';
import { isRefusal, type Instant } from '../../ground';
import { CLOCK_EFFECT, factsOfMove, isEnded, moveStatus, seesInside, STATUS_MOVES, STATUSES, type Status } from '.';

const at = 1_700_000_000 as Instant;
const statuses = fc.constantFrom(...(STATUSES as readonly Status[]));

describe('a move of a ticket', () => {
  it('goes where the table says, and nowhere else', () => {
    fc.assert(
      fc.property(statuses, statuses, (from, to) => {
        const moved = moveStatus({ from, to, holdReason: 'client', at });
        expect(isRefusal(moved)).toBe(from === to || !STATUS_MOVES[from].includes(to));
        if (!isRefusal(moved)) expect([moved.status, moved.holdReason]).toEqual([to, to === 'on hold' ? 'client' : null]);
      }),
    );
  });

  it('stays where it is only under another name', () => {
    expect(moveStatus({ from: 'underway', to: 'underway', holdReason: null, at })).toMatchObject({
      refused: expect.anything() as unknown,
    });
    expect(moveStatus({ from: 'underway', to: 'underway', holdReason: null, at, renamed: true })).toEqual({
      status: 'underway',
      holdReason: null,
      facts: [],
    });
  });

  it('to a hold says what it waits for', () => {
    const bare = moveStatus({ from: 'underway', to: 'on hold', holdReason: null, at });
    expect(isRefusal(bare) && bare.fields).toEqual({ holdReason: 'choose client, supplier or change window' });
  });

  it('tells the clocks what it means: reopened, held, run on or resolved, each once', () => {
    fc.assert(
      fc.property(statuses, statuses, (from, to) => {
        const facts = factsOfMove({ from, to, holdReason: 'supplier', at }).map((f) => f.is);
        const wanted = [
          ...(isEnded(from) && !isEnded(to) ? ['reopened'] : []),
          ...(CLOCK_EFFECT[to] === 'holds' ? ['held'] : []),
          ...(CLOCK_EFFECT[to] === 'stops' && !isEnded(from) ? ['resolved'] : []),
          ...(CLOCK_EFFECT[to] === 'runs' && CLOCK_EFFECT[from] === 'holds' ? ['runs'] : []),
        ];
        expect(facts).toEqual(wanted);
      }),
    );
    expect(factsOfMove({ from: 'underway', to: 'on hold', holdReason: 'supplier', at })).toEqual([{ at, is: 'held', reason: 'supplier' }]);
    expect(factsOfMove({ from: 'resolved', to: 'closed', holdReason: null, at })).toEqual([]);
    expect(factsOfMove({ from: 'resolved', to: 'queued', holdReason: null, at })).toEqual([{ at, is: 'reopened' }]);
  });
});

describe('what is inside of a ticket', () => {
  it('is read by everybody where the desk is open to the house, else by who manages, staffs it or works on it', () => {
    fc.assert(
      fc.property(fc.boolean(), fc.boolean(), fc.boolean(), (manages, staffs, works) => {
        expect(seesInside({ reach: 'house', manages, staffs, works })).toBe(true);
        expect(seesInside({ reach: 'team', manages, staffs, works })).toBe([manages, staffs, works].some(Boolean));
      }),
    );
  });
});
