import { at } from '../../app/database';
import { hashSecret } from '../../house/access/secret-address';
import type { App } from '../../app/app';
import { transact, type Actor } from '../../app/work';
import { linkAuthor, writeByLink } from '../messages/write-by-link';

const CLIENT: Actor = { personId: null, name: 'the client', role: null, via: 'mail' };

export interface BackAnswer {
  readonly token: string;
  readonly updateId: string;
  readonly back: boolean;
}

/**
 * Takes the answer of a contact to "is it back for you?". The latest counts, pressed again it does nothing
 * more. A no is a message of the client: it owes a reply, and reopens what was resolved.
 * @returns false where the address is not one that a mail of ours carried
 */
export async function answerBack(app: App, { token, updateId, back }: BackAnswer): Promise<boolean> {
  const outcome = await transact(app.knex, app.clock.now(), CLIENT, async (work) => {
    const { tx } = work;
    const asked = await tx('status_link as l')
      .join('message as m', 'm.ticket_id', 'l.ticket_id')
      .join('member_update as u', 'u.id', 'm.update_id')
      .join('ticket as t', 't.id', 'l.ticket_id')
      .leftJoin('contact as k', 'k.id', 't.contact_id')
      .where({ 'l.token_hash': hashSecret(token), 'u.id': updateId, 'u.asks': true })
      .whereNotNull('m.left_at')
      .first('t.id', 't.number', 't.sender_name', 't.sender_email', 't.contact_id', 'k.name', 'k.email', 'u.umbrella_id');
    if (!asked) return { known: false };
    await tx('ticket').where({ id: asked.id }).forUpdate().first('id');
    const last = await tx('back_answer').where({ update_id: updateId, ticket_id: asked.id }).orderBy('id', 'desc').first('back');
    if (last?.back === back) return { known: true };
    await tx('back_answer').insert({ update_id: updateId, ticket_id: asked.id, at: at(work.now), back });
    const author = linkAuthor(asked.id, asked);
    if (!back) await writeByLink(work, app.house, author, 'It is not back for me.');
    const words = `${author.name} says it ${back ? 'is back' : 'is not back'}`;
    await work.tell({ subject: 'ticket', id: asked.id, what: words });
    await work.tell({ subject: 'ticket', id: asked.umbrella_id, what: `${words} (#${asked.number})` });
    return { known: true };
  });
  return 'known' in outcome && outcome.known;
}
