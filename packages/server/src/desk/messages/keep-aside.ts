import { clipText } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { Received } from './receive-mail';

export interface Aside {
  readonly sourceId: string;
  readonly sender: string;
  readonly subject: string;
  readonly reason: string;
  readonly ruleId: string | null;
}

/** Puts a mail aside: it opens no ticket, and stands in Setup with its reason until somebody has looked. */
export async function keepAside(work: Work, { sourceId, sender, subject, reason, ruleId }: Aside): Promise<Received> {
  await work.tx('mail_aside').insert({
    source_id: sourceId,
    at: at(work.now),
    sender: clipText(sender, 254),
    subject: clipText(subject, 400),
    reason: clipText(reason, 300),
    rule_id: ruleId,
  });
  await work.emit('mail-aside', sourceId);
  return { did: 'kept aside' };
}
