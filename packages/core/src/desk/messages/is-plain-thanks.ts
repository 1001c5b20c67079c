/** Words that say thanks, agree or take leave, and nothing that asks. */
const THANKS = /\b(thanks?|thank you|thx|cheers|many thanks|much appreciated|appreciated?|ta|grateful)\b/i;
const PLEASANT = new Set(
  `a a lot again all all's am and are as at best brilliant bye can cheers day done excellent fine for fixed good got great grateful have hello helped helping hi
   i i'll i'm is it it's job kind kindly kindest lovely many more morning much my nice no now of off ok okay on one perfect perfectly problem quick quickly regards right
   sent so solved sorted super ta team thank thanks that that's the then there this thx to today up very warm we well wishes wonderful work worked working works yes yours you your
   appreciate appreciated afternoon evening weekend sincerely from mobile speedy help hear been back dear everybody everyone both indeed again`.split(
    /\s+/,
  ),
);
const MOST_WORDS = 25;
/** A name or two may stand under it. */
const MOST_STRANGE = 3;

/**
 * Whether a client's words are plainly thanks, so that nobody owes an answer. Careful on the side of
 * owing: a question, a "but", a number, or too many words that are not pleasantries, and it is not.
 * @param own what they wrote themselves, without what they quote
 */
export function isPlainThanks(own: string): boolean {
  const text = own.trim();
  if (!text || !THANKS.test(text)) return false;
  if (/[?¿]|\d|\bhttps?:/.test(text)) return false;
  if (
    /\b(but|however|still|yet|except|unfortunately|not|n't|cannot|can't|never|wrong|could|would|should|please|when|why|how|also|another|one more)\b|n't\b/i.test(
      text,
    )
  )
    return false;
  const words = text.toLowerCase().match(/[a-z']+/g) ?? [];
  if (words.length > MOST_WORDS) return false;
  return words.filter((word) => !PLEASANT.has(word)).length <= MOST_STRANGE;
}

/** What a person wrote themselves: the text above the first quote. */
export function ownWords(text: string): string {
  const lines = text.split(/\r?\n/);
  const quote = lines.findIndex((line) => /^\s*>/.test(line));
  if (quote < 0) return text;
  const intro = lines.slice(0, quote).findLastIndex((line) => /(wrote|schrieb|écrit|escribió)\s*:?\s*$/i.test(line));
  return lines.slice(0, intro >= 0 ? intro : quote).join('\n');
}
