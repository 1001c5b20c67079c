import { chooseMailRule as choose, type Triage } from '@core/desk';
import { type Id, isRefusal } from '@core/ground';
import type { App } from '../../app/app';
import type { Row } from '../../app/rows';
import { byRule } from '../../app/actor';
import { type Work, workAs } from '../../app/work';
import type { HouseBook } from '../../house';
import type { Sender } from './find-thread';
import type { ReadMail } from './read-mail';
import { triageTicket } from '../tickets/triage-ticket';

export type MailRule =
  | { readonly does: 'aside'; readonly id: Id<'mail_rule'>; readonly reason: string; readonly clientId: null }
  | {
      readonly does: 'route';
      readonly id: Id<'mail_rule'>;
      readonly name: string;
      readonly clientId: Id<'client'> | null;
      readonly row: Row<'mail_rule'>;
    };

/** The house's rule for a mail that would open a ticket; none where the house has no word on it. */
export function chooseMailRule(book: HouseBook, mail: ReadMail, sender: Sender): MailRule | undefined {
  const found = choose(
    book.mailRules.map((row) => ({
      sender: row.sender,
      subject: row.subject,
      header: row.header,
      headerHolds: row.header_holds,
      row,
    })),
    { sender: sender.email, subject: mail.subject, headers: mail.headers },
  )?.row;
  if (!found) return undefined;
  if (found.does === 'aside') return { does: 'aside', id: found.id, reason: found.reason!, clientId: null };
  return { does: 'route', id: found.id, name: found.name, clientId: found.client_id, row: found };
}

/** Sorts a ticket that a mail just opened as its rule says; what the rule leaves open is left to intake, and why is told. */
export async function applyMailRule(
  app: App,
  work: Work,
  { ticketId, rule }: { readonly ticketId: Id<'ticket'>; readonly rule: MailRule },
): Promise<void> {
  if (rule.does === 'aside') return;
  const { row } = rule;
  if (row.asset_id) await work.tx('ticket').where({ id: ticketId }).update({ asset_id: row.asset_id });
  const { kind, impact, urgency, line, category_id: categoryId, desk_id: deskId } = row;
  const whole = kind && impact && urgency && line && categoryId && deskId;
  const ruled = workAs(work, byRule(rule, 'mail'));
  const told = { ruleId: rule.id, rule: rule.name };
  if (!whole) return void (await ruled.tell('ticket.mail-rule-applied', ticketId, { ...told, did: 'looked' }));
  const triage: Triage = {
    kind,
    impact,
    urgency,
    line,
    categoryId,
    deskId,
    clientId: row.client_id,
    contactId: null,
    assetId: row.asset_id,
    assigneeId: null,
  };
  const sorted = await triageTicket(ruled, app.house, { ticketId, version: undefined, triage });
  if (isRefusal(sorted)) await ruled.tell('ticket.mail-rule-refused', ticketId, { ...told, why: sorted.detail });
  else await ruled.tell('ticket.mail-rule-applied', ticketId, { ...told, did: 'sorted' });
}
