import { createHash } from 'node:crypto';
import { simpleParser, type AddressObject, type ParsedMail } from 'mailparser';
import sanitizeHtml from 'sanitize-html';
import type { MailHead } from '@core/messages';
import type { Envelope } from './receive-mail';

/** Broken mail is still mail: what cannot be parsed is kept whole as text. */
export async function parse(raw: Buffer): Promise<ParsedMail> {
  try {
    return await simpleParser(raw, { skipImageLinks: true, skipTextToHtml: true });
  } catch {
    return { attachments: [], headers: new Map(), headerLines: [], html: false, text: raw.toString('latin1') } as unknown as ParsedMail;
  }
}

export function headOf(mail: ParsedMail, envelope: Envelope): MailHead {
  const headers: Record<string, string> = {};
  for (const { key, line } of mail.headerLines ?? []) headers[key] = line.slice(line.indexOf(':') + 1).trim();
  return { headers, returnPath: envelope.from };
}

/** Delivered twice, a mail may gain trace lines: what makes it the same is its id, sender and text. */
export function sameness(raw: Buffer, mail: ParsedMail, sender: string): Buffer {
  const hash = createHash('sha256');
  return (
    mail.messageId
      ? hash.update(JSON.stringify([mail.messageId, sender, mail.subject ?? '', mail.text ?? '', mail.html || '']))
      : hash.update(raw)
  ).digest();
}

/** The ids a mail refers to, the nearest first. */
export function references(mail: ParsedMail): string[] {
  const refs = typeof mail.references === 'string' ? [mail.references] : (mail.references ?? []);
  return [
    ...new Set(
      [mail.inReplyTo, ...[...refs].reverse()].filter((id): id is string => Boolean(id)).flatMap((id) => id.match(/<[^<>]+>/g) ?? [id]),
    ),
  ].slice(0, 50);
}

export function addresses(of: AddressObject | AddressObject[] | undefined): string[] {
  return (Array.isArray(of) ? of : of ? [of] : [])
    .flatMap((o) => o.value.map((v) => (v.address ?? '').toLowerCase()))
    .filter(Boolean)
    .slice(0, 100);
}

/** Nothing runs and nothing is fetched from elsewhere: remote pictures are cut. */
export function cleanHtml(html: string): string {
  return withoutNul(
    sanitizeHtml(html, {
      allowedTags: [...sanitizeHtml.defaults.allowedTags, 'img', 'del', 'ins'],
      allowedAttributes: {
        a: ['href', 'title'],
        img: ['alt', 'width', 'height', 'src'],
        td: ['colspan', 'rowspan'],
        th: ['colspan', 'rowspan'],
      },
      allowedSchemes: ['http', 'https', 'mailto', 'tel'],
      allowedSchemesByTag: { img: ['cid'] },
      transformTags: { a: sanitizeHtml.simpleTransform('a', { rel: 'noopener noreferrer', target: '_blank' }) },
    }),
  );
}

export function textOf(html: string | false | undefined): string {
  return html
    ? sanitizeHtml(html, { allowedTags: [], allowedAttributes: {} })
        .replace(/\n{3,}/g, '\n\n')
        .trim()
    : '';
}

/** PostgreSQL holds no NUL in text. */
export function withoutNul(text: string): string {
  return text.replaceAll('\0', '');
}

export function clip(text: string, most: number): string {
  return [...withoutNul(text)].slice(0, most).join('');
}
