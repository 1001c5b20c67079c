import {
  type AllowanceForm,
  type ContractForm,
  type CoverRuleForm,
  MOST_OF_CONTRACT,
  type NewContract,
  PRESET_PARTS,
  sayUnits,
  USUAL_LINE,
} from '@core/contracts';
import { changesOf, type Id, isRefusal, type Outcome, parseLocalDate, plusDays, refuse } from '@core/ground';
import { at } from '../../app/database';
import { changeRow } from '../../app/change-row';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { addBlock } from './contract-grants';
import { addLine, endsOn, refuseFull } from './contract-lines';
import { unitsOf } from './typed-units';

/** What a preset asks for, in words. */
const ASKED = { grant: 'how much work it holds', price: 'the price of a month, or of its first block' } as const;

type Changed = Outcome<{ id: string; version: number }>;

/** Draws a contract up from a preset, which only fills in. */
export async function createContract(work: Work, form: NewContract): Promise<Changed> {
  const { allowance, covers, line, asks } = PRESET_PARTS[form.preset];
  const missing = asks.filter((asked) => form[asked] === null);
  if (missing.length)
    return refuse(
      'invalid',
      `With "${form.preset}" say ${missing.map((m) => ASKED[m]).join(' and ')}.`,
      Object.fromEntries(missing.map((m) => [m, `say ${ASKED[m]}`])),
    );
  const client = await work.tx('client').where({ id: form.clientId }).whereNull('archived_at').first('division_id');
  if (!client) return refuse('invalid', 'There is no such client.', { clientId: 'choose a client' });
  const to = endsOn(form.startsOn, form.lastDay);
  if (isRefusal(to)) return to;
  const [contract] = await work
    .tx('contract')
    .insert({
      client_id: form.clientId,
      division_id: client.division_id,
      name: form.name,
      made_at: at(work.now),
      starts_on: form.startsOn,
      ends_on: to,
    })
    .returning(['id', 'version']);
  const { id } = contract!;
  await work.tell('contract.drawn-up', id, { name: form.name, preset: form.preset });
  if (allowance && covers) {
    // What is prepaid is bought in blocks.
    const grant = allowance.measure === 'unlimited' || allowance.each === 'once' ? '0' : form.grant!;
    const usual = { granted: 'whole', carryDays: 0, borrowPercent: 0 } as const;
    const added = await addAllowance(work, id, { ...allowance, ...usual, grant });
    if (isRefusal(added)) return added;
    const all = { id: null, gradeIds: [], activityIds: [], bands: [], deskIds: [], kinds: [], startsOn: null, lastDay: null };
    const set = await storeCover(work, id, [{ ...all, cap: null, overageFactor: null, ...covers, allowanceId: added.id }]);
    if (isRefusal(set)) return set;
    if (allowance.each === 'once') {
      const block = { grant: form.grant!, price: form.price!, startsOn: form.startsOn, lastDay: form.lastDay };
      const sold = await addBlock(work, { contractId: id, allowanceId: added.id }, block);
      if (isRefusal(sold)) return sold;
    }
  }
  if (!line) return contract!;
  const added = await addLine(work, id, { ...USUAL_LINE, ...line, price: form.price!, startsOn: form.startsOn });
  return isRefusal(added) ? added : contract!;
}

export async function editContract(
  work: Work,
  { contractId, version }: { readonly contractId: Id<'contract'>; readonly version: number },
  form: ContractForm,
): Promise<Changed> {
  const was = await work.tx('contract').where({ id: contractId }).first();
  if (!was) return refuse('not-found', 'There is no such contract.');
  const to = endsOn(form.startsOn, form.lastDay);
  if (isRefusal(to)) return to;
  const set = {
    name: form.name,
    starts_on: form.startsOn,
    ends_on: to,
    is_preferred: form.preferred,
    purchase_order: form.purchaseOrder,
    notes: form.notes,
    frequency: form.frequency,
    anchored: form.anchored,
    overage_factor: form.overageFactor,
    renewal: form.renewal,
    term_months: form.termMonths,
    notice_days: form.noticeDays,
  };
  const changed = await changeRow(work, { table: 'contract', id: contractId, version, set });
  if (isRefusal(changed)) return changed;
  const changes = changesOf({ ...was, overage_factor: plainDecimal(was.overage_factor) }, set);
  await work.tell('contract.changed', contractId, { changes });
  return changed;
}

export async function agreeContract(
  work: Work,
  { contractId, version }: { readonly contractId: Id<'contract'>; readonly version: number },
): Promise<Changed> {
  const contract = await work.tx('contract').where({ id: contractId }).first('agreed_at', 'starts_on');
  if (!contract) return refuse('not-found', 'There is no such contract.');
  if (contract.agreed_at !== null) return refuse('not-possible-now', 'It is agreed already.');
  const changed = await changeRow(work, { table: 'contract', id: contractId, version, set: { agreed_at: at(work.now) } });
  if (!isRefusal(changed)) await work.tell('contract.agreed', contractId, { from: contract.starts_on });
  return changed;
}

export async function addAllowance(
  work: Work,
  contractId: Id<'contract'>,
  form: AllowanceForm,
): Promise<Outcome<{ id: Id<'contract_allowance'> }>> {
  if (!(await work.tx('contract').where({ id: contractId }).first('id'))) return refuse('not-found', 'There is no such contract.');
  const columns = allowanceColumns(work, form);
  if (isRefusal(columns)) return columns;
  const full = await refuseFull(work, { table: 'contract_allowance', contractId, most: MOST_OF_CONTRACT.allowances });
  if (full) return full;
  const position = work.tx.raw('(select count(*) from contract_allowance where contract_id = ?)', [contractId]);
  const [row] = await work
    .tx('contract_allowance')
    .insert({ contract_id: contractId, position, ...columns })
    .returning('id');
  await work.tell('contract.allowance-added', contractId, { name: form.name, says: says(work, columns) });
  return row!;
}

/** Changes an allowance; who changes one has seen the contract as it is. */
export async function editAllowance(
  work: Work,
  {
    contractId,
    allowanceId,
    version,
  }: { readonly contractId: Id<'contract'>; readonly allowanceId: Id<'contract_allowance'>; readonly version: number },
  form: AllowanceForm,
): Promise<Changed> {
  const columns = allowanceColumns(work, form);
  if (isRefusal(columns)) return columns;
  const changed = await changeRow(work, { table: 'contract', id: contractId, version, set: {} });
  if (isRefusal(changed)) return changed;
  const [row] = await work
    .tx('contract_allowance')
    .where({ id: allowanceId, contract_id: contractId })
    .update({ ...columns })
    .returning('id');
  if (!row) return refuse('not-found', 'There is no such allowance on this contract.');
  await work.tell('contract.allowance-changed', contractId, { name: form.name, says: says(work, columns) });
  return changed;
}

type AllowanceColumns = Pick<
  Row<'contract_allowance'>,
  'name' | 'measure' | 'granted_units' | 'each' | 'granted' | 'carry_days' | 'borrow_percent'
>;

function allowanceColumns(work: Work, form: AllowanceForm): Outcome<AllowanceColumns> {
  const grant = unitsOf(work, form.measure, form.grant);
  if (isRefusal(grant)) return grant;
  return {
    name: form.name,
    measure: form.measure,
    granted_units: grant.units,
    each: form.each,
    granted: form.granted,
    carry_days: form.carryDays,
    borrow_percent: form.borrowPercent,
  };
}

function says(work: Work, { measure, granted_units, each }: AllowanceColumns): string {
  if (each === 'once' && granted_units === 0) return 'bought in blocks';
  return `${sayUnits(measure, granted_units, work.book.house.currency)} ${each}`;
}

export async function setCover(
  work: Work,
  { contractId, version }: { readonly contractId: Id<'contract'>; readonly version: number },
  rules: readonly CoverRuleForm[],
): Promise<Changed> {
  const changed = await changeRow(work, { table: 'contract', id: contractId, version, set: {} });
  if (isRefusal(changed)) return changed;
  const stored = await storeCover(work, contractId, rules);
  return isRefusal(stored) ? stored : changed;
}

/** The rules in their order; one that was there keeps its id wherever it stands, as what was drawn under it names it. */
async function storeCover(work: Work, contractId: Id<'contract'>, rules: readonly CoverRuleForm[]): Promise<Outcome<{ rules: number }>> {
  const allowances: Row<'contract_allowance'>[] = await work.tx('contract_allowance').where({ contract_id: contractId });
  const rows = [];
  for (const [position, rule] of rules.entries()) {
    if (rule.startsOn !== null && rule.lastDay !== null && rule.lastDay < rule.startsOn)
      return refuse('invalid', `Its last day, ${rule.lastDay}, is before its first, ${rule.startsOn}.`, {
        [`rules.${position}.lastDay`]: `${rule.startsOn} or later`,
      });
    const allowance = allowances.find((a) => a.id === rule.allowanceId);
    if (rule.allowanceId !== null && !allowance)
      return refuse('invalid', 'There is no such allowance on this contract.', {
        [`rules.${position}.allowanceId`]: 'one of its allowances',
      });
    const cap = rule.cap === null ? null : unitsOf(work, allowance?.measure === 'money' ? 'money' : 'hours', rule.cap);
    if (isRefusal(cap)) return cap;
    const some = <T>(all: readonly T[]) => (all.length ? all : null);
    rows.push({
      contract_id: contractId,
      position,
      grade_ids: some(rule.gradeIds),
      activity_ids: some(rule.activityIds),
      bands: some(rule.bands),
      desk_ids: some(rule.deskIds),
      kinds: some(rule.kinds),
      from_on: rule.startsOn === null ? null : parseLocalDate(rule.startsOn),
      to_on: rule.lastDay === null ? null : plusDays(parseLocalDate(rule.lastDay), 1),
      allowance_id: rule.allowanceId,
      cap_units: cap?.units ?? null,
      overage_factor: rule.overageFactor,
      includes_fees: rule.includesFees,
    });
  }
  const stands: string[] = await work.tx('contract_cover').where({ contract_id: contractId }).pluck('id');
  const kept = rules.map(({ id }) => id).filter((id) => id !== null);
  const strange = rules.findIndex(({ id }) => id !== null && !stands.includes(id));
  if (strange >= 0 || new Set(kept).size < kept.length)
    return refuse('invalid', 'A rule is named that this contract does not have, or one twice.', {
      [`rules.${Math.max(0, strange)}.id`]: 'one of its rules, once',
    });
  await work.tx('contract_cover').where({ contract_id: contractId }).delete();
  if (rows.length)
    await work.tx('contract_cover').insert(rows.map((row, n) => ({ ...(rules[n]!.id === null ? {} : { id: rules[n]!.id }), ...row })));
  await work.tell('contract.cover-set', contractId, { rules: rows.length });
  return { rules: rows.length };
}
