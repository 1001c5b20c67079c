/** What became of a mail of ours on its way to one address. */
export interface Delivery {
  readonly address: string;
  readonly became: 'failed' | 'delayed' | 'delivered';
  /** The enhanced status code, such as 5.1.1; null where the report names none. */
  readonly code: string | null;
  /** In plain words. */
  readonly why: string;
}

/** What a report says of itself: of which message, and what became of it. */
export interface DeliveryReport {
  /** The Message-ID of the original where it is enclosed. */
  readonly originalId: string | null;
  readonly deliveries: readonly Delivery[];
}

const BECAME: Readonly<Record<string, Delivery['became']>> = {
  failed: 'failed',
  delayed: 'delayed',
  delivered: 'delivered',
  relayed: 'delivered',
  expanded: 'delivered',
};
/** RFC 3463, by subject and detail; the first whose beginning fits. */
const WORDS: readonly (readonly [RegExp, string])[] = [
  [/^\d\.1\.[1236]$/, 'there is no such mailbox'],
  [/^\d\.1\.10$/, 'this address takes no mail'],
  [/^\d\.1\./, 'the address is not right'],
  [/^\d\.2\.1$/, 'the mailbox is closed'],
  [/^\d\.2\.2$/, 'the mailbox is full'],
  [/^\d\.2\./, 'the mailbox cannot take it'],
  [/^\d\.3\.4$/, 'the mail is too large for them'],
  [/^\d\.3\./, 'their mail server cannot take it'],
  [/^\d\.4\.[17]$/, 'their mail server does not answer'],
  [/^\d\.4\.6$/, 'the mail went in circles'],
  [/^\d\.4\./, 'the way to their mail server is broken'],
  [/^\d\.6\./, 'they cannot read a mail of this form'],
  [/^\d\.7\./, 'their mail server refuses it by its rules'],
];
const MOST_DELIVERIES = 50;
const MOST_BLOCK = 4000;
const MOST_ADDRESS = 254;

/**
 * Reads the machine-readable part of a delivery report. Source: RFC 3464 sections 2.2 and 2.3, RFC 3463.
 * @param status the text of its message/delivery-status part
 * @param original the enclosed original, or as much of its head as was sent back; null where none was
 */
export function readDeliveryReport(status: string, original: string | null): DeliveryReport {
  const [, ...blocks] = status
    .slice(0, MOST_BLOCK * MOST_DELIVERIES)
    .replace(/\r\n/g, '\n')
    .split(/\n\s*\n/);
  const deliveries = blocks
    .slice(0, MOST_DELIVERIES)
    .map((block) => readBlock(fieldsOf(block.slice(0, MOST_BLOCK))))
    .filter((read): read is Delivery => read !== undefined);
  const head = original
    ? fieldsOf(
        original
          .slice(0, MOST_BLOCK * 4)
          .replace(/\r\n/g, '\n')
          .split(/\n\n/)[0]!,
      )
    : {};
  return { originalId: head['message-id'] ?? null, deliveries };
}

function readBlock(fields: Readonly<Record<string, string>>): Delivery | undefined {
  const address = valueOf(fields['original-recipient'] ?? fields['final-recipient'] ?? '').toLowerCase();
  const became = BECAME[(fields['action'] ?? '').trim().toLowerCase()];
  if (!address || !became) return undefined;
  const code = /\b([245]\.\d{1,3}\.\d{1,3})\b/.exec(fields['status'] ?? '')?.[1] ?? null;
  return { address: address.slice(0, MOST_ADDRESS), became, code, why: whyOf(became, code) };
}

function whyOf(became: Delivery['became'], code: string | null): string {
  if (became === 'delivered') return 'it was delivered';
  const words = WORDS.find(([pattern]) => code && pattern.test(code))?.[1];
  return words ?? (became === 'delayed' ? 'their mail server did not take it yet' : 'their mail server did not take it');
}

/** "rfc822; orla@hollin.example" without its kind. */
function valueOf(field: string): string {
  return field
    .slice(field.indexOf(';') + 1)
    .trim()
    .replace(/^<|>$/g, '');
}

function fieldsOf(block: string): Record<string, string> {
  const fields: Record<string, string> = {};
  for (const line of block.replace(/\n[ \t]+/g, ' ').split('\n')) {
    const colon = line.indexOf(':');
    if (colon > 0) fields[line.slice(0, colon).trim().toLowerCase()] ??= line.slice(colon + 1).trim();
  }
  return fields;
}
