import fc from 'fast-check';
import { findMentions } from '.';

const PEOPLE = [
  { id: 'd', name: 'Deepa Raghunathan' },
  { id: 's', name: 'Sora Minegishi' },
  { id: 'a', name: 'Aoife Brannigan' },
  { id: 'b', name: 'Aoife Brennan' },
];

describe('mentions', () => {
  it.each([
    ['@Deepa please look', ['d']],
    ['Ask @sora minegishi or @Deepa Raghunathan.', ['s', 'd']],
    ['@Deepa, @deepa and again @DEEPA', ['d']],
    ['(@Sora)', ['s']],
    // Two have that first name, so only the whole one tells.
    ['@Aoife and @Aoife Brennan', ['b']],
    ['mail to desk@Deepa.example', []],
    ['@Deepak is somebody else', []],
    ['@ Deepa', []],
    ['', []],
  ])('of "%s" are %j', (text, ids) => {
    expect(findMentions(text, PEOPLE)).toEqual(ids);
  });

  it('name only people there are, each once, whatever is typed', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.string(), fc.constantFrom('@', '@Deepa', ' @Sora Minegishi', 'Aoife'))), (parts) => {
        const found = findMentions(parts.join(''), PEOPLE);
        expect(new Set(found).size).toBe(found.length);
        expect(found.every((id) => PEOPLE.some((p) => p.id === id))).toBe(true);
      }),
    );
  });
});
