import { type RunInvoiceRowWire, type RunRowWire, sayReason } from '@core/billing';
import { formatMoney, type Money } from '@core/ground';

/** How much more or less: "+€21.33", "−€581.13", "the same". */
export function sayDiffers(differs: Money): string {
  if (differs.minor === 0) return 'the same';
  return `${differs.minor > 0 ? '+' : ''}${formatMoney(differs)}`;
}

/** Why it differs, the largest reason first; what is left out of a short form is counted. */
export function sayReasons({ reasons }: Pick<RunInvoiceRowWire, 'reasons'>, most = reasons.length): string {
  if (!reasons.length) return 'as last time';
  const said = reasons.slice(0, most).map(sayReason).join('; ');
  const more = reasons.length - most;
  return more > 0 ? `${said}; and ${more} more ${more === 1 ? 'reason' : 'reasons'}` : said;
}

export const RUN_STATE_WORDS: Readonly<Record<RunRowWire['state'], string>> = {
  preparing: 'being prepared',
  ready: 'open',
  issuing: 'being issued',
  done: 'done',
};

/** What a row says of itself beside the client's name; nothing of one that can just be issued. */
export const INVOICE_STATE_WORDS: Readonly<Record<RunInvoiceRowWire['state'], string>> = {
  proposed: '',
  changed: 'changed, look again',
  held: 'held for the next run',
  asked: 'being issued',
  issued: '',
  failed: 'not issued',
};
