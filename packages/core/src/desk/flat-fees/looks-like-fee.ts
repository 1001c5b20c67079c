import type { Id } from '../../ground';
/** A fee that the provider takes for a kind of job, as far as pointing it out cares. */
export interface KnownFee {
  readonly id: string;
  readonly name: string;
  readonly categoryId: Id<'category'> | null;
  /** Words or phrases that speak of such a job. */
  readonly words: readonly string[];
  /** Whether somebody or something new at the client speaks of it. */
  readonly forNewPerson: boolean;
  readonly forNewAsset: boolean;
}

export interface JobFacts {
  readonly categoryId: Id<'category'> | null;
  readonly text: string;
  /** The contact or the asset of the ticket came to the client after the ticket did. */
  readonly newPerson: boolean;
  readonly newAsset: boolean;
}

export interface FeeHint {
  readonly feeId: Id<'flat_fee'>;
  readonly name: string;
  readonly why: string;
}

/** The fee that a job without one looks like, by its category, its words, or a new person or device; the first that fits. */
export function looksLikeFee(fees: readonly KnownFee[], job: JobFacts): FeeHint | undefined {
  for (const fee of fees) {
    const why = whyFits(fee, job);
    if (why) return { feeId: fee.id, name: fee.name, why };
  }
  return undefined;
}

function whyFits(fee: KnownFee, job: JobFacts): string | undefined {
  if (fee.categoryId !== null && fee.categoryId === job.categoryId) return 'its category';
  const word = fee.words.find((w) => speaksOf(job.text, w));
  if (word) return `the words "${word}"`;
  if (fee.forNewPerson && job.newPerson) return 'a new person at the client';
  if (fee.forNewAsset && job.newAsset) return 'a new device at the client';
  return undefined;
}

function speaksOf(text: string, phrase: string): boolean {
  const plain = phrase
    .trim()
    .replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
    .replace(/\s+/g, '\\s+');
  return plain !== '' && new RegExp(`(?<!\\p{L})${plain}(?!\\p{L})`, 'iu').test(text);
}
