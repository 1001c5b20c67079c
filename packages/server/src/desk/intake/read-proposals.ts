import { type Explanation, type Id, type Outcome, refuse, step } from '@core/ground';
import { type Ballot, clearerSubject, findSignature, ownWords, type Proposals, vote } from '@core/desk';
import type { Db } from '../../app/database';
import { likeTickets, type LikeTicket } from '../tickets/like-tickets';
import { readSameCause } from './read-same-cause';

interface Unsorted {
  readonly id: Id<'ticket'>;
  readonly subject: string;
  readonly text: string;
  readonly clientId: Id<'client'> | null;
  readonly contactId: Id<'contact'> | null;
  readonly senderEmail: string | null;
  readonly hasFee: boolean;
  /** What the request form says that it came by. */
  readonly form: { readonly kind: Proposals['kind']; readonly category: Proposal } | null;
}

type Proposal = Proposals['client'];

/** What Drumline thinks of a ticket: from its sender, its signature, the assets it names and like tickets of the past. */
export async function readProposals(db: Db, ticketId: Id<'ticket'>): Promise<Outcome<Proposals>> {
  const t = await readUnsorted(db, ticketId);
  if (!t) return refuse('not-found', 'There is no such ticket.');
  const asset = await namedAsset(db, t);
  const client = t.clientId ? null : ((await clientByDomain(db, t)) ?? asset?.client ?? null);
  const clientId = t.clientId ?? client?.value ?? null;
  const likes = await likeTickets(db, { ticketId, subject: t.subject, text: t.text, most: 12 });
  const subject = clearerSubject(t.subject, t.text);
  return {
    client,
    contact: t.contactId ? null : await signer(db, t, clientId),
    asset: asset && (!clientId || asset.clientId === clientId) ? asset.proposal : null,
    category: t.form?.category ?? elected(likes, (l) => (l.category_id ? { value: l.category_id, label: l.category! } : undefined)),
    desk: elected(likes, (l) => (l.desk_id ? { value: l.desk_id, label: l.desk! } : undefined)),
    kind: t.hasFee ? { value: 'flat-fee job', sure: true, why: [step('a flat fee was chosen for it')] } : (t.form?.kind ?? kindOf(likes)),
    subject:
      subject === undefined
        ? null
        : { value: subject, why: [step('the subject says little; this is the first sentence that tells something')] },
    sameCause: await readSameCause(db, ticketId),
  };
}

async function readUnsorted(db: Db, ticketId: Id<'ticket'>): Promise<Unsorted | undefined> {
  const t = await db('ticket').where({ id: ticketId }).first('id', 'subject', 'client_id', 'contact_id', 'sender_email', 'request_form_id');
  if (!t) return undefined;
  const first = await db('message').where({ ticket_id: ticketId }).orderBy('at').first('text');
  return {
    id: t.id,
    subject: t.subject,
    text: ownWords(first?.text ?? ''),
    clientId: t.client_id,
    contactId: t.contact_id,
    senderEmail: t.sender_email,
    form: t.request_form_id ? await readForm(db, t.request_form_id) : null,
    hasFee: Boolean(await db('ticket_fee').where({ ticket_id: ticketId }).first('fee_id')),
  };
}

async function readForm(db: Db, formId: Id<'request_form'>): Promise<Unsorted['form']> {
  const f = await db('request_form as f')
    .leftJoin('category as c', 'c.id', 'f.category_id')
    .where('f.id', formId)
    .first('f.name', 'f.kind', 'f.category_id', 'c.name as category');
  const why = [step('it came by the request form', f.name)];
  return {
    kind: f.kind ? { value: f.kind, sure: true, why } : null,
    category: f.category_id ? { value: f.category_id, label: f.category, sure: true, why } : null,
  };
}

async function clientByDomain(db: Db, t: Unsorted): Promise<Proposal> {
  const domain = t.senderEmail?.split('@')[1];
  if (!domain) return null;
  const client = await db('client').whereRaw('domains @> array[?]', [domain]).whereNull('archived_at').first('id', 'name');
  return client
    ? {
        value: client.id,
        label: client.name,
        sure: false,
        why: [step(`mail from ${domain} is of this client`), step('the sender is none of its contacts')],
      }
    : null;
}

const NUMBER = /\b[A-Z]{2,4}-[A-Z0-9]{2,5}-\d{1,5}\b/g;

/** An asset whose number stands in the subject or the text. */
async function namedAsset(db: Db, t: Unsorted): Promise<{ proposal: Proposal; clientId: Id<'client'>; client: Proposal } | undefined> {
  const numbers = [...new Set(`${t.subject} ${t.text}`.toUpperCase().match(NUMBER) ?? [])].slice(0, 10);
  if (!numbers.length) return undefined;
  const rows = await db('asset as a')
    .join('client as c', 'c.id', 'a.client_id')
    .whereIn('a.number', numbers)
    .whereNull('a.archived_at')
    .select('a.id', 'a.number', 'a.name', 'a.client_id', 'c.name as client');
  const [asset] = rows;
  if (!asset) return undefined;
  const why = [step('its number stands in the message', asset.number)];
  return {
    proposal: { value: asset.id, label: `${asset.number} ${asset.name}`, sure: rows.length === 1, why },
    clientId: asset.client_id,
    client: { value: asset.client_id, label: asset.client, sure: false, why: [...why, step('the asset is theirs')] },
  };
}

/** Who of the client's people signed the message; without a client, anybody whose full name or number stands there. */
async function signer(db: Db, t: Unsorted, clientId: Id<'client'> | null): Promise<Proposal> {
  const people = clientId
    ? await db('contact').where({ client_id: clientId, placeholder: false }).whereNull('archived_at').select('id', 'name', 'phone')
    : [];
  const signed = findSignature(t.text, people);
  if (!signed) return null;
  const person = people.find((p) => p.id === signed.id)!;
  return { value: person.id, label: person.name, sure: false, why: [step(`the message is signed with their ${signed.by}`)] };
}

function elected(likes: readonly LikeTicket[], of: (like: LikeTicket) => { value: string; label: string } | undefined): Proposal {
  const cast = likes.map((like) => ({ like, named: of(like) })).filter((c) => c.named !== undefined);
  const winner = vote(cast.map((c): Ballot => ({ value: c.named!.value, likeness: c.like.likeness })));
  if (!winner) return null;
  const spoke = cast.filter((c) => c.named!.value === winner.value);
  return {
    value: winner.value,
    label: spoke[0]!.named!.label,
    sure: winner.sure,
    why: whyElected(
      winner,
      spoke.map((c) => c.like),
    ),
  };
}

function kindOf(likes: readonly LikeTicket[]): Proposals['kind'] {
  const winner = vote(likes.map((l) => ({ value: l.kind, likeness: l.likeness })));
  if (!winner) return null;
  const spoke = likes.filter((l) => l.kind === winner.value);
  return { value: spoke[0]!.kind, sure: winner.sure, why: whyElected(winner, spoke) };
}

function whyElected(winner: { percent: number; votes: number; of: number }, spoke: readonly LikeTicket[]): Explanation {
  return [
    step(`of ${winner.of} like tickets`, `${winner.votes} had it`),
    step('their share, each by how like it is', `${winner.percent} %`),
    ...spoke.slice(0, 3).map((l) => step(`#${l.number}`, l.subject)),
  ];
}
