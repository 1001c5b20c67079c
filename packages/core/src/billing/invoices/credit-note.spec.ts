import fc from 'fast-check';
import { money } from '../../ground';
import type { Tax } from '../../goods';
import { type LinkDoes, openOf, standingOf } from '../charges';
import {
  type AskedCredit,
  type ChargeToInvoice,
  creditNote,
  type CreditNoteDraft,
  documentKindOf,
  type EarlierCredit,
  invoiceLines,
  invoiceTotals,
  type InvoiceToCredit,
  leftToCredit,
} from '.';

const EUR = (minor: number) => money(minor, 'EUR');
const TAXES: Tax[] = [
  { category: 'S', percent: '23' },
  { category: 'S', percent: '13.5' },
  { category: 'E', percent: '0' },
];
const charge = (minor: number, n: number, tax = TAXES[0]!): ChargeToInvoice => ({
  id: `c${n}`,
  description: `Work ${n}`,
  details: null,
  quantity: minor < 0 ? '-2' : '2',
  unit: 'C62',
  unitPrice: String(Math.abs(minor) / 200),
  net: EUR(minor),
  open: EUR(minor),
  tax,
});

function invoiceOf(charges: readonly ChargeToInvoice[]): InvoiceToCredit {
  const lines = invoiceLines(charges, 'invoice');
  return { currency: 'EUR', lines, groups: invoiceTotals(lines, 'EUR').groups };
}

type Note = Extract<CreditNoteDraft, { is: 'credit note' }>;
const asEarlier = (note: Note): EarlierCredit => ({ lines: note.lines, groups: note.totals.groups });
function taken(draft: CreditNoteDraft): Note {
  if (draft.is !== 'credit note') throw new Error(`refused: ${draft.is}`);
  return draft;
}
const whole = (invoice: InvoiceToCredit, earlier: readonly EarlierCredit[], undoes = true) => {
  const asked = leftToCredit(invoice, earlier).flatMap((net, n) => (net ? [{ position: invoice.lines[n]!.position, net }] : []));
  return creditNote(invoice, earlier, { asked, undoes });
};

describe('a credit note', () => {
  it('of a whole invoice says the same figures, and bills its charges back', () => {
    const invoice = invoiceOf([charge(8667, 0), charge(-1000, 1), charge(0, 2), charge(4500, 3, TAXES[2])]);
    const note = taken(whole(invoice, []));
    expect(note.totals.groups).toEqual(invoice.groups);
    expect(note.lines.map((l) => [l.corrects, l.quantity, l.unitPrice, l.net.minor])).toEqual(
      invoice.lines.map((l) => [l.position, l.quantity, l.unitPrice, l.net.minor]),
    );
    expect(note.lines.flatMap((l) => l.links)).toEqual([
      { chargeId: 'c0', does: 'undo', net: EUR(-8667) },
      { chargeId: 'c1', does: 'undo', net: EUR(1000) },
      { chargeId: 'c2', does: 'undo', net: EUR(0) },
      { chargeId: 'c3', does: 'undo', net: EUR(-4500) },
    ]);
    expect(whole(invoice, [asEarlier(note)]).is).toBe('empty');
  });

  it('of a part is one piece of it, and the last one takes what is left of the tax', () => {
    // 23 % of 0.03 is 0.0069 each, of all 0.0207.
    const invoice = invoiceOf([charge(3, 0), charge(3, 1), charge(3, 2)]);
    expect(invoice.groups[0]!.amount.minor).toBe(2);
    const notes: Note[] = [];
    for (const position of [2, 1, 3])
      notes.push(taken(creditNote(invoice, notes.map(asEarlier), { asked: [{ position, net: EUR(3) }], undoes: false })));
    expect(notes.map((n) => n.totals.tax.minor)).toEqual([1, 1, 0]);
    const part = taken(creditNote(invoice, [], { asked: [{ position: 1, net: EUR(2) }], undoes: false }));
    expect(part.lines[0]).toMatchObject({ quantity: '1', unit: 'C62', unitPrice: '0.02', net: EUR(2), corrects: 1 });
    expect(part.lines[0]!.links).toEqual([{ chargeId: 'c0', does: 'give back', net: EUR(-2) }]);
  });

  it('never gives more tax than is left of lines of one sign', () => {
    // 0.03 five times: 0.0345 of all is 0.03, and 0.01 of each alone.
    const invoice = invoiceOf([0, 1, 2, 3, 4].map((n) => charge(3, n)));
    const notes: Note[] = [];
    for (const position of [1, 2, 3, 4, 5])
      notes.push(taken(creditNote(invoice, notes.map(asEarlier), { asked: [{ position, net: EUR(3) }], undoes: false })));
    expect(notes.map((n) => n.totals.tax.minor)).toEqual([1, 1, 1, 0, 0]);
  });

  it('refuses what is not there, twice, too much, of the other sign, or nothing', () => {
    const invoice = invoiceOf([charge(1000, 0), charge(-500, 1), charge(0, 2)]);
    const of = (...asked: AskedCredit[]) => creditNote(invoice, [], { asked, undoes: true });
    expect(of()).toEqual({ is: 'empty' });
    expect(of({ position: 4, net: EUR(1) })).toEqual({ is: 'no line', position: 4 });
    expect(of({ position: 1, net: EUR(1) }, { position: 1, net: EUR(1) })).toEqual({ is: 'no line', position: 1 });
    expect(of({ position: 1, net: EUR(1001) })).toEqual({ is: 'too much', position: 1, left: EUR(1000) });
    expect(of({ position: 1, net: EUR(-1) })).toEqual({ is: 'too much', position: 1, left: EUR(1000) });
    expect(of({ position: 1, net: EUR(0) })).toEqual({ is: 'too much', position: 1, left: EUR(1000) });
    expect(of({ position: 2, net: EUR(500) })).toEqual({ is: 'too much', position: 2, left: EUR(-500) });
    expect(of({ position: 3, net: EUR(1) })).toEqual({ is: 'too much', position: 3, left: EUR(0) });
    expect(of({ position: 1, net: EUR(1000) }, { position: 2, net: EUR(-500) }, { position: 3, net: EUR(0) }).is).toBe('credit note');
    const all = taken(of({ position: 1, net: EUR(1000) }));
    expect(creditNote(invoice, [asEarlier(all)], { asked: [{ position: 1, net: EUR(1) }], undoes: true })).toEqual({
      is: 'too much',
      position: 1,
      left: EUR(0),
    });
  });

  it('shares a line among all that it bills', () => {
    const [first] = invoiceLines([charge(100, 0)], 'invoice');
    const line = {
      ...first!,
      net: EUR(80),
      links: [
        { chargeId: 'a', does: 'bill' as const, net: EUR(100) },
        { chargeId: 'b', does: 'bill' as const, net: EUR(-20) },
      ],
    };
    const invoice = { currency: 'EUR' as const, lines: [line], groups: invoiceTotals([line], 'EUR').groups };
    const part = taken(creditNote(invoice, [], { asked: [{ position: 1, net: EUR(30) }], undoes: true }));
    expect(part.lines[0]!.links.map((l) => l.net.minor)).toEqual([-30, 0]);
    const rest = taken(whole(invoice, [asEarlier(part)]));
    expect(rest.lines[0]!.links.map((l) => l.net.minor)).toEqual([-70, 20]);
  });

  it('in any parts and order gives back each line and all the tax to the cent, and no more', () => {
    const line = fc.tuple(fc.integer({ min: -20_000, max: 90_000 }), fc.nat(2));
    const steps = fc.array(fc.tuple(fc.nat(9), fc.double({ min: 0.01, max: 1, noNaN: true })), { maxLength: 12 });
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 6 }), steps, (rows, parts) => {
        const invoice = invoiceOf(rows.map(([minor, tax], n) => charge(minor, n, TAXES[tax])));
        const notes: Note[] = [];
        for (const [which, share] of parts) {
          const at = which % rows.length;
          const rest = leftToCredit(invoice, notes.map(asEarlier))[at];
          if (!rest) continue;
          const net = EUR(
            Math.sign(rest.minor) * Math.max(Math.min(1, Math.abs(rest.minor)), Math.floor(Math.abs(rest.minor) * share)) + 0,
          );
          notes.push(taken(creditNote(invoice, notes.map(asEarlier), { asked: [{ position: at + 1, net }], undoes: true })));
        }
        const last = whole(invoice, notes.map(asEarlier));
        if (last.is === 'credit note') notes.push(last);
        const lines = notes.flatMap((n) => n.lines);
        for (const own of invoice.lines) {
          const back = lines.filter((l) => l.corrects === own.position);
          expect(back.reduce((sum, l) => sum + l.net.minor, 0)).toBe(own.net.minor);
          expect(back.flatMap((l) => l.links).reduce((sum, l) => sum + l.net.minor, 0)).toBe(-own.net.minor + 0);
        }
        for (const group of invoice.groups) {
          const given = notes
            .flatMap((n) => n.totals.groups)
            .filter((g) => g.tax === group.tax || JSON.stringify(g.tax) === JSON.stringify(group.tax));
          expect(given.reduce((sum, g) => sum + g.amount.minor, 0)).toBe(group.amount.minor);
        }
        for (const note of notes) expect(note.totals.gross.minor).toBe(note.totals.net.minor + note.totals.tax.minor);
      }),
    );
  });
});

describe('what is billed', () => {
  it('is a sum of links, and what is open of a charge is the rest of it', () => {
    const does = fc.constantFrom<LinkDoes>('bill', 'undo', 'give back');
    fc.assert(
      fc.property(
        fc.integer({ min: -5000, max: 5000 }),
        fc.array(fc.tuple(does, fc.double({ min: 0, max: 1, noNaN: true })), { maxLength: 8 }),
        (minor, links) => {
          let billed = 0;
          for (const [link, share] of links) {
            if (link === 'bill') billed = minor;
            if (link === 'undo') billed -= Math.trunc(billed * share);
          }
          const stands = { state: 'approved' as const, net: EUR(minor), billed: EUR(billed) };
          expect(openOf(stands).minor + billed).toBe(minor);
          expect(standingOf(stands)).toBe(billed === minor ? 'billed' : 'part billed');
        },
      ),
    );
    expect(standingOf({ state: 'approved', net: EUR(0), billed: null })).toBe('approved');
    expect(standingOf({ state: 'approved', net: EUR(0), billed: EUR(0) })).toBe('billed');
    expect(standingOf({ state: 'waived', net: EUR(5), billed: null })).toBe('waived');
    expect(openOf({ net: EUR(5), billed: null })).toEqual(EUR(5));
  });

  it('of what is billed in part makes one piece of the rest', () => {
    const [line] = invoiceLines([{ ...charge(1000, 0), open: EUR(400) }], 'invoice');
    expect(line).toMatchObject({ quantity: '1', unit: 'C62', unitPrice: '4', net: EUR(400), links: [{ does: 'bill', net: EUR(400) }] });
  });

  it('below nothing together is a credit note, turned round; what it bills is signed as it is', () => {
    const charges = [charge(-900, 0), charge(400, 1), { ...charge(-900, 2), open: EUR(-100) }];
    expect(documentKindOf(charges)).toBe('credit note');
    expect(documentKindOf([charge(400, 0), charge(-400, 1)])).toBe('invoice');
    const lines = invoiceLines(charges, 'credit note');
    expect(lines.map((l) => [l.quantity, l.unitPrice, l.net.minor, l.links[0]!.net.minor])).toEqual([
      ['2', '4.5', 900, -900],
      ['-2', '2', -400, 400],
      ['1', '1', 100, -100],
    ]);
    expect(invoiceTotals(lines, 'EUR').gross.minor).toBe(738);
  });
});
