import fc from 'fast-check';
import { money, parseLocalDate, plusDays } from '../../ground';
import { USAGE_TREATMENTS, usedIn, usageReport, usageRows, type UsageEntry } from '.';

const HEAD = {
  provider: 'P',
  client: 'C',
  clientId: 'c',
  from: parseLocalDate('2026-11-01'),
  to: parseLocalDate('2026-11-30'),
  contracts: [],
};
const entry = fc
  .record({
    number: fc.integer({ min: 1, max: 6 }),
    minutes: fc.integer({ min: 1, max: 600 }),
    minor: fc.integer({ min: 0, max: 100_000 }),
    treatment: fc.constantFrom(...USAGE_TREATMENTS),
    day: fc.integer({ min: 1, max: 30 }),
    kind: fc.constantFrom('incident' as const, 'flat-fee job' as const),
    billable: fc.boolean(),
    covered: fc.oneof(fc.constant(0), fc.nat(300)),
  })
  .map(({ number, minutes, minor, treatment, day, kind, billable, covered }): UsageEntry => ({
    kind,
    billable,
    ticketId: `t${number}`,
    number,
    subject: `Subject ${number}`,
    contact: null,
    status: 'closed',
    done: null,
    on: parseLocalDate(`2026-11-${String(day).padStart(2, '0')}`),
    person: 'Deepa',
    activity: 'remote',
    minutes,
    net: money(minor, 'EUR'),
    treatment,
    coveredMinutes: treatment === 'covered' ? minutes : treatment === 'charged' ? Math.min(minutes, covered) : 0,
  }));

describe('the usage report', () => {
  it('adds up: its parts, its tickets and its work, with nothing lost and only what is charged in the amount', () => {
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 40 }), (all) => {
        const r = usageReport(HEAD, 'EUR', all);
        const entries = all.filter((e) => e.billable && e.kind === 'incident');
        const charged = entries.filter((e) => e.treatment === 'charged');
        const sum = (all: readonly { minutes: number }[]) => all.reduce((n, e) => n + e.minutes, 0);
        const covered = (all: readonly UsageEntry[]) => all.reduce((n, e) => n + e.coveredMinutes, 0);
        expect(r.coveredMinutes).toBe(covered(entries));
        expect([r.minutes, r.chargedMinutes, r.net.minor]).toEqual([
          sum(entries),
          sum(charged) - covered(charged),
          charged.reduce((n, e) => n + e.net.minor, 0),
        ]);
        expect(r.tickets.flatMap((t) => t.work).length).toBe(entries.length);
        expect(r.tickets.map((t) => t.number)).toEqual([...new Set(entries.map((e) => e.number))].sort((a, b) => a - b));
        for (const t of r.tickets)
          expect([t.minutes, [...t.work].every((w, i) => i === 0 || t.work[i - 1]!.on <= w.on)]).toEqual([sum(t.work), true]);
        const rows = usageRows(r).slice(1);
        expect(rows.reduce((n, row) => n + Number(row[8]), 0)).toBe(r.minutes);
        expect(Math.round(rows.reduce((n, row) => n + Number(row[11]) * 100, 0))).toBe(r.net.minor);
      }),
    );
  });
});

describe('what a contract granted for a span', () => {
  const day = parseLocalDate;
  const NOVEMBER = { from: day('2026-11-01'), to: day('2026-11-30') };
  const lot = (from: string, expiry: string | null, granted: number) => ({
    from: day(from),
    expiry: expiry === null ? null : day(expiry),
    granted,
  });
  const drawn = (on: string, of: string, units: number) => ({ on: day(on), lot: day(of), units });

  it('is its own and what was left before it; what expires in it is not left', () => {
    const lots = [lot('2026-09-01', '2026-10-15', 700), lot('2026-10-01', '2026-11-15', 720), lot('2026-11-01', '2026-12-15', 720)];
    const draws = [drawn('2026-10-05', '2026-10-01', 540), drawn('2026-11-03', '2026-10-01', 60), drawn('2026-11-20', '2026-11-01', 100)];
    expect(usedIn({ lots, draws }, NOVEMBER)).toEqual({ granted: 900, used: 160, left: 620 });
    expect(usedIn({ lots, draws: [...draws, drawn('2026-12-02', '2026-11-01', 300)] }, NOVEMBER).left).toBe(620);
  });

  it('of a block that was bought once is what was left of it', () => {
    const once = [lot('2026-01-01', null, 6000)];
    expect(
      usedIn({ lots: once, draws: [drawn('2026-05-01', '2026-01-01', 1000), drawn('2026-11-01', '2026-01-01', 500)] }, NOVEMBER),
    ).toEqual({
      granted: 5000,
      used: 500,
      left: 4500,
    });
  });

  it('is used and left where nothing expires and nothing was lent, however it was drawn', () => {
    fc.assert(
      fc.property(fc.nat(5000), fc.array(fc.record({ offset: fc.nat(200), units: fc.nat(100) })), (granted, all) => {
        const lots = [lot('2026-06-01', null, granted)];
        const draws = all.map(({ offset, units }) => ({ on: plusDays(day('2026-06-01'), offset), lot: day('2026-06-01'), units }));
        const said = usedIn({ lots, draws }, NOVEMBER);
        expect(said.granted - said.used).toBe(said.left);
      }),
    );
  });
});
