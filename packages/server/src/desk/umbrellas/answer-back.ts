import type { Id } from '@core/ground';
import { at } from '../../app/database';
import type { App } from '../../app/app';
import { byContact, byNobody } from '../../app/actor';
import { transact, workAs } from '../../app/work';
import { hashSecret } from '../../house';
import { linkAuthor, writeByLink } from '../messages/write-by-link';

export interface BackAnswer {
  readonly token: string;
  readonly updateId: Id<'member_update'>;
  readonly back: boolean;
}

/**
 * Takes the answer of a contact to "is it back for you?". The latest counts, pressed again it does nothing
 * more. A no is a message of the client: it owes a reply, and reopens what was resolved.
 * @returns false where the address is not one that a mail of ours carried
 */
export async function answerBack(app: App, { token, updateId, back }: BackAnswer): Promise<boolean> {
  const outcome = await transact(app, { now: app.clock.now(), actor: byNobody('page') }, async (unknown) => {
    const { tx } = unknown;
    const asked = await tx('status_link as l')
      .join('message as m', 'm.ticket_id', 'l.ticket_id')
      .join('member_update as u', 'u.id', 'm.update_id')
      .join('ticket as t', 't.id', 'l.ticket_id')
      .leftJoin('contact as k', 'k.id', 't.contact_id')
      .where({ 'l.token_hash': hashSecret(token), 'u.id': updateId, 'u.asks': true })
      .whereNotNull('m.left_at')
      .first('t.id', 't.number', 't.sender_name', 't.sender_email', 't.contact_id', 'k.name', 'k.email', 'u.umbrella_id');
    if (!asked) return { known: false };
    const author = linkAuthor(asked.id, asked);
    const work = workAs(unknown, byContact(author, 'page'));
    await tx('ticket').where({ id: asked.id }).forUpdate().first('id');
    const last = await tx('back_answer').where({ update_id: updateId, ticket_id: asked.id }).orderBy('id', 'desc').first('back');
    if (last?.back === back) return { known: true };
    await tx('back_answer').insert({ update_id: updateId, ticket_id: asked.id, at: at(work.now), back });
    if (!back) await writeByLink(work, app.house, { author, words: 'It is not back for me.' });
    await work.tell('ticket.back-answered', asked.id, { back, memberNumber: null });
    await work.tell('ticket.back-answered', asked.umbrella_id, { back, memberNumber: asked.number });
    return { known: true };
  });
  return 'known' in outcome && outcome.known;
}
