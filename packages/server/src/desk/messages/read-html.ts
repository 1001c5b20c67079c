import sanitizeHtml from 'sanitize-html';
import { clipText, storableText } from '@core/ground';

export interface HtmlRead {
  /** Cleaned, or null where there is none or it was too much. */
  readonly html: string | null;
  readonly text: string;
  readonly tooMuch: boolean;
}

const MOST_LETTERS = 1_000_000;
const MOST_TAGS = 20_000;
const MOST_DEPTH = 200;
const MOST_KEPT = 500_000;
const MOST_PLAIN = 300_000;
const VOID = /^(area|base|br|col|embed|hr|img|input|link|meta|param|source|track|wbr|p|li|tr|td|th|dd|dt|option)$/i;

/** HTML as a page may show it, and its words. What is too much is not cleaned: its words are taken, and that is said. */
export function readHtml(html: string): HtmlRead {
  if (!html) return { html: null, text: '', tooMuch: false };
  if (isTooMuch(html)) return { html: null, text: plainWords(html), tooMuch: true };
  const clean = cleanHtml(html);
  if (clean.length > MOST_KEPT) return { html: null, text: plainWords(html), tooMuch: true };
  const words = sanitizeHtml(html, { allowedTags: [], allowedAttributes: {} });
  return { html: clean, text: words.replace(/\n{3,}/g, '\n\n').trim(), tooMuch: false };
}

/** Counted, not parsed: to find out must itself be cheap, whatever is given. */
function isTooMuch(html: string): boolean {
  if (html.length > MOST_LETTERS) return true;
  let tags = 0;
  let depth = 0;
  for (const [, closes, name] of html.matchAll(/<(\/?)([a-z][a-z0-9]*|)/gi)) {
    if (++tags > MOST_TAGS) return true;
    if (!name || VOID.test(name)) continue;
    depth = closes ? Math.max(0, depth - 1) : depth + 1;
    if (depth > MOST_DEPTH) return true;
  }
  return false;
}

function plainWords(html: string): string {
  return clipText(
    html
      .slice(0, MOST_PLAIN)
      .replace(/<[^<>]*>?/g, ' ')
      .replace(/[ \t]+/g, ' ')
      .replace(/\n{3,}/g, '\n\n')
      .trim(),
    MOST_PLAIN,
  );
}

/** Nothing runs and nothing is fetched from elsewhere: remote pictures are cut. */
export function cleanHtml(html: string): string {
  return storableText(
    sanitizeHtml(html, {
      allowedTags: [...sanitizeHtml.defaults.allowedTags, 'img', 'del', 'ins'],
      allowedAttributes: {
        a: ['href', 'title', 'rel', 'target'],
        img: ['alt', 'width', 'height', 'src'],
        td: ['colspan', 'rowspan'],
        th: ['colspan', 'rowspan'],
      },
      allowedSchemes: ['http', 'https', 'mailto', 'tel'],
      allowedSchemesByTag: { img: ['cid'] },
      nestingLimit: MOST_DEPTH,
      transformTags: {
        // The real address is shown with the link, whatever its words say.
        a: (tagName, attribs) => ({
          tagName,
          attribs: {
            ...(attribs['href'] ? { href: attribs['href'], title: attribs['href'] } : {}),
            rel: 'noopener noreferrer',
            target: '_blank',
          },
        }),
      },
    }),
  );
}
