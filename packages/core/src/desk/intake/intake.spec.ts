import fc from 'fast-check';
import { plusSeconds, parseInstant } from '../../ground';
import { CAUSE_SECONDS, chooseTechnician, clearerSubject, findSignature, sameCause, vote, wordsOf, type Candidate } from '.';

describe('a clearer subject', () => {
  it('is the first sentence that tells what is wrong, where the subject tells nothing', () => {
    expect(clearerSubject('help', 'Hello,\n\nthe till in the shop does not open the drawer. Please come.\n\nBram')).toBe(
      'The till in the shop does not open the drawer',
    );
    expect(clearerSubject('(no subject)', 'Hi Deepa,\nyesterday was fine. Today nobody can print at Northgate!')).toBe(
      'Today nobody can print at Northgate',
    );
    expect(clearerSubject('Urgent problem', 'Good morning,\n\nThanks')).toBeUndefined();
  });

  it('is not offered where the subject is clear', () => {
    expect(clearerSubject('Label printer at Northgate prints blank', 'The till does not open.')).toBeUndefined();
  });

  it('is never longer than a line, and never cut within a word', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('printer', 'office', 'cannot', 'scan', 'invoice', 'reach'), { minLength: 3, maxLength: 60 }),
        (words) => {
          const clear = clearerSubject('help', words.join(' '));
          if (clear === undefined) return;
          expect(clear.length).toBeLessThanOrEqual(80);
          expect(words.join(' ').toLowerCase().startsWith(clear.toLowerCase())).toBe(true);
          expect(words).toContain(clear.toLowerCase().split(' ').at(-1));
        },
      ),
    );
  });
});

describe('what like tickets say', () => {
  it('is sure where they agree, and silent where they do not', () => {
    const of = (...values: string[]) => values.map((value) => ({ value, likeness: 0.5 }));
    expect(vote(of('printing', 'printing', 'network'))).toEqual({ value: 'printing', percent: 66, votes: 2, of: 3, sure: true });
    expect(vote(of('printing'))?.sure).toBe(false);
    expect(vote(of('a', 'b', 'c', 'd'))).toBeUndefined();
    expect(vote([])).toBeUndefined();
  });

  it('does not depend on their order', () => {
    const ballots = fc.array(
      fc.record({ value: fc.constantFrom('a', 'b', 'c'), likeness: fc.integer({ min: 1, max: 16 }).map((n) => n / 16) }),
    );
    fc.assert(fc.property(ballots, (all) => expect(vote([...all].reverse())).toEqual(vote(all))));
  });
});

describe('perhaps the same cause', () => {
  const at = parseInstant('2026-11-24T08:10:00Z');
  const report = (id: string, minutes: number, text: string) => ({ id, at: plusSeconds(at, minutes * 60), subject: text, text: '' });
  const others = [
    report('a', -5, 'Terminal tills offline, no network at the terminal'),
    report('b', 4, 'Network offline at the kiosk'),
    report('c', 6, 'Invoice of last month'),
    report('d', -200, 'Network offline in the hall'),
  ];

  it('is said when several came in a short while that share telling words', () => {
    expect(sameCause(report('x', 0, 'Gate scanner offline, network?'), others)).toEqual({ ids: ['a', 'b'], words: ['network', 'offline'] });
    expect(sameCause(report('x', 0, 'Invoice of May'), others)).toBeUndefined();
  });

  it('is not said of what shares only words of every day in its text', () => {
    const daily = [1, 2, 3].map((i) => ({
      ...report(String(i), i, `Thing ${'abc'[i - 1]!.repeat(6)}`),
      text: 'the front desk of the surgery',
    }));
    expect(sameCause({ ...report('x', 0, 'Printer blank'), text: 'the front desk of the surgery' }, daily)).toBeUndefined();
  });

  it('never counts the report itself, nor what came long before or after', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: -300, max: 300 }), fc.boolean())), (times) => {
        const all = times.map(([m, alike], i) => report(String(i), m, alike ? 'router offline upstairs' : 'quarterly invoice'));
        const found = sameCause(report('0', 0, 'router offline upstairs'), all);
        for (const id of found?.ids ?? []) {
          expect(id).not.toBe('0');
          expect(Math.abs(all[Number(id)]!.at - at)).toBeLessThanOrEqual(CAUSE_SECONDS);
          expect(times[Number(id)]![1]).toBe(true);
        }
      }),
    );
  });

  it('takes words as they are told, without ends and fillers', () => {
    expect([...wordsOf('The Printers are NOT printing, printer!')]).toEqual(['printer', 'printing']);
  });
});

describe('who signed', () => {
  const people = [
    { id: 'o', name: 'Orla Devane', phone: '+353 20 912 0007' },
    { id: 'b', name: 'Bram Osei', phone: null },
    { id: 'c', name: 'Bram Lund', phone: '+353 20 913 0008' },
  ];
  it('is found by name, by phone or by a first name that one alone has', () => {
    expect(findSignature('It is stuck.\n\nOrla Devane\nfront desk', people)).toEqual({ id: 'o', by: 'name' });
    expect(findSignature('It is stuck.\nRing (020) 913-0008', people)).toEqual({ id: 'c', by: 'phone' });
    expect(findSignature('It is stuck.\nThanks\norla', people)).toEqual({ id: 'o', by: 'first name' });
    expect(findSignature('It is stuck.\nBram', people)).toBeUndefined();
    expect(findSignature('', people)).toBeUndefined();
  });
});

describe('whom a ticket goes to', () => {
  const one = (name: string, more: Partial<Candidate> = {}): Candidate => ({
    id: name,
    name,
    atWork: true,
    skilled: true,
    bookedMinutes: 0,
    openMinutes: 0,
    ticketsOfClient: 0,
    ...more,
  });
  const team = [
    one('Ada', { bookedMinutes: 90 }),
    one('Ben', { openMinutes: 60 }),
    one('Cem', { atWork: false }),
    one('Dee', { skilled: false }),
  ];

  it('is nobody, the least loaded of those who can, or the usual one while at work', () => {
    expect(chooseTechnician('nobody', team).id).toBeNull();
    expect(chooseTechnician('least loaded', team).id).toBe('Ben');
    expect(chooseTechnician('usual technician', team).id).toBe('Ben');
    const usual = [...team, one('Eli', { ticketsOfClient: 5, bookedMinutes: 400 })];
    expect(chooseTechnician('usual technician', usual).id).toBe('Eli');
    expect(chooseTechnician('least loaded', [one('Cem', { atWork: false })]).id).toBeNull();
  });

  it('is never somebody who is away or lacks the skill, nor one with more work than another who fits', () => {
    const anyone = fc.record({
      atWork: fc.boolean(),
      skilled: fc.boolean(),
      bookedMinutes: fc.nat(500),
      openMinutes: fc.nat(500),
      ticketsOfClient: fc.nat(6),
    });
    fc.assert(
      fc.property(fc.array(anyone, { maxLength: 8 }), (all) => {
        const people = all.map((a, i) => one(`p${i}`, a));
        const chosen = people.find((p) => p.id === chooseTechnician('least loaded', people).id);
        const fit = people.filter((p) => p.atWork && p.skilled);
        if (!chosen) return expect(fit).toEqual([]);
        expect(fit).toContain(chosen);
        const load = (p: Candidate) => p.bookedMinutes + p.openMinutes;
        expect(load(chosen)).toBe(Math.min(...fit.map(load)));
      }),
    );
  });
});
