import { linesOf, textOf } from './one-a-line';
import { saySize } from './say-size';
import { CONTACT_LINE } from './contact-line';

describe('a contact found while typing', () => {
  const found = { id: 'k', clientId: 'c', name: 'Orla Devane', client: 'Hollin', email: 'o@hollin.example', title: null, phone: null };

  it('gives client and contact at once, and words to read', () => {
    expect(CONTACT_LINE.write!(found, {})).toEqual({ clientId: 'c', contactId: 'k', contactWords: 'Orla Devane, Hollin' });
    expect(CONTACT_LINE.read!({ contactWords: 'Orla Devane, Hollin' })).toBe('Orla Devane, Hollin');
  });

  it('is taken off by typing on, and what was typed stays', () => {
    expect(CONTACT_LINE.write!('Orla D', {})).toEqual({ clientId: '', contactId: '', contactWords: 'Orla D' });
  });
});

describe('what is typed one a line', () => {
  it('keeps the empty last line while it is typed, and nothing is no line', () => {
    expect([linesOf('a\nb\n'), linesOf(''), linesOf(null), textOf(['a', 'b']), textOf(undefined)]).toEqual([
      ['a', 'b', ''],
      [],
      [],
      'a\nb',
      '',
    ]);
  });
});

describe('sizes', () => {
  it.each([
    [812, '812 B'],
    [34_500, '34 kB'],
    [1_300_000, '1.2 MB'],
  ])('of %i bytes are said as %s', (bytes, words) => expect(saySize(bytes)).toBe(words));
});
