/** Words that say nothing of what it is about. */
const EMPTY = new Set(
  'a an and are as at be but by can could do does for from have hello help hi i in is it its issue issues me my need no not of on or our please problem problems question re still subject that the there this to trouble urgent us was we what when with work working works you your asap again thanks quick message mail request info information hey'.split(
    ' ',
  ),
);
/** A subject with fewer telling words than this may be made clearer. */
const TELLING = 2;
const MOST = 80;
const GREETING = /^(hello|hi|hey|dear|good (morning|afternoon|day)|morning|afternoon)\b[^.!?\n]{0,30}[,!.]?\s*$/i;
/** Sentences with one of these say what is wrong or wanted. */
const TELLS =
  /\b(can ?not|can't|cannot|does not|doesn't|do not|don't|won't|will not|fails?|failed|broken|offline|down|stuck|frozen|blank|slow|missing|gone|error|asks?|need|needs|would like|no \w+|prints?|locked|lost|stopp?(s|ed)?)\b/i;

/**
 * A subject that says what it is about, where the one given does not: the first sentence of the sender's own
 * words that tells something.
 * @param text the sender's own words, without what was quoted
 * @returns undefined where the subject is clear as it is, or the text tells no more
 */
export function clearerSubject(subject: string, text: string): string | undefined {
  if (telling(subject) >= TELLING) return undefined;
  const sentences = text
    .split(/\n+|(?<=[.!?])\s+/)
    .map((s) => s.trim().replace(/^(hello|hi|hey|good morning|morning)\s*,?\s+/i, ''))
    .filter((s) => s && !GREETING.test(s));
  const best = sentences.find((s) => TELLS.test(s) && telling(s) >= TELLING) ?? sentences.find((s) => telling(s) > TELLING);
  if (!best) return undefined;
  const clear = shortened(best.replace(/[.!?,;:]+$/, ''));
  return telling(clear) > telling(subject) ? clear[0]!.toUpperCase() + clear.slice(1) : undefined;
}

function telling(text: string): number {
  return (text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []).filter((w) => w.length > 1 && !EMPTY.has(w)).length;
}

function shortened(sentence: string): string {
  if (sentence.length <= MOST) return sentence;
  const cut = sentence.slice(0, MOST);
  return cut.slice(0, Math.max(cut.lastIndexOf(' '), 40)).replace(/[,;:\s]+$/, '');
}
