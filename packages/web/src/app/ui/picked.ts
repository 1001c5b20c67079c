/**
 * What was chosen of a list, as one of it: a select gives the text of its option.
 * @throws where it is none of it, which its options rule out
 */
export function picked<T extends string>(among: readonly T[], text: string): T {
  const found = among.find((each) => each === text);
  if (found === undefined) throw new Error(`"${text}" was chosen, which is none of ${among.join(', ')}`);
  return found;
}
