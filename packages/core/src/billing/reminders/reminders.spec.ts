import fc from 'fast-check';
import { daysBetween, type LocalDate, plusDays } from '../../ground';
import { fillReminder, nextReminder, reminderStepsSchema, unknownBlanks } from '.';

const day = (text: string) => text as LocalDate;
const STEPS = [{ afterDays: 7 }, { afterDays: 21 }, { afterDays: 35 }];
const DUE = day('2026-10-01');

describe('reminders', () => {
  const next = (remindedOn: string[], pausedUntil: LocalDate | 'always' | null = null) =>
    nextReminder({ dueOn: DUE, remindedOn: remindedOn.map(day), pausedUntil }, STEPS);

  it('come step by step, as far apart as the steps say, however late the one before was', () => {
    expect(next([])).toEqual({ is: 'on', step: 0, day: '2026-10-08' });
    expect(next(['2026-10-08'])).toEqual({ is: 'on', step: 1, day: '2026-10-22' });
    expect(next(['2026-11-10'])).toEqual({ is: 'on', step: 1, day: '2026-11-24' });
    expect(next(['2026-10-08', '2026-10-22', '2026-11-05'])).toEqual({ is: 'all sent' });
  });

  it('wait for the end of a pause', () => {
    expect(next([], day('2026-11-01'))).toEqual({ is: 'on', step: 0, day: '2026-11-02' });
    expect(next([], day('2026-10-02'))).toEqual({ is: 'on', step: 0, day: '2026-10-08' });
    expect(next([], 'always')).toEqual({ is: 'paused' });
    expect(nextReminder({ dueOn: DUE, remindedOn: [], pausedUntil: null }, [])).toEqual({ is: 'all sent' });
  });

  it('sent on any days by a job that runs each day, never come twice for a step nor closer than the steps', () => {
    const rising = fc
      .uniqueArray(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 5 })
      .map((days) => days.toSorted((a, b) => a - b));
    fc.assert(
      fc.property(rising, fc.array(fc.boolean(), { maxLength: 200 }), (afters, awake) => {
        const steps = afters.map((afterDays) => ({ afterDays }));
        const sent: LocalDate[] = [];
        awake.forEach((isAwake, n) => {
          const today = plusDays(DUE, n);
          const due = nextReminder({ dueOn: DUE, remindedOn: sent, pausedUntil: null }, steps);
          if (isAwake && due.is === 'on' && due.day <= today) sent.push(today);
        });
        expect(sent.length).toBeLessThanOrEqual(steps.length);
        for (const [n, on] of sent.entries()) {
          expect(daysBetween(DUE, on)).toBeGreaterThanOrEqual(afters[n]!);
          if (n) expect(daysBetween(sent[n - 1]!, on)).toBeGreaterThanOrEqual(afters[n]! - afters[n - 1]!);
        }
      }),
    );
  });

  it('fill their blanks once, and name those that stand for nothing', () => {
    expect(
      fillReminder('{client}: {total} for {invoices}, {us} {other}', { client: '{total}', total: '€5', invoices: 'PH-1', us: 'we' }),
    ).toBe('{total}: €5 for PH-1, we {other}');
    expect(unknownBlanks('{client} {sum} {}')).toEqual(['sum', '']);
    const step = (afterDays: number, text = 'x') => ({ afterDays, subject: 's', text });
    const said = (steps: object[]) =>
      reminderStepsSchema.validate({ byThemselves: true, steps }, { abortEarly: false }).then(
        () => 'good',
        (fault: Error & { errors: string[] }) => fault.errors.join(),
      );
    return Promise.all([said([step(7), step(21)]), said([step(7), step(7)]), said([step(7, 'owes {sum}')])]).then((found) =>
      expect(found).toEqual([
        'good',
        'each step is later than the one before',
        '{sum} stands for nothing: {client}, {invoices}, {total}, {us} do',
      ]),
    );
  });
});
