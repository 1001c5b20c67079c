import { createHash } from 'node:crypto';
import { simpleParser, type AddressObject, type ParsedMail, type SimpleParserOptions } from 'mailparser';
import { citedIds, plainId } from '@core/desk';
import { clipText, storableText } from '@core/ground';
import { readHtml, type HtmlRead } from './read-html';

export interface MailFile {
  readonly name: string;
  readonly mediaType: string;
  readonly contentId: string | null;
  readonly content: Uint8Array;
}
export const LEFT_OUT = ['html', 'text', 'files', 'form'] as const;

/** A mail as it is filed: every text of it can be stored and has a largest size; the rest stands in its source. */
export interface ReadMail {
  /** What makes two of them the same mail. */
  readonly sameness: Uint8Array;
  readonly headers: Readonly<Record<string, string>>;
  readonly messageId: string | null;
  /** The ids it cites, the nearest first. */
  readonly cites: readonly string[];
  readonly from: { readonly address: string; readonly name: string } | null;
  readonly to: readonly string[];
  readonly cc: readonly string[];
  readonly subject: string;
  readonly text: string;
  readonly html: string | null;
  readonly files: readonly MailFile[];
  /** The machine-readable part of a delivery report, and the original that it encloses. */
  readonly report: { readonly status: string; readonly original: string | null } | null;
  readonly leftOut: readonly (typeof LEFT_OUT)[number][];
}

const MOST_TEXT = 100_000;
const MOST_FILES = 100;
const MOST_HEADERS = 200;
const MOST_HEADER = 2000;
const MOST_ADDRESSES = 100;
const MOST_ADDRESS = 254;
/** A longer id is kept by its hash: an index of PostgreSQL takes no more. */
const MOST_ID = 400;
const MOST_SUBJECT = 400;
const REPORT_PARTS =
  /^(message\/(delivery-status|rfc822|rfc822-headers|global|global-delivery-status|global-headers)|text\/rfc822-headers)$/i;

/** `keepDeliveryStatus` is not among the types of the package. */
const PARSING: SimpleParserOptions & { keepDeliveryStatus: boolean } = {
  skipImageLinks: true,
  skipTextToHtml: true,
  skipHtmlToText: true,
  keepDeliveryStatus: true,
};

/** Reads a mail whole. Broken mail is still mail. @throws where its form is beyond reading; then `readPlainly` does */
export async function readMail(raw: Buffer): Promise<ReadMail> {
  const mail = await simpleParser(raw, PARSING);
  return fromParsed(mail, raw, readHtml(mail.html || ''));
}

/** Reads the head and a first piece of the text, whatever the form: what stands in a mail that is too much to read whole. */
export async function readPlainly(raw: Buffer): Promise<ReadMail> {
  const PIECE = 64 * 1024;
  const piece = raw.subarray(0, PIECE);
  const text = piece.toString('latin1');
  const end = text.search(/\r?\n\r?\n/);
  const head = end < 0 ? piece : piece.subarray(0, end);
  const mail = await simpleParser(
    Buffer.concat([Buffer.from(withoutType(head.toString('latin1')), 'latin1'), Buffer.from('\r\n\r\n')]),
    PARSING,
  );
  const body = end < 0 ? '' : piece.subarray(end).toString('utf8').trim();
  const read = fromParsed({ ...mail, text: body }, raw, { html: null, text: '', tooMuch: false });
  // Of what was not read nothing is known to be the same: only the same bytes are.
  return { ...read, sameness: createHash('sha256').update(raw).digest(), leftOut: ['form'] };
}

/** Its form is what cannot be read: only who wrote, to whom and about what is asked of the head. */
function withoutType(head: string): string {
  return head.replace(/^(content-[a-z-]+|mime-version):.*(\r?\n[ \t].*)*\r?\n?/gim, '');
}

function fromParsed(mail: ParsedMail, raw: Buffer, html: HtmlRead): ReadMail {
  const whole = mail.text || html.text;
  const report = reportOf(mail);
  const files = mail.attachments.filter((a) => !(report && REPORT_PARTS.test(a.contentType ?? '')));
  const text = storableText(whole);
  const messageId = mail.messageId ? shortId(plainId(mail.messageId)) : null;
  const from = mail.from?.value[0];
  const subject = clipText((mail.subject ?? '').replace(/\s+/g, ' '), MOST_SUBJECT);
  return {
    sameness: samenessOf(mail, raw, messageId),
    headers: headersOf(mail),
    messageId,
    cites: citedIds(mail.inReplyTo, typeof mail.references === 'string' ? [mail.references] : (mail.references ?? [])).map(shortId),
    from: from ? { address: clipText((from.address ?? '').toLowerCase(), MOST_ADDRESS), name: clipText(from.name ?? '', 200) } : null,
    to: addresses(mail.to),
    cc: addresses(mail.cc),
    subject,
    text: clipText(text, MOST_TEXT),
    html: html.html,
    files: files.slice(0, MOST_FILES).map((a) => ({
      name: clipText(a.filename ?? 'attachment', 200),
      mediaType: clipText(a.contentType || 'application/octet-stream', 100),
      contentId: a.cid ? clipText(a.cid, 200) : null,
      content: a.content,
    })),
    report,
    leftOut: [
      ...(html.tooMuch ? (['html'] as const) : []),
      ...(text.length > MOST_TEXT ? (['text'] as const) : []),
      ...(files.length > MOST_FILES ? (['files'] as const) : []),
    ],
  };
}

/** Delivered twice, a mail may gain trace lines; another text, file or date under the same id is another mail. */
function samenessOf(mail: ParsedMail, raw: Buffer, messageId: string | null): Uint8Array {
  const hash = createHash('sha256');
  if (!messageId) return hash.update(raw).digest();
  hash.update(
    JSON.stringify([messageId, mail.from?.text ?? '', mail.date?.getTime() ?? null, mail.subject ?? '', mail.text ?? '', mail.html || '']),
  );
  for (const file of mail.attachments)
    hash.update(JSON.stringify([file.filename ?? '', file.contentType ?? ''])).update(createHash('sha256').update(file.content).digest());
  return hash.digest();
}

function reportOf(mail: ParsedMail): ReadMail['report'] {
  const part = (type: RegExp) =>
    mail.attachments
      .find((a) => type.test(a.contentType ?? ''))
      ?.content.subarray(0, 64 * 1024)
      .toString('utf8');
  const status = part(/delivery-status$/i);
  return status ? { status: storableText(status), original: part(/rfc822|global(-headers)?$/i) ?? null } : null;
}

function headersOf(mail: ParsedMail): Record<string, string> {
  const headers: Record<string, string> = {};
  for (const { key, line } of (mail.headerLines ?? []).slice(0, MOST_HEADERS))
    headers[storableText(key)] ??= clipText(line.slice(line.indexOf(':') + 1).trim(), MOST_HEADER);
  return headers;
}

function addresses(of: AddressObject | AddressObject[] | undefined): string[] {
  return (Array.isArray(of) ? of : of ? [of] : [])
    .flatMap((o) => o.value.flatMap((v) => [v, ...(v.group ?? [])]).map((v) => storableText(v.address ?? '').toLowerCase()))
    .filter((address) => address && address.length <= MOST_ADDRESS)
    .slice(0, MOST_ADDRESSES);
}

function shortId(id: string): string {
  return id.length > MOST_ID ? `<sha256.${createHash('sha256').update(id).digest('hex')}>` : id;
}
