import type { App } from '../../app/app';
import { at } from '../../app/database';

/** Job: mails the person who is rung. Its Message-ID is fixed, so that a second run is the same mail. */
export async function mailEscalation(app: App, { escalationId }: { escalationId: string }): Promise<void> {
  const rung = await app.knex('escalation').where({ id: escalationId }).first();
  if (!rung || rung.mailed_at !== null) return;
  const person = (await app.knex('person').where({ id: rung.person_id }).first('email', 'name'))!;
  const ticket = await app
    .knex('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .where('t.id', rung.ticket_id)
    .first('t.number', 't.subject', 'c.name as client');
  const { provider, mailFrom } = app.house.house;
  await app.mail.send({
    from: { name: provider, address: mailFrom },
    to: [person.email],
    cc: [],
    subject: `Ringing you: #${ticket.number} ${ticket.subject}`,
    text: `${person.name},\n\n${rung.why}, on #${ticket.number} ${ticket.subject}${ticket.client ? ` of ${ticket.client}` : ''}.\n\nOpen it and say that you have it, or others are rung:\n${app.config.PUBLIC_URL}/tickets/${rung.ticket_id}`,
    messageId: `<ring.${escalationId}@${mailFrom.split('@')[1]}>`,
    inReplyTo: undefined,
    references: [],
    headers: { 'Auto-Submitted': 'auto-generated' },
    attachments: [],
  });
  await app
    .knex('escalation')
    .where({ id: escalationId })
    .update({ mailed_at: at(app.clock.now()) });
}
