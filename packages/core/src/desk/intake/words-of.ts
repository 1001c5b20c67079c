const STOP = new Set(
  'about after again all also always and another any anything are asked back been before being both but can cannot could days dear does doing done down each else even every everything for from get gets getting goes going good got had has have having hello help here him his how into its just know last let like long look many may maybe mine more morning most much must need never new next nobody none not nothing now off okay once one only other our out over people please put really right said same say says see she should since some somebody something soon still such take tell than thank thanks that the their them then there these they thing things think this those time today told tomorrow too tried try turned two until upon use used very want was way week well went were what when where which while who why will with without work working works would yes yesterday yet you your'.split(
    ' ',
  ),
);
const SHORTEST = 4;

/** The telling words of a text, in lower case and without a plural's end. */
export function wordsOf(text: string): ReadonlySet<string> {
  const words = text.toLowerCase().match(/\p{L}{4,}/gu) ?? [];
  return new Set(words.filter((w) => !STOP.has(w)).map(singular));
}

function singular(word: string): string {
  return word.length > SHORTEST && word.endsWith('s') && !word.endsWith('ss') ? word.slice(0, -1) : word;
}
