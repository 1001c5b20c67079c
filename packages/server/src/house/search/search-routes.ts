import { type AccessRole, holds } from '@core/ground';
import { searchRoutes, type HitWire } from '@core/house';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import type { Db } from '../../app/database';
import { searchTickets } from './search-tickets';

const EACH = 6;

export function bindSearch(app: App) {
  return bindRoutes(app, searchRoutes, {
    search: async ({ db, query, actor }) => {
      const hits = await find(db, query.q, actor.role!);
      return { hits, count: hits.length };
    },
  });
}

/** What the words fit, of what the role may see; numbers find the exact ticket first. */
async function find(db: Db, typed: string, role: AccessRole): Promise<HitWire[]> {
  const q = typed.trim().replace(/^#/, '');
  const like = `%${q.replace(/[%_\\]/g, '\\$&')}%`;
  const number = /^\d{1,9}$/.test(q) ? Number(q) : -1;
  const [tickets, clients, contacts, assets, items, invoices] = await Promise.all([
    searchTickets(db, q, EACH),
    db('client')
      .whereNull('archived_at')
      .where((w) => void w.whereRaw('name ilike ?', [like]).orWhere('number', number))
      .limit(EACH)
      .select('id', 'name', 'number'),
    db('contact as k')
      .join('client as c', 'c.id', 'k.client_id')
      .whereNull('k.archived_at')
      .where((w) => void w.whereRaw('k.name ilike ?', [like]).orWhereRaw('k.email ilike ?', [like]))
      .limit(EACH)
      .select('k.name', 'k.email', 'c.id', 'c.name as client', 'k.id as contact_id'),
    db('asset as a')
      .join('client as c', 'c.id', 'a.client_id')
      .whereNull('a.archived_at')
      .whereRaw(`(a.number || ' ' || a.name) ilike ?`, [like])
      .limit(EACH)
      .select('a.id', 'a.number', 'a.name', 'c.name as client'),
    db('catalogue_item')
      .whereNull('archived_at')
      .where((w) => void w.whereRaw('name ilike ?', [like]).orWhereRaw('number ilike ?', [like]))
      .limit(EACH)
      .select('id', 'number', 'name'),
    holds(role, 'invoices.read')
      ? db('invoice as i')
          .join('client as c', 'c.id', 'i.client_id')
          .whereRaw('i.number ilike ?', [like])
          .limit(EACH)
          .select('i.id', 'i.number', 'c.name as client')
      : [],
  ]);
  return [
    ...tickets.map((t): HitWire => ({
      kind: 'ticket',
      id: t.id,
      title: `#${t.number} ${t.subject}`,
      detail: [t.client, t.status].filter(Boolean).join(' · '),
      link: `/tickets/${t.id}`,
    })),
    ...clients.map((c): HitWire => ({ kind: 'client', id: c.id, title: c.name, detail: `client ${c.number}`, link: `/clients/${c.id}` })),
    ...contacts.map((k): HitWire => ({
      kind: 'contact',
      id: k.contact_id,
      title: k.name,
      detail: `${k.client} · ${k.email}`,
      link: `/clients/${k.id}`,
    })),
    ...assets.map((a): HitWire => ({ kind: 'asset', id: a.id, title: `${a.number} ${a.name}`, detail: a.client, link: `/assets/${a.id}` })),
    ...items.map((i): HitWire => ({ kind: 'item', id: i.id, title: i.name, detail: i.number, link: `/catalogue/${i.id}` })),
    ...invoices.map((i): HitWire => ({ kind: 'invoice', id: i.id, title: i.number, detail: i.client, link: `/billing/${i.id}` })),
  ];
}
