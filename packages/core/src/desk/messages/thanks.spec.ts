import fc from 'fast-check';
import { isPlainThanks, ownWords } from '.';

describe('thanks', () => {
  it.each([
    'Thanks!',
    'Thank you, that works now.\n\nOrla',
    'Perfect, many thanks to you and the team!',
    'Brilliant. Cheers\nBram',
    'Great, all working again. Thank you very much for the quick help.\n\nBest wishes\nIlse Marchetti',
    'ok thx',
  ])('is plainly thanks: %s', (text) => expect(isPlainThanks(text)).toBe(true));

  it.each([
    '',
    'It works.',
    'Thanks, but the second printer still prints blank.',
    'Thank you. When will the other one be done?',
    'Thanks! Could you also look at gate 2',
    'Thank you for calling back, the code is 4711',
    "Thanks, it doesn't print",
    'Thanks for nothing, I have been waiting since nine and the boat has left without half of its passengers on board',
    'No thanks needed, please ring me',
    'Many thanks. Invoice department wants purchase order references mentioned everywhere',
  ])('is owed an answer: %s', (text) => expect(isPlainThanks(text)).toBe(false));

  it('is never seen where somebody asks, whatever else they write', () => {
    fc.assert(
      fc.property(fc.lorem({ maxCount: 6 }), fc.constantFrom('?', ' but ', ' please ', ' 42 '), (words, sign) => {
        expect(isPlainThanks(`Thanks ${words}${sign}`)).toBe(false);
      }),
    );
  });

  it('is looked for in what they wrote, not in what they quote', () => {
    const reply = 'Thank you!\n\nOn Tuesday Deepa wrote:\n> Does it print now? Please tell me.\n> Deepa';
    expect(ownWords(reply).trim()).toBe('Thank you!');
    expect(isPlainThanks(ownWords(reply))).toBe(true);
    expect(ownWords('no quote here')).toBe('no quote here');
    expect(ownWords('> only a quote')).toBe('');
  });
});
