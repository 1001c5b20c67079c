import { type AccessForm, type DivisionForm, divisionRoutes, type DivisionWire } from '@core/house';
import { holds, type Id, isRefusal, type Outcome, reachOf, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { EXCEPTIONS } from '../access/identify';

/** Somebody's access role, and their exceptions by division. */
type AccessRow = Row<'person', 'id' | 'name' | 'role'> & { readonly exceptions: AccessForm['exceptions'] };

export function bindDivisions(app: App) {
  return bindRoutes(app, divisionRoutes, {
    listDivisions: async ({ db }) => ({ divisions: await listDivisions(db) }),
    editDivision: ({ work, params, version, body }) => editDivision(work, { id: params.divisionId, version, form: body }),
    listAccess: async ({ db }) => {
      const rows: AccessRow[] = await db('person as p')
        .where({ 'p.active': true })
        .orderBy('p.name')
        .select('p.id', 'p.name', 'p.role', db.raw(EXCEPTIONS));
      return { people: rows.map((p) => ({ personId: p.id, name: p.name, role: p.role, exceptions: p.exceptions })) };
    },
    setAccess: ({ work, params, body }) => setAccess(work, params.personId, body),
  });
}

async function listDivisions(db: Db): Promise<DivisionWire[]> {
  const rows: Row<'division'>[] = await db('division').orderBy('name');
  const series: Row<'invoice_series', 'division_id' | 'prefix'>[] = await db('invoice_series')
    .orderBy('prefix')
    .select('division_id', 'prefix');
  return rows.map((d) => ({
    id: d.id,
    version: d.version,
    name: d.name,
    brand: d.brand,
    mailFrom: d.mail_from,
    labourTaxPercent: d.labour_tax?.percent ?? null,
    series: series.filter((s) => s.division_id === d.id).map((s) => s.prefix),
  }));
}

async function editDivision(
  work: Work,
  { id, version, form }: { readonly id: string; readonly version: number; readonly form: DivisionForm },
): Promise<Outcome<{ id: string; version: number }>> {
  const other = async (set: Record<string, string>) => work.tx('division').where(set).whereNot({ id }).first('name');
  if (await other({ name: form.name }))
    return refuse('invalid', `There is a division called ${form.name} already.`, { name: 'another name' });
  const taken = form.mailFrom && (await other({ mail_from: form.mailFrom }));
  if (taken) return refuse('invalid', `${form.mailFrom} is the address of ${taken.name}.`, { mailFrom: 'an address of its own' });
  const percent = form.labourTaxPercent;
  const set = {
    name: form.name,
    brand: form.brand,
    mail_from: form.mailFrom,
    labour_tax: percent === null ? null : JSON.stringify({ category: Number(percent) > 0 ? 'S' : 'Z', percent }),
  };
  const changed = await changeRow(work, { table: 'division', id, version, set });
  if (!isRefusal(changed)) await work.tell('setup.changed', id, { record: 'division', name: form.name });
  return changed;
}

/** Nobody locks themselves out: one's own access is set by somebody else. */
async function setAccess(work: Work, personId: Id<'person'>, { role, exceptions }: AccessForm): Promise<Outcome<{ id: string }>> {
  if (personId === work.actor.personId) return refuse('not-allowed', 'Your own access is set by somebody else.');
  const person = await work.tx('person').where({ id: personId, active: true }).forUpdate().first('id');
  if (!person) return refuse('not-found', 'There is no such person.');
  const divisions: Row<'division', 'id' | 'name'>[] = await work.tx('division').select('id', 'name');
  const names = new Map(divisions.map((d) => [d.id, d.name]));
  for (const [n, { divisionId }] of exceptions.entries())
    if (!names.has(divisionId) || exceptions.findIndex((e) => e.divisionId === divisionId) !== n)
      return refuse('invalid', 'Each division is named once.', { [`exceptions[${n}].divisionId`]: 'one of the divisions, once' });
  const kept = exceptions.filter((e) => e.role !== role);
  await work.tx('person').where({ id: personId }).update({ role });
  await work.tx('person_access').where({ person_id: personId }).delete();
  if (kept.length)
    await work.tx('person_access').insert(kept.map((e) => ({ person_id: personId, division_id: e.divisionId, role: e.role })));
  if (!(await somebodySetsUp(work, [...names.keys()])))
    return refuse('not-possible-now', 'Nobody could change Setup any more. Somebody keeps a role everywhere that can.', {
      role: 'service manager or administrator',
    });
  await work.tell('person.access-set', personId, {
    role,
    exceptions: kept.map((e) => ({ division: names.get(e.divisionId)!, role: e.role })),
  });
  await work.emit('access', personId);
  return { id: personId };
}

async function somebodySetsUp(work: Work, divisionIds: readonly Id<'division'>[]): Promise<boolean> {
  const people: Omit<AccessRow, 'id' | 'name'>[] = await work
    .tx('person as p')
    .where({ 'p.active': true })
    .select('p.role', work.tx.raw(EXCEPTIONS));
  return people.some((p) => holds(p.role, 'setup.edit') && reachOf(p, 'setup.edit', divisionIds).is === 'everywhere');
}
