import type { FoundContactWire } from '@core/clients';
import type { Db } from '../../app/database';

const MOST = 8;
/** Fewer figures of a phone number fit too many people. */
const LEAST_FIGURES = 3;
const NUMBER = /^[\d\s+()/.-]+$/;

/** Contacts that what is typed fits: by every word of it in name, address or client, or by figures of the phone number. */
export async function findContacts(db: Db, typed: string): Promise<FoundContactWire[]> {
  const words = typed.split(/\s+/).slice(0, 5);
  const figures = NUMBER.test(typed) ? typed.replace(/\D/g, '') : '';
  const rows = await db('contact as k')
    .join('client as c', 'c.id', 'k.client_id')
    .whereNull('k.archived_at')
    .whereNull('c.archived_at')
    .where((w) => {
      void w.where((all) => {
        for (const word of words)
          void all.whereRaw(`k.name || ' ' || k.email || ' ' || c.name ilike ?`, [`%${word.replace(/[%_\\]/g, '\\$&')}%`]);
      });
      if (figures.length >= LEAST_FIGURES)
        void w.orWhereRaw(`regexp_replace(coalesce(k.phone, ''), '\\D', '', 'g') like ?`, [`%${figures}%`]);
    })
    .orderByRaw('similarity(k.name, ?) desc, k.name, k.id', [typed])
    .limit(MOST)
    .select('k.id', 'k.name', 'k.title', 'k.email', 'k.phone', 'k.client_id', 'c.name as client');
  return rows.map(({ client_id: clientId, ...k }) => ({ ...k, clientId }));
}
