import fc from 'fast-check';
import { money, parseLocalDate } from '../../ground';
import { USAGE_TREATMENTS, usageReport, usageRows, type UsageEntry } from '.';

const HEAD = { provider: 'P', client: 'C', clientId: 'c', from: parseLocalDate('2026-11-01'), to: parseLocalDate('2026-11-30') };
const entry = fc
  .record({
    number: fc.integer({ min: 1, max: 6 }),
    minutes: fc.integer({ min: 1, max: 600 }),
    minor: fc.integer({ min: 0, max: 100_000 }),
    treatment: fc.constantFrom(...USAGE_TREATMENTS),
    day: fc.integer({ min: 1, max: 30 }),
    kind: fc.constantFrom('incident' as const, 'flat-fee job' as const),
    billable: fc.boolean(),
  })
  .map(({ number, minutes, minor, treatment, day, kind, billable }): UsageEntry => ({
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
  }));

describe('the usage report', () => {
  it('adds up: its parts, its tickets and its work, with nothing lost and only what is charged in the amount', () => {
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 40 }), (all) => {
        const r = usageReport(HEAD, 'EUR', all);
        const entries = all.filter((e) => e.billable && e.kind === 'incident');
        const charged = entries.filter((e) => e.treatment === 'charged');
        const sum = (all: readonly { minutes: number }[]) => all.reduce((n, e) => n + e.minutes, 0);
        expect([r.minutes, r.chargedMinutes, r.net.minor]).toEqual([
          sum(entries),
          sum(charged),
          charged.reduce((n, e) => n + e.net.minor, 0),
        ]);
        expect(r.tickets.flatMap((t) => t.work).length).toBe(entries.length);
        expect(r.tickets.map((t) => t.number)).toEqual([...new Set(entries.map((e) => e.number))].sort((a, b) => a - b));
        for (const t of r.tickets)
          expect([t.minutes, [...t.work].every((w, i) => i === 0 || t.work[i - 1]!.on <= w.on)]).toEqual([sum(t.work), true]);
        const rows = usageRows(r).slice(1);
        expect(rows.reduce((n, row) => n + Number(row[8]), 0)).toBe(r.minutes);
        expect(Math.round(rows.reduce((n, row) => n + Number(row[10]) * 100, 0))).toBe(r.net.minor);
      }),
    );
  });
});
