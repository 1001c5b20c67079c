import fc from 'fast-check';
import { fillPlaceholders, PLACEHOLDER_NAMES } from '.';

describe('placeholders', () => {
  it('are filled, and what is empty or unknown is named and left standing', () => {
    const filled = fillPlaceholders('Hello {First Name}, #{number} is due {due}. {weather}', {
      'first name': 'Orla',
      number: '4012',
      due: null,
    });
    expect(filled).toEqual({ text: 'Hello Orla, #4012 is due {due}. {weather}', empty: ['due'], unknown: ['{weather}'] });
  });

  it('leave a text without braces as it is, and never fill what was put in', () => {
    fc.assert(
      fc.property(
        fc.string().filter((s) => !s.includes('{')),
        (text) => expect(fillPlaceholders(text, {}).text).toBe(text),
      ),
    );
    expect(fillPlaceholders('{contact}', { contact: '{number}', number: '1' }).text).toBe('{number}');
  });

  it('all can be filled', () => {
    const values = Object.fromEntries(PLACEHOLDER_NAMES.map((name) => [name, 'x']));
    expect(fillPlaceholders(PLACEHOLDER_NAMES.map((n) => `{${n}}`).join(' '), values)).toMatchObject({ empty: [], unknown: [] });
  });
});
