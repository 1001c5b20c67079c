import { type ClockFact, priorityOf, type Triage } from '@core/desk';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { type HouseBook, tellPerson } from '../../house';
import { followOwner } from '../clocks/take-promise';
import type { Work } from '../../app/work';
import { assignByLine } from './assign-by-line';
import { ownKindOf } from '../kinds/kinds-routes';
import { conditionFacts } from './condition-facts';
import { readFields, refuseMissing } from '../own-fields/record-fields';
import { refuseMember } from './refuse-member';
import { oweFirstReply } from './reply-owed';
import { addFacts, storeClocks, takeBackFact } from '../clocks/ticket-clock-store';

type Done = Outcome<{ id: Id<'ticket'>; version: number }>;

/** Whether the contact raises priorities. */
export async function isPriorityContact(work: Pick<Work, 'tx'>, contactId: Id<'contact'> | null): Promise<boolean> {
  if (!contactId) return false;
  const row = await work.tx('contact').where({ id: contactId }).first('priority');
  return row?.priority ?? false;
}

/** Decides kind, impact, urgency and desk of an unsorted ticket; it is routed from then on. */
export async function triageTicket(
  work: Work,
  book: HouseBook,
  { ticketId, version, triage }: { readonly ticketId: Id<'ticket'>; readonly version: number | undefined; readonly triage: Triage },
): Promise<Outcome<{ id: Id<'ticket'>; version: number; assignee: string | null }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.kind !== 'unsorted') return refuse('not-possible-now', `Ticket ${ticket.number} was sorted already, as ${ticket.kind}.`);
  const member = await refuseMember(work, ticket);
  if (member) return member;
  if (!book.kindRule(triage.kind).offered)
    return refuse('invalid', `Tickets of the kind ${triage.kind} are not offered any more.`, { kind: 'a kind that is offered' });
  const desk = await work.tx('desk').where({ id: triage.deskId }).first();
  if (!desk) return refuse('invalid', 'There is no such desk.', { deskId: 'choose one of the desks' });
  const line = await work.tx('desk_line').where({ desk_id: triage.deskId, line: triage.line }).first('line');
  if (!line) return refuse('invalid', `Nobody staffs the ${triage.line} line of ${desk.name}.`, { line: 'a line that is staffed' });
  const fee = await work.tx('ticket_fee').where({ ticket_id: ticketId }).first('fee_id');
  if (fee && triage.kind !== 'flat-fee job')
    return refuse('invalid', 'A flat fee was chosen for it. Take that off first, or sort it as a flat-fee job.', { kind: 'flat-fee job' });
  const category = await work.tx('category').where({ id: triage.categoryId }).whereNull('archived_at').first('name');
  if (!category) return refuse('invalid', 'There is no such category.', { categoryId: 'choose one of the categories' });
  const clientId = triage.clientId ?? ticket.client_id;
  if (!clientId) return refuse('invalid', 'Say whose ticket this is before it is routed.', { clientId: 'choose the client' });
  const mismatch = await wrongOwner(work, { clientId, contactId: triage.contactId ?? ticket.contact_id, assetId: triage.assetId });
  if (mismatch) return mismatch;
  const contactId = triage.contactId ?? ticket.contact_id;
  const { priority } = priorityOf({
    matrix: book.house.tickets.matrix,
    impact: triage.impact,
    urgency: triage.urgency,
    priorityContact: await isPriorityContact(work, contactId),
  });
  const fields = await readFields(work, book, { on: 'ticket', given: triage.fields ?? [], was: ticket.fields, clientId });
  if (isRefusal(fields)) return fields;
  const own = await ownKindOf(work, triage.ownKindId ?? null, triage.kind);
  if (isRefusal(own)) return own;
  const routed = {
    ...ticket,
    kind: triage.kind,
    own_kind_id: own?.id ?? null,
    category_id: triage.categoryId,
    line: triage.line,
    impact: triage.impact,
    urgency: triage.urgency,
    priority,
    desk_id: triage.deskId,
    client_id: clientId,
    asset_id: triage.assetId,
    fields,
  };
  const missing = refuseMissing(book, { on: 'ticket', facts: conditionFacts(routed, 0), moment: 'opening' });
  if (missing) return missing;
  const { personId, why } = triage.assigneeId
    ? { personId: triage.assigneeId, why: [] }
    : await assignByLine(work.tx, book, {
        now: work.now,
        question: { deskId: triage.deskId, line: triage.line, categoryId: triage.categoryId, clientId },
      });
  const changed = await changeRow(work, {
    table: 'ticket',
    id: ticketId,
    version,
    set: {
      kind: triage.kind,
      own_kind_id: own?.id ?? null,
      category_id: triage.categoryId,
      line: triage.line,
      impact: triage.impact,
      urgency: triage.urgency,
      priority,
      desk_id: triage.deskId,
      client_id: clientId,
      contact_id: contactId,
      asset_id: triage.assetId,
      assignee_id: personId,
      status: 'queued',
      fields: JSON.stringify(fields),
    },
  });
  if (isRefusal(changed)) return changed;
  await followOwner(work, book, {
    ticketId,
    promiseVersionId: ticket.promise_version_id,
    from: { clientId: ticket.client_id, kind: ticket.kind },
    to: { clientId, kind: triage.kind },
  });
  await addFacts(work, ticketId, [
    { at: work.now, is: 'priority', priority },
    { at: work.now, is: 'routed' },
  ]);
  await oweFirstReply(work, ticketId);
  await storeClocks(work, book, { ticketId });
  const person = personId ? await work.tx('person').where({ id: personId }).first('name') : undefined;
  await work.tell('ticket.routed', ticketId, {
    deskId: triage.deskId,
    desk: desk.name,
    kind: triage.kind,
    ownKind: own?.name ?? null,
    categoryId: triage.categoryId,
    category: category.name,
    priority: [ticket.priority, priority],
    assigneeId: personId,
    assignee: person?.name ?? null,
    why,
  });
  if (personId && personId !== triage.assigneeId && personId !== work.actor.personId)
    await tellPerson(work, { personId, text: `#${ticket.number} ${ticket.subject} was routed to you`, ticketId });
  return { ...changed, assignee: person?.name ?? null };
}

/** Undo of a triage: the ticket is unsorted again, and its clocks are as if it had not been routed. */
export async function untriageTicket(
  work: Work,
  book: HouseBook,
  { ticketId, version }: { readonly ticketId: Id<'ticket'>; readonly version: number },
): Promise<Done> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('kind', 'status');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.kind === 'unsorted' || ticket.status !== 'queued')
    return refuse('not-possible-now', 'Work on this ticket went on; change its desk or kind instead.');
  const changed = await changeRow(work, {
    table: 'ticket',
    id: ticketId,
    version,
    set: {
      kind: 'unsorted',
      own_kind_id: null,
      category_id: null,
      line: null,
      impact: null,
      urgency: null,
      priority: null,
      desk_id: null,
      assignee_id: null,
      status: 'new',
      reply_owed_since: null,
      reply_owed_by: null,
    },
  });
  if (isRefusal(changed)) return changed;
  await takeBackFact(work, ticketId, 'routed');
  await takeBackFact(work, ticketId, 'priority');
  await storeClocks(work, book, { ticketId });
  await work.tell('ticket.triage-taken-back', ticketId, {});
  return changed;
}

/** Closes an unsorted ticket that asks for nothing, or brings it back. */
export async function setNotWork(
  work: Work,
  book: HouseBook,
  { ticketId, version, notWork }: { readonly ticketId: Id<'ticket'>; readonly version: number; readonly notWork: boolean },
): Promise<Done> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('kind', 'status', 'outcome', 'umbrella_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const member = await refuseMember(work, ticket);
  if (member) return member;
  if (notWork && (ticket.kind !== 'unsorted' || ticket.status === 'closed'))
    return refuse('not-possible-now', 'Only an unsorted ticket can be marked as not work.');
  if (!notWork && ticket.outcome !== 'not work') return refuse('not-possible-now', 'This ticket was not marked as not work.');
  const set = notWork
    ? { status: 'closed', outcome: 'not work', closed_at: new Date(work.now * 1000) }
    : { status: 'new', outcome: null, closed_at: null };
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set });
  if (isRefusal(changed)) return changed;
  if (notWork) await addFacts(work, ticketId, [{ at: work.now, is: 'resolved' }] satisfies ClockFact[]);
  else await takeBackFact(work, ticketId, 'resolved');
  await storeClocks(work, book, { ticketId });
  await work.tell('ticket.not-work-set', ticketId, { notWork });
  return changed;
}

/** Contact and asset must be the client's own. */
export async function wrongOwner(
  work: Work,
  {
    clientId,
    contactId,
    assetId,
  }: {
    readonly clientId: Id<'client'>;
    readonly contactId: Id<'contact'> | null | undefined;
    readonly assetId: Id<'asset'> | null | undefined;
  },
): Promise<Outcome<never> | undefined> {
  if (contactId) {
    const contact = await work.tx('contact').where({ id: contactId }).first('client_id', 'name');
    if (contact?.client_id !== clientId)
      return refuse('invalid', 'The contact is not of this client.', { contactId: 'choose a contact of the client' });
  }
  if (assetId) {
    const asset = await work.tx('asset').where({ id: assetId }).first('client_id');
    if (asset?.client_id !== clientId)
      return refuse('invalid', 'The asset is not of this client.', { assetId: 'choose an asset of the client' });
  }
  return undefined;
}
