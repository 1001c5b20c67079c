import { type Id, type Outcome, refuse } from '@core/ground';
import type { OwnStatus, Status } from '@core/desk';
import type { Work } from '../../app/work';

/** The status under the house's own name that was asked for; it must stand for the status asked for. */
export async function ownStatusOf(work: Work, id: Id<'own_status'> | null, to: Status): Promise<Outcome<OwnStatus | undefined>> {
  if (!id) return undefined;
  const row = await work.tx('own_status').where({ id }).whereNull('archived_at').first();
  if (!row) return refuse('invalid', 'There is no such status.', { ownStatusId: 'choose one of the statuses' });
  if (row.stands_for !== to)
    return refuse('invalid', `${row.name} stands for ${row.stands_for}, not ${to}.`, { ownStatusId: `one that stands for ${to}` });
  return { id, name: row.name, standsFor: row.stands_for, waitsFor: row.waits_for };
}
