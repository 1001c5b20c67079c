import fc from 'fast-check';
import { clipText, isStorableText, storableText } from '.';

const anyText = fc.string({ unit: fc.integer({ min: 0, max: 0xffff }).map((n) => String.fromCharCode(n)) });

describe('text as it is stored', () => {
  it('holds no NUL and no half of a pair, and stays as it is where it held none', () => {
    fc.assert(
      fc.property(anyText, (text) => {
        const clean = storableText(text);
        expect(clean).not.toContain('\0');
        expect(Buffer.from(clean, 'utf8').toString('utf8')).toBe(clean);
        expect(storableText(clean)).toBe(clean);
        expect(isStorableText(text)).toBe(clean === text);
      }),
    );
    expect(storableText('a\0b\ud83dc 😀')).toBe('ab\ufffdc 😀');
  });

  it('is cut to a size without splitting a letter, and says that it was', () => {
    fc.assert(
      fc.property(anyText, fc.integer({ min: 1, max: 40 }), (text, most) => {
        const cut = clipText(text, most);
        expect(cut.length).toBeLessThanOrEqual(most);
        expect(isStorableText(cut)).toBe(true);
        const clean = storableText(text);
        if (clean.length <= most) expect(cut).toBe(clean);
        else expect(cut.endsWith('…') && clean.startsWith(cut.slice(0, -1))).toBe(true);
      }),
    );
    expect(clipText('ab😀', 3)).toBe('ab…');
  });
});
