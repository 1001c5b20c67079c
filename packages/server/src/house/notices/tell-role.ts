import type { AccessRole, Id } from '@core/ground';
import type { Work } from '../../app/work';
import { tellPerson } from './tell-person';

/** Tells everybody who has a role in a division, whatever they are elsewhere. */
export async function tellRole(
  work: Work,
  { role, divisionId, text }: { readonly role: AccessRole; readonly divisionId: Id<'division'>; readonly text: string },
): Promise<void> {
  const people: Id<'person'>[] = await work
    .tx('person as p')
    .leftJoin('person_access as a', (on) => void on.on('a.person_id', 'p.id').andOnVal('a.division_id', divisionId))
    .where('p.active', true)
    // An exception without a role is no access there.
    .whereRaw('case when a.division_id is null then p.role else a.role end = ?', [role])
    .orderBy('p.name')
    .pluck('p.id');
  for (const personId of people) await tellPerson(work, { personId, text, ticketId: null });
}
