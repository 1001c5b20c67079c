import type { Id } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';

/**
 * A reply owed on a member is owed on its umbrella: since the longest waiting, naming who wrote. Called after
 * whatever changes what a member is owed.
 */
export async function surfaceOwed(work: Work, memberId: string): Promise<void> {
  const member = await work.tx('ticket').where({ id: memberId }).first('umbrella_id');
  if (member?.umbrella_id) await surfaceOn(work, member.umbrella_id);
}

export async function surfaceOn(work: Work, umbrellaId: Id<'ticket'>): Promise<void> {
  // One after another: two answers that leave at once would each still see the other's reply owed.
  await work.tx('ticket').where({ id: umbrellaId }).forUpdate().first('id');
  const owed = await work
    .tx('ticket')
    .where({ umbrella_id: umbrellaId })
    .whereNotNull('reply_owed_since')
    .orderBy('reply_owed_since')
    .first('reply_owed_since', 'reply_owed_by');
  await work
    .tx('ticket')
    .where({ id: umbrellaId })
    .update({
      reply_owed_since: owed ? at(owed.reply_owed_since!) : null,
      reply_owed_by: owed?.reply_owed_by ?? null,
    });
  await work.emit('ticket', umbrellaId);
}
