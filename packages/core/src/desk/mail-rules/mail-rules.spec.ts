import fc from 'fast-check';
import { chooseMailRule, holdsPattern } from '.';

const word = fc.stringMatching(/^[a-z ]{0,6}$/);
const rule = (more: object) => ({ sender: '', subject: '', header: '', headerHolds: '', ...more });
const mail = { sender: 'alerts@brackwater.example', subject: 'ALERT: disk full on Till 4', headers: { 'x-host': 'till-4' } };

describe('rules for mail', () => {
  it('hold a pattern as an expression made of its pieces would', () => {
    fc.assert(
      fc.property(fc.array(word, { maxLength: 4 }), fc.array(word, { maxLength: 3 }), (text, pieces) => {
        const expression = new RegExp(pieces.join('.*'), 'i');
        expect(holdsPattern(text.join(''), pieces.join('*'))).toBe(expression.test(text.join('')));
      }),
    );
  });

  it('choose the first that asks something and fits, by sender, subject and header', () => {
    const [none, other, disk, host] = [
      rule({}),
      rule({ sender: '@hollin' }),
      rule({ subject: 'alert*disk', sender: 'ALERTS@' }),
      rule({ header: 'X-Host', headerHolds: 'till-*' }),
    ];
    expect(chooseMailRule([none!, other!, disk!, host!], mail)).toBe(disk);
    expect(chooseMailRule([host!, disk!], mail)).toBe(host);
    expect(chooseMailRule([none!, other!], mail)).toBeUndefined();
    expect(chooseMailRule([rule({ header: 'x-none', headerHolds: 'a' })], mail)).toBeUndefined();
    expect(chooseMailRule([rule({ subject: 'disk*alert' })], mail)).toBeUndefined();
  });
});
